import type { Project } from '@/core/document/model';
import { framesOfSound, newSound, type Sound, type SoundChange, sampleOfFrame } from '@/core/document/sound';
import type { Step } from '@/core/edit/step';
import { itemsAfter } from '@/core/editorial/itemsAfter';
import { keyOf } from '@/core/editorial/matching';
import { type EditorialTimeline, type PlacedClip, placedClips } from '@/core/format/editorial';
import { placedShots } from '@/core/reel/reel';
import { everySound, type ReelSound, soundsOfReel } from '@/core/reel/sounds';
import { plural } from '@/core/time/counts';
import type { Rate } from '@/core/time/rate';

/*
 * The sounds of a timeline that comes back, held against those of the reel. A sound of a shot goes where its shot goes: so they
 * are compared as they lie once everything else of the timeline is taken, and what is left is a sound that was moved by itself.
 */

/** A difference in what is heard, in words; `step` takes it, and is null where it can only be told. */
export type SoundDifference = { readonly id: string; readonly words: string; readonly step: ((newId: () => string) => Step) | null };

/** The reel as everything but the sounds of a timeline would make it. */
function reelAfter(project: Project, timeline: EditorialTimeline): Project {
  let made = 0;
  const items = itemsAfter(
    project,
    timeline,
    () => true,
    () => `made${++made}`,
  );
  return { ...project, reel: { ...project.reel, items } };
}

/** How many samples of a sound are heard on so many frames, as far as its recording has them. */
function samplesFor(sound: Sound, frames: number, rate: Rate): number {
  const { samples, sampleRate } = sound.recording;
  const wanted = Math.min(samples - sound.fromSample, sampleOfFrame(frames, rate, sampleRate));
  // A frame that is touched by one sample counts whole.
  return framesOfSound({ ...sound, samples: wanted }, rate) > frames ? wanted - 1 : wanted;
}

/** What somebody would have to know to put it right by hand, or nothing. */
type Change = { readonly words: string; readonly change: SoundChange | null };

/** Why a sound can't be changed from here: its shot is on the reel several times, or shows it with its head cut off. */
function isFixed(project: Project, { shot, cutFrames }: ReelSound): boolean {
  return shot !== null && (cutFrames > 0 || placedShots(project).filter((placed) => placed.shot.id === shot.id).length > 1);
}

function changeOf(project: Project, heard: ReelSound, other: PlacedClip): Change | null {
  const { sound, startFrame, endFrame } = heard;
  const first = project.firstFrameNumber;
  const frames = endFrame - startFrame;
  const isMoved = other.startFrame !== startFrame;
  if (!isMoved && other.frames === frames) return null;
  const told = [
    ...(isMoved ? [`starts on frame ${other.startFrame + first}, was ${startFrame + first}`] : []),
    ...(other.frames === frames ? [] : [`is heard for ${plural(other.frames, 'frame')}, was ${frames}`]),
  ].join(' and ');
  const newStart = sound.startFrame + other.startFrame - startFrame;
  const samples = other.frames === frames ? sound.samples : samplesFor(sound, other.frames, project.rate);
  const canBe = newStart >= 0 && samples > 0 && framesOfSound({ ...sound, samples }, project.rate) === other.frames;
  if (isFixed(project, heard) || !canBe) return { words: `${sound.name} ${told}; it has to be done by hand.`, change: null };
  return { words: `${sound.name} ${told}.`, change: { startFrame: newStart, samples } };
}

/** A sound that is in the timeline alone: laid on the reel where the project has its recording. */
function newSoundOf(project: Project, clip: PlacedClip, index: number): SoundDifference {
  const id = `sound:new:${index}`;
  const file = clip.media?.kind === 'file' ? clip.media.fileName : null;
  const known = everySound(project).find(({ sound }) => keyOf(sound.name) === keyOf(clip.name) || sound.recording.fileName === file)?.sound;
  const at = `frame ${clip.startFrame + project.firstFrameNumber}`;
  if (!known) return { id, words: `${clip.name}, heard on ${at}, is not in this project: bring its recording in.`, step: null };
  return {
    id,
    words: `${known.name} comes in on ${at}, ${plural(clip.frames, 'frame')}.`,
    step: (newId) => {
      const whole = newSound(newId(), known.name, known.recording, clip.startFrame);
      const sound = { ...whole, samples: samplesFor(whole, clip.frames, project.rate) };
      return { type: 'addSound', shotId: null, sound, index: project.reel.sounds.length };
    },
  };
}

/** Every difference in what is heard; none where a timeline has no sound at all, since many carry pictures alone. */
export function soundDifferences(project: Project, timeline: EditorialTimeline): readonly SoundDifference[] {
  const tracks = timeline.tracks.filter(({ kind }) => kind === 'sound');
  if (tracks.length === 0) return [];
  const after = reelAfter(project, timeline);
  const left = tracks.flatMap(placedClips);
  const differences: SoundDifference[] = [];
  const heard = soundsOfReel(after).filter(({ sound }) => !sound.muted);
  const others = new Map<ReelSound, PlacedClip>();
  // Those that lie where they did first: of several of one name, the others are what has moved.
  for (const isExact of [true, false])
    for (const each of heard) {
      if (others.has(each)) continue;
      const isIt = ({ name, startFrame }: PlacedClip) =>
        keyOf(name) === keyOf(each.sound.name) && (!isExact || startFrame === each.startFrame);
      const index = left.findIndex(isIt);
      if (index >= 0) others.set(each, left.splice(index, 1)[0] as PlacedClip);
    }
  for (const each of heard) {
    const { sound, shot } = each;
    const other = others.get(each);
    const id = `sound:${shot?.id ?? 'reel'}:${sound.id}:${each.itemId ?? ''}`;
    const found: Change | null = other
      ? changeOf(after, each, other)
      : isFixed(after, each)
        ? { words: `${sound.name} is not heard in it; it has to be muted or trimmed by hand.`, change: null }
        : { words: `${sound.name} is not heard in it: it is muted.`, change: { muted: true } };
    if (!found) continue;
    const { words, change } = found;
    const shotId = shot?.id ?? null;
    differences.push({ id, words, step: change && (() => ({ type: 'changeSound', shotId, soundId: sound.id, change })) });
  }
  return [...differences, ...left.map((clip, index) => newSoundOf(project, clip, index))];
}
