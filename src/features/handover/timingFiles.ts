import type { Project } from '@/core/document/model';
import { sampleOfFrame } from '@/core/document/sound';
import { captionsOf } from '@/core/editorial/captionsOf';
import { lostOf, timelineWords } from '@/core/editorial/sameTimeline';
import { type MediaOfShot, timelineOf } from '@/core/editorial/timelineOf';
import { readCaptions, writeSubRip, writeWebVtt } from '@/core/format/captions/captions';
import type { EditorialTimeline } from '@/core/format/editorial';
import { readEdl } from '@/core/format/edl/readEdl';
import { writeEdl } from '@/core/format/edl/writeEdl';
import { readOtio } from '@/core/format/otio/readOtio';
import { writeOtio } from '@/core/format/otio/writeOtio';
import { fitsWav, type WavFacts, wavHead, wavSamples } from '@/core/format/wav/writeWav';
import { done, mustBeDone, type Outcome, refused } from '@/core/outcome';
import { baseNameOf, START_RECIPE } from '@/core/output/recipe';
import { fileNamePart } from '@/core/output/sequenceNames';
import { MIX_RATE } from '@/core/reel/mix';
import { framesOfReel } from '@/core/reel/reel';
import { type ReelSound, soundsOfReel } from '@/core/reel/sounds';
import { countText, plural } from '@/core/time/counts';
import { frameOfTimecode, timecodeOf } from '@/core/time/timecode';
import { formatFor } from '@/features/handover/handoverStore';
import { missingSounds, mixingFrom } from '@/features/handover/mixing';

/* The timing of the reel in files that other software reads. Each is read back before it is given, and what was found is said. */

/** A file, and in a sentence what was found in it when it was read back. */
export type TimingFile = { readonly name: string; readonly content: Blob; readonly found: string };

/** What the reel's timeline points to, the timecode it begins with, and whether it counts in drop-frame. */
export type TimelineChoice = {
  readonly pointsTo: 'films' | 'sequences';
  readonly atHour: boolean;
  readonly drop: boolean;
  readonly withSound: boolean;
};

const stemOf = (project: Project): string => fileNamePart(project.title);

/** What a shot is handed over as, by the names it has then. */
const mediaOf =
  (project: Project, pointsTo: TimelineChoice['pointsTo']): MediaOfShot =>
  ({ shot }) => {
    if (!shot) return null;
    const film = { ...START_RECIPE, shotId: shot.id };
    if (pointsTo === 'films') return { kind: 'file', fileName: `${baseNameOf(project, film, formatFor(film))}.mp4` };
    const stem = `${stemOf(project)}_${fileNamePart(shot.code)}`;
    return { kind: 'sequence', folder: `${stem}/`, prefix: `${stem}.`, suffix: '.png', firstNumber: project.firstFrameNumber, digits: 4 };
  };

/** The frame that one hour of timecode is. */
const frameOfHour = ({ rate }: Project, drop: boolean): number => mustBeDone(frameOfTimecode(drop ? '01:00:00;00' : '01:00:00:00', rate));

export function reelTimeline(project: Project, { pointsTo, atHour, drop, withSound }: TimelineChoice): EditorialTimeline {
  return timelineOf(project, atHour ? frameOfHour(project, drop) : 0, mediaOf(project, pointsTo), withSound);
}

/** What was found on reading back; refused where anything was lost, which would be the program's own fault. */
function foundIn(written: EditorialTimeline, read: Outcome<{ readonly timeline: EditorialTimeline }>, knowsRate: boolean): Outcome<string> {
  if (!read.ok) return refused(`It could not be read back: ${read.reason} Nothing was saved.`);
  const lost = lostOf(written, read.value.timeline, knowsRate);
  if (lost.length > 0) return refused(`Read back it is not the reel: ${lost.join(' ')} Nothing was saved.`);
  return done(`Read back: ${timelineWords(written)}, each on its frames, as the reel has them.`);
}

export function otioFile(project: Project, choice: TimelineChoice): Outcome<TimingFile> {
  const timeline = reelTimeline(project, choice);
  const text = writeOtio(timeline);
  const found = foundIn(timeline, readOtio(text), true);
  if (!found.ok) return found;
  return done({ name: `${stemOf(project)}.otio`, content: new Blob([text], { type: 'application/json' }), found: found.value });
}

