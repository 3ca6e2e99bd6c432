import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Undecodable } from '@/core/count/readBack';
import { countSound, decibelsText, LoudnessByFrame, wrongSoundFrames } from '@/core/count/soundCount';
import { sampleOfFrame } from '@/core/document/sound';

const RATE = { num: 24, den: 1 };
const SAMPLES = 48_000 / 24;
const tone = (samples: number, size: number) => new Float32Array(samples).fill(size);

/** How loud each of some frames is when these samples are taken at once. */
function levelsOf(channels: readonly Float32Array[], frames: number, startSample = 0): number[] {
  const loudness = new LoudnessByFrame(frames, RATE, 48_000);
  loudness.take(channels, startSample);
  return [...loudness.levels()];
}

describe('how loud frames are', () => {
  it('is the root of the mean square of their samples, over all channels (worked by hand)', () => {
    expect(levelsOf([tone(SAMPLES, 0.5), tone(SAMPLES, 0.5)], 1)[0]).toBeCloseTo(0.5, 6);
    // One channel of two silent: sqrt((0.5² + 0) / 2) = 0.3536.
    expect(levelsOf([tone(SAMPLES, 0.5), tone(SAMPLES, 0)], 1)[0]).toBeCloseTo(0.353_553, 5);
    // Half a frame: sqrt(0.5² / 2).
    const half = Float32Array.from({ length: SAMPLES }, (_, sample) => (sample < SAMPLES / 2 ? 0.5 : 0));
    expect(levelsOf([half], 1)[0]).toBeCloseTo(0.353_553, 5);
    // What is over full scale is cut off wherever it is written.
    expect(levelsOf([tone(SAMPLES, 3)], 1)[0]).toBeCloseTo(1, 6);
  });

  it('takes no sample before the film or after it', () => {
    expect(levelsOf([tone(SAMPLES * 5, 0.5)], 2, -SAMPLES)).toEqual([0.5, 0.5]);
    expect(levelsOf([tone(SAMPLES, 0.5)], 2, SAMPLES)).toEqual([0, 0.5]);
    expect(levelsOf([tone(SAMPLES, 0.5)], 1, SAMPLES * 3)).toEqual([0]);
  });

  it('does not depend on how the samples come, at rates without whole samples a frame', () => {
    const anyRate = fc.constantFrom({ num: 24000, den: 1001 }, { num: 25, den: 1 }, { num: 60000, den: 1001 });
    fc.assert(
      fc.property(anyRate, fc.array(fc.integer({ min: 1, max: 3000 }), { minLength: 1, maxLength: 12 }), (rate, parts) => {
        const frames = 6;
        const all = Float32Array.from(
          { length: sampleOfFrame(frames, rate, 48_000) },
          (_, sample) => Math.sin(sample / 7) * (sample % 4001 < 900 ? 1 : 0.1),
        );
        const once = new LoudnessByFrame(frames, rate, 48_000);
        once.take([all], 0);
        const bitByBit = new LoudnessByFrame(frames, rate, 48_000);
        let at = 0;
        for (let turn = 0; at < all.length; turn++) {
          const length = parts[turn % parts.length] as number;
          bitByBit.take([all.subarray(at, at + length)], at);
          at += length;
        }
        for (const [frame, level] of once.levels().entries()) expect(bitByBit.levels()[frame]).toBeCloseTo(level, 5);
      }),
    );
  });
});

describe('a counted sound', () => {
  const meant = Float32Array.from([0, 0.2, 0.4, 0.2, 0, 0, 0.3]);
  it.each([
    ['as meant', [0, 0.2, 0.4, 0.2, 0, 0, 0.3], [], []],
    ['a little off, as coding has it', [0.01, 0.21, 0.38, 0.2, 0, 0.01, 0.31], [], [0, 1, 2, 5, 6]],
    ['cut off', [0, 0.2, 0.4, 0.2, 0, 0, 0], [6], [6]],
    ['a frame late', [0, 0, 0.2, 0.4, 0.2, 0, 0], [1, 4, 6], [1, 2, 3, 4, 6]],
    ['too short', [0, 0.2], [2, 3, 6], [2, 3, 6]],
  ])('%s', (_what, counted, coded, kept) => {
    expect(wrongSoundFrames(meant, Float32Array.from(counted), true)).toEqual(kept);
    expect(wrongSoundFrames(meant, Float32Array.from(counted), false)).toEqual(coded);
  });

  it('is counted by what is decoded where its file tells no length', async () => {
    async function* parts() {
      yield { startSample: -100, channels: [tone(200, 0.25)] };
      yield { startSample: 100, channels: [tone(50, -0.75)] };
    }
    const told = { codec: 'opus', sampleRate: 48_000, channels: 1, startSample: 0 };
    const taken: number[] = [];
    expect(await countSound({ ...told, samples: null, parts: parts() }, (_, startSample) => taken.push(startSample))).toEqual({
      ...told,
      samples: 150,
      peak: 0.75,
      undecoded: null,
    });
    expect(taken).toEqual([-100, 100]);
  });

  it('says why it could not be decoded, and lets any other failure through', async () => {
    const failing = (error: Error) =>
      // biome-ignore lint/correctness/useYield: it fails before its first part
      (async function* () {
        throw error;
      })();
    const told = { codec: 'aac', sampleRate: 48_000, channels: 2, startSample: 0, samples: 10 };
    expect(await countSound({ ...told, parts: failing(new Undecodable('no decoder')) }, () => undefined)).toEqual({
      ...told,
      peak: null,
      undecoded: 'no decoder',
    });
    await expect(countSound({ ...told, parts: failing(new Error('gone')) }, () => undefined)).rejects.toThrow('gone');
  });

  it('is told in decibels below full scale (20 decibels are a factor of ten: common practice)', () => {
    expect([1, 0.1, 0.5, 0].map(decibelsText)).toEqual(['0.0 dBFS', '−20.0 dBFS', '−6.0 dBFS', 'silence']);
  });
});
