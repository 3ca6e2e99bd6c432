import type { Project, Shot, ShotId } from '@/core/document/model';
import { framesOfSound, type Sound, sampleOfFrame } from '@/core/document/sound';
import { reelOf } from '@/core/reel/reel';
import type { Rate } from '@/core/time/rate';

/** A sound where it is heard on the reel: from `startFrame` (inclusive, from 0) to `endFrame` (exclusive), the last frame touched by however little. */
export type ReelSound = { readonly sound: Sound; readonly shot: Shot; readonly startFrame: number; readonly endFrame: number };

/** Every sound of a project where it is on the reel, in order of their starts. */
export const soundsOfReel = (project: Project): readonly ReelSound[] =>
  reelOf(project)
    .flatMap(({ shot, startFrame: shotStart }) =>
      shot.sounds.map((sound) => {
        const startFrame = shotStart + sound.startFrame;
        return { sound, shot, startFrame, endFrame: startFrame + framesOfSound(sound, project.rate) };
      }),
    )
    .toSorted((a, b) => a.startFrame - b.startFrame);

/**
 * Sounds heard while a shot is on, those that began in an earlier one among them; frames count from the shot's
 * first, so that one that began before has a negative `startFrame`.
 */
export function soundsOverShot(project: Project, shotId: ShotId): readonly ReelSound[] {
  const placed = reelOf(project).find(({ shot }) => shot.id === shotId);
  if (!placed) return [];
  return soundsOfReel(project)
    .filter((heard) => heard.startFrame < placed.endFrame && heard.endFrame > placed.startFrame)
    .map((heard) => ({
      ...heard,
      startFrame: heard.startFrame - placed.startFrame,
      endFrame: heard.endFrame - placed.startFrame,
    }));
}

/** A sound in the lane it is shown in, from 0. */
export type LanedSound = ReelSound & { readonly lane: number };

/** Sounds side by side where they overlap: each, in order of their starts, in the first lane that is free. */
export function inLanes(sounds: readonly ReelSound[]): { readonly laned: readonly LanedSound[]; readonly lanes: number } {
  const ends: number[] = [];
  const laned = sounds.map((heard) => {
    const free = ends.findIndex((end) => end <= heard.startFrame);
    const lane = free < 0 ? ends.length : free;
    ends[lane] = heard.endFrame;
    return { ...heard, lane };
  });
  return { laned, lanes: Math.max(1, ends.length) };
}

/**
 * A part of a recording as it goes into a mix: heard from sample `atSample` of the mix on, `fromSample` being the
 * recording's first sample that is heard then, and `samples` how many follow, both at the recording's own rate.
 */
export type MixPart = {
  readonly sound: Sound;
  readonly atSample: number;
  readonly fromSample: number;
  readonly samples: number;
  readonly gain: number;
};

/** Sounds are heard together at this rate, in samples a second. */
export const MIX_RATE = 48_000;

/** 20 decibels are a factor of ten in amplitude (common practice). */
const gainOf = (decibels: number): number => 10 ** (decibels / 20);

/** What is heard from frame `fromFrame` (inclusive) to `toFrame` (inclusive), of sounds placed on the same frames; muted ones are not. */
export function mixOf(
  sounds: readonly Pick<ReelSound, 'sound' | 'startFrame'>[],
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
    return samples > 0 ? [{ sound, atSample, fromSample: sound.fromSample + cut, samples, gain: gainOf(sound.gainDecibels) }] : [];
  });
  return { samples: total, parts };
}