export function edlFile(project: Project, choice: TimelineChoice): Outcome<TimingFile> {
  const timeline = reelTimeline(project, choice);
  // A list names reels; which files they are is the editor's.
  const named: EditorialTimeline = {
    ...timeline,
    tracks: timeline.tracks.map((track) => ({
      ...track,
      items: track.items.map((item) =>
        item.kind === 'clip' && track.kind === 'picture' && item.remark === null ? { ...item, media: null } : item,
      ),
    })),
  };
  const text = writeEdl(named, { drop: choice.drop });
  if (!text.ok) return text;
  const found = foundIn(named, readEdl(text.value, project.rate), false);
  if (!found.ok) return found;
  return done({ name: `${stemOf(project)}.edl`, content: new Blob([text.value], { type: 'text/plain' }), found: found.value });
}

export function captionsFile(project: Project, kind: 'srt' | 'vtt', withAccents: boolean): Outcome<TimingFile> {
  const captions = captionsOf(project, withAccents ? ['word', 'accent'] : ['word']);
  if (captions.length === 0)
    return refused(
      `No ${withAccents ? 'words or accents are' : 'words are'} written on the sheets of the reel: write them in the notes column of a sheet.`,
    );
  const text = kind === 'srt' ? writeSubRip(captions) : writeWebVtt(captions);
  const read = readCaptions(text);
  if (!read.ok || read.value.length !== captions.length) return refused('The words could not be read back. Nothing was saved.');
  return done({
    name: `${stemOf(project)}.${kind}`,
    content: new Blob([text], { type: kind === 'srt' ? 'application/x-subrip' : 'text/vtt' }),
    found: `Read back: ${plural(captions.length, 'word')}${withAccents ? ' and accents' : ''}, the first at ${(captions[0]?.startMilliseconds ?? 0) / 1000} s.`,
  });
}

/** Frames that are mixed at a time. */
const FRAMES_AT_ONCE = 240;
const CHANNELS = 2;

/** Sounds over the reel as a WAV of its length, 24 bits, 48,000 samples a second; rejects when it is stopped. */
async function wavOf(
  project: Project,
  sounds: readonly ReelSound[],
  stop: AbortSignal,
  onProgress: (part: number) => void,
): Promise<Outcome<{ readonly content: Blob; readonly facts: WavFacts }>> {
  const frames = framesOfReel(project);
  const facts: WavFacts = {
    channels: CHANNELS,
    samples: sampleOfFrame(frames, project.rate, MIX_RATE),
    sampleRate: MIX_RATE,
    sample: 'int24',
  };
  if (!fitsWav(facts)) return refused('The reel’s sound is longer than a WAV file can be: hand it over within a film.');
  const mix = mixingFrom({ sounds, firstFrame: 0, rate: project.rate, stride: 1 });
  const parts: BlobPart[] = [wavHead(facts)];
  let samples = 0;
  for (let frame = 0; frame < frames; frame += FRAMES_AT_ONCE) {
    stop.throwIfAborted();
    const channels = await mix(frame, Math.min(frames, frame + FRAMES_AT_ONCE) - 1);
    samples += channels[0]?.length ?? 0;
    parts.push(new Blob([wavSamples(channels, facts.sample)]));
    onProgress(Math.min(1, (frame + FRAMES_AT_ONCE) / frames));
  }
  if (samples !== facts.samples) throw new Error(`${samples} samples were mixed for ${facts.samples}.`);
  return done({ content: new Blob(parts, { type: 'audio/wav' }), facts });
}

/** The mix of the reel, or each of its sounds apart, all as long as the reel. */
export async function soundFiles(
  project: Project,
  apart: boolean,
  stop: AbortSignal,
  onProgress: (part: number) => void,
): Promise<Outcome<readonly TimingFile[]>> {
  const sounds = soundsOfReel(project).filter(({ sound }) => !sound.muted);
  if (sounds.length === 0) return refused('Nothing is heard on the reel: there is no sound to hand over.');
  const missing = await missingSounds(sounds);
  if (missing.length > 0)
    return refused(`The recording of ${missing.join(', ')} is missing. Nothing was saved: bring it in again, or mute it.`);
  const groups = apart
    ? sounds.map((sound) => ({ name: `_${fileNamePart(sound.sound.name)}`, sounds: [sound] }))
    : [{ name: '_mix', sounds }];
  const files: TimingFile[] = [];
  const taken = new Map<string, number>();
  for (const [index, group] of groups.entries()) {
    const made = await wavOf(project, group.sounds, stop, (part) => onProgress((index + part) / groups.length));
    if (!made.ok) return made;
    const times = (taken.get(group.name) ?? 0) + 1;
    taken.set(group.name, times);
    const length = timecodeOf(framesOfReel(project), project.rate);
    files.push({
      name: `${stemOf(project)}${group.name}${times > 1 ? `_${times}` : ''}.wav`,
      content: made.value.content,
      found: `${countText(made.value.facts.samples)} samples, as long as the reel: ${length}.`,
    });
  }
  return done(files);
}
