import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { SOUND_FRAME_SAMPLES } from '@/core/output/film';
import { firstPacketOf, LEAD_PACKETS, soundStretches, TAIL_PACKETS } from '@/core/output/soundStretches';

const PACKET = SOUND_FRAME_SAMPLES.aac;
const SECOND = 48_000;

describe('a sound cut into stretches', () => {
  test('what is short, and what codes quickly, is one', () => {
    const whole = (samples: number) => [{ fromPacket: 0, toPacket: Number.POSITIVE_INFINITY, fromSample: 0, toSample: samples }];
    expect(soundStretches('aac', 1, 2)).toEqual(whole(1));
    expect(soundStretches('aac', 29 * SECOND, 2)).toEqual(whole(29 * SECOND));
    expect(soundStretches('aac', 999 * SECOND, 1)).toEqual(whole(999 * SECOND));
    for (const codec of ['opus', 'flac', 'pcm'] as const) expect(soundStretches(codec, 999 * SECOND, 2)).toEqual(whole(999 * SECOND));
  });

  test('a minute and a half is cut in about twenty seconds each', () => {
    expect(soundStretches('aac', 90 * SECOND, 2).map(({ fromPacket }) => fromPacket)).toEqual([0, 843, 1687, 2531, 3375]);
  });

  test('every packet belongs to one stretch, whose coder is given what it is made of, and enough before and after', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 400 * SECOND }), (samples) => {
        const stretches = soundStretches('aac', samples, 2);
        expect(stretches[0]).toMatchObject({ fromPacket: 0, fromSample: 0 });
        expect(stretches.at(-1)).toMatchObject({ toPacket: Number.POSITIVE_INFINITY, toSample: samples });
        for (const [index, stretch] of stretches.entries()) {
          expect(stretch.fromSample % PACKET).toBe(0);
          expect(firstPacketOf(stretch) * PACKET).toBe(stretch.fromSample);
          const next = stretches[index + 1];
          if (!next) continue;
          expect(next.fromPacket).toBe(stretch.toPacket);
          expect(next.fromPacket - firstPacketOf(next)).toBe(LEAD_PACKETS);
          // The last of the tail is made of the samples up to its own end, as a packet is of those before its place and at it.
          expect(stretch.toSample).toBe((stretch.toPacket + TAIL_PACKETS) * PACKET);
          expect(stretch.toSample).toBeLessThan(samples);
          // A coder has all of one stretch before the one after next begins, which is its next, on a whole packet of its own.
          expect(stretches[index + 2]?.fromSample ?? samples).toBeGreaterThanOrEqual(stretch.toSample);
          expect((stretch.toSample - stretch.fromSample) % PACKET).toBe(0);
        }
      }),
    );
  });
});
