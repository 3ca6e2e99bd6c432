import type { Project } from '@/core/document/model';
import {
  type EditorialClip,
  type EditorialMedia,
  type EditorialTimeline,
  type EditorialTrack,
  inTrack,
  type PlacedClip,
} from '@/core/format/editorial';
import { type PlacedItem, placedItems } from '@/core/reel/reel';
import { type ReelSound, soundsOfReel } from '@/core/reel/sounds';
import { rateFraction, sameRate } from '@/core/time/rate';

/* The reel as a timeline that other editors read: one track of pictures, and as many of sounds as are heard at once. */

/** What a shot is handed over as: what a clip of it points to. */
export type MediaOfShot = (placed: PlacedItem) => EditorialMedia | null;

/** What its receiver should know of an item: a clip that is brought to another rate shows other frames than its file has. */
function remarkOf({ item, source }: PlacedItem, project: Project): string | null {
  if (item.kind !== 'clip' || !source?.clip) return null;
  const { timing } = source.clip;
  if (timing.kind === 'constant' && sameRate(timing.rate, project.rate)) return null;
  const own = timing.kind === 'constant' ? rateFraction(timing.rate) : 'TIMES OF ITS OWN';
  return item.way === 'readAs'
    ? `READ AS ${rateFraction(project.rate)}, MADE FOR ${own}`
    : `CONVERTED FROM ${own} TO ${rateFraction(project.rate)}`;
}

function pictureClip(placed: PlacedItem, project: Project, mediaOf: MediaOfShot): PlacedClip | null {
  const { source, fromFrame, startFrame, endFrame } = placed;
  if (!source) return null;
  const media: EditorialMedia | null = source.clip ? { kind: 'file', fileName: source.clip.fileName } : mediaOf(placed);
  const clip: EditorialClip = {
    kind: 'clip',
    name: source.name,
    sourceFrame: fromFrame,
    frames: endFrame - startFrame,
    sourceFrames: source.frames,
    media,
    remark: remarkOf(placed, project),
  };
  return { ...clip, startFrame };
}

/** A sound by the frames it is heard on; where its first sample is within its file is said in samples. */
function soundClip({ sound, whole, startFrame, endFrame }: ReelSound): PlacedClip {
  const { recording, fromSample } = sound;
  const isWhole = fromSample === 0 && sound.samples === recording.samples && whole === sound;
  return {
    kind: 'clip',
    name: sound.name,
    sourceFrame: 0,
    frames: endFrame - startFrame,
    sourceFrames: null,
    media: { kind: 'file', fileName: recording.fileName },
    remark: isWhole ? null : `FROM SAMPLE ${fromSample} OF ${recording.sampleRate} A SECOND, ${sound.samples} SAMPLES`,
    startFrame,
  };
}

/** Sounds on as few tracks as none overlap on. */
function soundTracks(sounds: readonly ReelSound[]): readonly EditorialTrack[] {
  const tracks: PlacedClip[][] = [];
  for (const sound of sounds) {
    if (sound.sound.muted) continue;
    const clip = soundClip(sound);
    const free = tracks.find((track) => {
      const last = track.at(-1);
      return !last || last.startFrame + last.frames <= clip.startFrame;
    });
    if (free) free.push(clip);
    else tracks.push([clip]);
  }
  return tracks.map((clips, index): EditorialTrack => ({ kind: 'sound', name: `Sound ${index + 1}`, items: inTrack(clips) }));
}

/** The reel as a timeline whose first frame is called by the timecode of `startFrame`. */
export function timelineOf(project: Project, startFrame: number, mediaOf: MediaOfShot, withSound = true): EditorialTimeline {
  const clips = placedItems(project).flatMap((placed) => pictureClip(placed, project, mediaOf) ?? []);
  const frames = placedItems(project).at(-1)?.endFrame ?? 0;
  return {
    title: project.title,
    rate: project.rate,
    startFrame,
    tracks: [{ kind: 'picture', name: 'Picture', items: inTrack(clips, frames) }, ...(withSound ? soundTracks(soundsOfReel(project)) : [])],
  };
}
