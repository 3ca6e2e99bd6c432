import type { Shot } from '@/core/document/model';
import {
  framesOfSound,
  newSound,
  type Recording,
  type Sound,
  type SoundChange,
  sampleOfFrame,
  secondsOfSamples,
} from '@/core/document/sound';
import { type Edit, type EditContext, editOf } from '@/core/edit/edit';
import { done, type Outcome, refused } from '@/core/outcome';
import { fileTitle } from '@/core/sheet/fileTitle';
import { countText, plural } from '@/core/time/counts';
import { framesInWords } from '@/core/time/frameWords';
import type { Rate } from '@/core/time/rate';

/** Which frames a sound touches, in words. */
const touched = (sound: Sound, rate: Rate, firstNumber: number): string =>
  framesInWords(sound.startFrame, sound.startFrame + framesOfSound(sound, rate) - 1, firstNumber);

/** What a recording holds, counted: `24,000 samples at 48,000 a second, 1 channel: 0.500 s`. */
export const recordingWords = ({ samples, sampleRate, channels }: Recording): string =>
  `${plural(samples, 'sample')} at ${countText(sampleRate)} a second, ${plural(channels, 'channel')}: ${secondsOfSamples(samples, sampleRate)} s`;

/** Recordings become sounds of a shot or of the reel, beside those it has, all starting on one frame (from 0). */
export function bringSounds(
  { shot, firstNumber, newId }: SoundContext & Pick<EditContext, 'newId'>,
  recordings: readonly Recording[],
  startFrame: number,
  rate: Rate,
  beside: readonly Sound[] = shot?.sounds ?? [],
): Outcome<Edit> {
  const owner = shot ? `shot ${shot.code}` : 'the reel';
  const taken = new Set(beside.map((sound) => sound.name));
  const sounds = recordings.map((recording) => {
    const sound = newSound(newId(), fileTitle(recording.fileName, 'Sound', taken), recording, startFrame);
    taken.add(sound.name);
    return sound;
  });
  const [first] = sounds;
  if (!first) return refused('There is no recording to bring in.');
  const names = sounds.length === 1 ? first.name : `${sounds.length} sounds`;
  return editOf(
    sounds.map((sound, place) => ({ type: 'addSound', shotId: shot?.id ?? null, sound, index: beside.length + place })),
    `Bring in ${names}`,
    sounds.length === 1
      ? `${first.name} is heard on ${touched(first, rate, firstNumber)} of ${owner}`
      : `${names} start on frame ${startFrame + firstNumber} of ${owner}`,
  );
}

/** What sounds belong to: a shot, or the reel when that is null; and the number the first frame is shown with. */
export type SoundContext = { readonly shot: Shot | null; readonly firstNumber: number };

/** Starts a sound on another frame of its shot (from 0); the recording is not touched. */
export function moveSound({ shot, firstNumber }: EditContext, sound: Sound, startFrame: number, rate: Rate): Outcome<Edit> {
  if (startFrame < 0 || startFrame >= shot.frames)
    return refused(`${sound.name} starts in shot ${shot.code}: on one of its frames ${firstNumber} to ${shot.frames - 1 + firstNumber}.`);
  const by = startFrame - sound.startFrame;
  const moved = { ...sound, startFrame };
  const how = by === 0 ? 'stays' : `${plural(Math.abs(by), 'frame')} ${by > 0 ? 'later' : 'earlier'}`;
  return done({
    step: { type: 'changeSound', shotId: shot.id, soundId: sound.id, change: { startFrame } },
    says: `${sound.name} ${how}: ${touched(moved, rate, firstNumber)}`,
  });
}

/**
 * Leaves out so many frames' worth of a recording at its beginning and at its end; what is heard stays on the frames
 * it was heard on, so that the sound starts later by what is left out more at its beginning.
 */
export function trimSound(
  { shot, firstNumber }: SoundContext,
  sound: Sound,
  startFrames: number,
  endFrames: number,
  rate: Rate,
): Outcome<Edit> {
  const { sampleRate, samples: all } = sound.recording;
  const fromSample = sampleOfFrame(startFrames, rate, sampleRate);
  const samples = all - fromSample - sampleOfFrame(endFrames, rate, sampleRate);
  if (startFrames < 0 || endFrames < 0 || samples < 1)
    return refused(`${sound.recording.fileName} lasts ${secondsOfSamples(all, sampleRate)} s: that much can’t be trimmed from it.`);
  const startFrame = sound.startFrame + startFrames - framesLeftOut(sound, rate).startFrames;
  if (startFrame < 0)
    return refused(
      `${sound.name} would start before ${shot ? `shot ${shot.code}` : 'the reel'}: move it ${plural(-startFrame, 'frame')} later first.`,
    );
  const change: SoundChange = { startFrame, fromSample, samples };
  return done({
    step: { type: 'changeSound', shotId: shot?.id ?? null, soundId: sound.id, change },
    says: `${sound.name} is heard on ${touched({ ...sound, startFrame, fromSample, samples }, rate, firstNumber)}`,
  });
}

/** How many frames' worth of its recording a sound leaves out at both ends, to the nearest frame. */
export function framesLeftOut({ recording, fromSample, samples }: Sound, { num, den }: Rate): { startFrames: number; endFrames: number } {
  const frames = (count: number) => Math.round((count * num) / (den * recording.sampleRate));
  return { startFrames: frames(fromSample), endFrames: frames(recording.samples - fromSample - samples) };
}
