import { type Sound, sampleOfFrame } from '@/core/document/sound';
import type { Rate } from '@/core/time/rate';

/** How loud a part is, as a factor, at a sample of the mix; between two such points it goes in a straight line. */
export type GainPoint = { readonly atSample: number; readonly gain: number };

/**
 * A part of a recording as it goes into a mix: heard from sample `atSample` of the mix on, `fromSample` being the
 * recording's first sample that is heard then, and `samples` how many follow, both at the recording's own rate. `gains` has
 * a point where the part starts, one where it ends, and one wherever a fade ends or begins between.
 */
export type MixPart = {
  readonly sound: Sound;
  readonly atSample: number;
  readonly fromSample: number;
  readonly samples: number;
  readonly gains: readonly GainPoint[];
};

/** Sounds are heard together at this rate, in samples a second. */
export const MIX_RATE = 48_000;

/** 20 decibels are a factor of ten in amplitude (common practice). */
const gainOf = (decibels: number): number => 10 ** (decibels / 20);

/*
 * A fade in over a frames and a fade out over b frames of a sound of n samples: the factor at sample s (from 0) is
 *   min(1, s / A, (n − s) / B) · level,   A and B being a and b frames in samples.
 * Where both meet, the lesser counts, so that a sound shorter than its fades never jumps.
 */
function fadeAt(sample: number, all: number, fadeInSamples: number, fadeOutSamples: number): number {
  const rising = fadeInSamples === 0 ? 1 : sample / fadeInSamples;
  const falling = fadeOutSamples === 0 ? 1 : (all - sample) / fadeOutSamples;
  return Math.max(0, Math.min(1, rising, falling));
}

/** The gain of a sound from its sample `cut` on for `samples` samples, placed from `atSample` of the mix on. */
function gainsOf(sound: Sound, cut: number, samples: number, atSample: number, rate: Rate, mixRate: number): readonly GainPoint[] {
  const { sampleRate } = sound.recording;
  const fadeIn = sampleOfFrame(sound.fadeInFrames, rate, sampleRate);
  const fadeOut = sampleOfFrame(sound.fadeOutFrames, rate, sampleRate);
  // Fades that don't fit beside each other turn where their lines cross: s / A = (n − s) / B.
  const bends = fadeIn + fadeOut > sound.samples ? [(sound.samples * fadeIn) / (fadeIn + fadeOut)] : [fadeIn, sound.samples - fadeOut];
  const turns = bends.filter((sample) => sample > cut && sample < cut + samples);
  return [cut, ...new Set(turns), cut + samples]
    .toSorted((a, b) => a - b)
    .map((sample) => ({
      atSample: atSample + ((sample - cut) * mixRate) / sampleRate,
      gain: fadeAt(sample, sound.samples, fadeIn, fadeOut) * gainOf(sound.gainDecibels),
    }));
}

/** What is heard from frame `fromFrame` (inclusive) to `toFrame` (inclusive), of sounds placed on the same frames; muted ones are not. */
export function mixOf(
  sounds: readonly { readonly sound: Sound; readonly startFrame: number }[],
  fromFrame: number,
  toFrame: number,
  rate: Rate,
  mixRate: number,
): { readonly samples: number; readonly parts: readonly MixPart[] } {
  const start = sampleOfFrame(fromFrame, rate, mixRate);
  const total = sampleOfFrame(toFrame + 1, rate, mixRate) - start;
  const parts = sounds.flatMap(({ sound, startFrame }): MixPart[] => {
    if (sound.muted) return [];
    const { sampleRate } = sound.recording;
    // From the same two roundings for every part, so that one goes on at the very sample the one before ended with.
    const cut = startFrame >= fromFrame ? 0 : sampleOfFrame(fromFrame, rate, sampleRate) - sampleOfFrame(startFrame, rate, sampleRate);
    const atSample = startFrame <= fromFrame ? 0 : sampleOfFrame(startFrame, rate, mixRate) - start;
    const room = Math.ceil(((total - atSample) * sampleRate) / mixRate);
    const samples = Math.min(sound.samples - cut, room);
    if (samples <= 0) return [];
    const gains = gainsOf(sound, cut, samples, atSample, rate, mixRate);
    return [{ sound, atSample, fromSample: sound.fromSample + cut, samples, gains }];
  });
  return { samples: total, parts };
}
