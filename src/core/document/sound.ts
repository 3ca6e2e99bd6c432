import { done, type Outcome, refused } from '@/core/outcome';
import type { Rate } from '@/core/time/rate';

/** Names of sounds in the document; made once, never reused. */
export type SoundId = string;

/**
 * A recording as it was brought in: the SHA-256 of its file's bytes, and what was counted when it was decoded.
 * `samples` are those of one channel.
 */
export type Recording = {
  readonly original: string;
  readonly fileName: string;
  readonly sampleRate: number;
  readonly samples: number;
  readonly channels: number;
};

/**
 * A recording, or a part of it, that starts to be heard as a frame starts: one of its shot, with which it moves, or one of
 * the reel. It goes on into what follows, as long as it lasts.
 * `startFrame` counts from 0; `fromSample` is the first sample heard, `samples` how many are, both at the
 * recording's own rate. The level is in whole decibels, 0 as recorded. It rises from silence over the first `fadeInFrames`
 * and falls to it over the last `fadeOutFrames`, in a straight line of amplitude.
 */
export type Sound = {
  readonly id: SoundId;
  readonly name: string;
  readonly recording: Recording;
  readonly startFrame: number;
  readonly fromSample: number;
  readonly samples: number;
  readonly gainDecibels: number;
  readonly fadeInFrames: number;
  readonly fadeOutFrames: number;
  readonly muted: boolean;
};

/** What can be said about a sound; what was recorded stays what it is. */
export type SoundChange = Partial<Omit<Sound, 'id' | 'recording'>>;

export const LEAST_GAIN_DECIBELS = -60;
export const MOST_GAIN_DECIBELS = 12;
/** Longest fade of a sound, in frames. */
export const LONGEST_FADE_FRAMES = 100_000;
/** Latest frame a sound can start on, from 0. */
export const LAST_SOUND_FRAME = 2_000_000;
/** Longest recording that is brought in: decoded, it is held in memory whole. */
export const LONGEST_RECORDING_SECONDS = 20 * 60;
export const LEAST_SAMPLE_RATE = 4_000;
export const MOST_SAMPLE_RATE = 192_000;
export const MOST_CHANNELS = 8;

const isWhole = (value: number, least: number, most: number) => Number.isInteger(value) && value >= least && value <= most;

/** A recording whole, from a frame on, as loud as it was recorded. */
export const newSound = (id: SoundId, name: string, recording: Recording, startFrame: number): Sound => ({
  id,
  name,
  recording,
  startFrame,
  fromSample: 0,
  samples: recording.samples,
  gainDecibels: 0,
  fadeInFrames: 0,
  fadeOutFrames: 0,
  muted: false,
});

/** Refuses a sound that can't be heard as it says. */
export function checkSound(sound: Sound): Outcome<Sound> {
  const { recording, name, startFrame, fromSample, samples, gainDecibels, fadeInFrames, fadeOutFrames } = sound;
  if (name.trim() === '') return refused('A sound needs a name.');
  if (!isWhole(startFrame, 0, LAST_SOUND_FRAME))
    return refused(`${name} can't start there: a sound starts on one of the frames of its shot, or of the reel.`);
  if (
    !isWhole(recording.sampleRate, LEAST_SAMPLE_RATE, MOST_SAMPLE_RATE) ||
    !isWhole(recording.samples, 1, recording.sampleRate * LONGEST_RECORDING_SECONDS) ||
    !isWhole(recording.channels, 1, MOST_CHANNELS)
  )
    return refused(
      `${recording.fileName} can't be used: a recording has up to ${LONGEST_RECORDING_SECONDS / 60} minutes and ${MOST_CHANNELS} channels.`,
    );
  if (!isWhole(fromSample, 0, recording.samples - 1) || !isWhole(samples, 1, recording.samples - fromSample))
    return refused(
      `${name} can't be cut so: of ${recording.fileName} at least one sample has to be heard, and there are ${recording.samples}.`,
    );
  if (!isWhole(gainDecibels, LEAST_GAIN_DECIBELS, MOST_GAIN_DECIBELS))
    return refused(`${gainDecibels} dB is not possible: a sound’s level goes from ${LEAST_GAIN_DECIBELS} to +${MOST_GAIN_DECIBELS} dB.`);
  if (!isWhole(fadeInFrames, 0, LONGEST_FADE_FRAMES) || !isWhole(fadeOutFrames, 0, LONGEST_FADE_FRAMES))
    return refused(`${name} can’t fade so: a fade has 0 to ${LONGEST_FADE_FRAMES} whole frames.`);
  return done(sound);
}

/*
 * Frame n starts n·den/num seconds in, which is n·den·sampleRate/num samples. The products stay below 2^53, and so
 * exact, for every rate met in practice: 2 · 2·10^6 frames · 1001 · 192,000 samples a second = 7.7·10^14.
 */

/** The sample nearest to the start of a frame, both from 0, half up; for a frame before the beginning it is negative. */
export const sampleOfFrame = (frame: number, { num, den }: Rate, sampleRate: number): number =>
  Math.floor((2 * frame * den * sampleRate + num) / (2 * num));

/** How many frames a number of samples touches: the last one counts however little of it is heard. */
export const framesOfSamples = (samples: number, { num, den }: Rate, sampleRate: number): number =>
  Math.ceil((samples * num) / (den * sampleRate));

/** How many whole frames a number of samples fills. */
export const wholeFramesOfSamples = (samples: number, { num, den }: Rate, sampleRate: number): number =>
  Math.floor((samples * num) / (den * sampleRate));

/** How many frames a sound touches. */
export const framesOfSound = ({ samples, recording }: Sound, rate: Rate): number => framesOfSamples(samples, rate, recording.sampleRate);

/** A number of samples in seconds, to three places, half up. */
export function secondsOfSamples(samples: number, sampleRate: number): string {
  const thousandths = Math.floor((2000 * samples + sampleRate) / (2 * sampleRate));
  return `${Math.floor(thousandths / 1000)}.${String(thousandths % 1000).padStart(3, '0')}`;
}

/**
 * What of a sound is left when the picture before `frame` (from 0, of its own shot) is cut away: it is cut with the
 * picture, so that what is still heard stays beside the same frames. Null when nothing is left. A sound that starts
 * later moves up.
 */
export function soundFrom(sound: Sound, frame: number, rate: Rate): Sound | null {
  if (sound.startFrame >= frame) return { ...sound, startFrame: sound.startFrame - frame };
  const cut = sampleOfFrame(frame - sound.startFrame, rate, sound.recording.sampleRate);
  if (cut >= sound.samples) return null;
  // What fades in is as loud as it would have been from where the fade ends.
  const fadeInFrames = Math.max(0, sound.fadeInFrames - (frame - sound.startFrame));
  return { ...sound, startFrame: 0, fromSample: sound.fromSample + cut, samples: sound.samples - cut, fadeInFrames };
}
