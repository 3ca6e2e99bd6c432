import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { takeOverPacket } from '@/core/format/aac/takeOver';

/** A packet of a pair of channels with windows: shared by both, or the first one's. */
const packetOf = ({ sequence, shape, areShared }: { sequence: number; shape: number; areShared: boolean }) => {
  const info = (sequence << 1) | shape;
  return areShared ? Uint8Array.of(0b00100001, info << 4, 0) : Uint8Array.of(0b00100000, 0, info << 4);
};
const windows = fc.record({ sequence: fc.integer({ min: 0, max: 3 }), shape: fc.integer({ min: 0, max: 1 }), areShared: fc.boolean() });
const MOST = 24;
const LONG = { sequence: 0, shape: 1, areShared: true };
const SHORT = { sequence: 2, shape: 1, areShared: true };
const APART = { sequence: 0, shape: 1, areShared: false };

describe('where the next coder takes over', () => {
  const at = (all: readonly Uint8Array[]) => (packet: number) => all[packet];
  const overAt = (pairs: readonly (readonly [Parameters<typeof packetOf>[0], Parameters<typeof packetOf>[0]])[]) =>
    takeOverPacket(1, 1 + MOST, at(pairs.map(([earlier]) => packetOf(earlier))), at(pairs.map(([, later]) => packetOf(later))));

  test.each([
    [
      'at once where the packets before are alike',
      [
        [LONG, LONG],
        [LONG, SHORT],
        [LONG, LONG],
      ],
      1,
    ],
    [
      'after the first that are alike',
      [
        [LONG, SHORT],
        [SHORT, SHORT],
        [LONG, LONG],
      ],
      2,
    ],
    [
      'rather where both channels are known',
      [
        [APART, APART],
        [LONG, LONG],
        [LONG, LONG],
      ],
      2,
    ],
    [
      'where one is known, if no other is',
      [
        [LONG, SHORT],
        [APART, APART],
        [SHORT, LONG],
      ],
      2,
    ],
    [
      'as it was meant, where none are alike',
      [
        [LONG, SHORT],
        [SHORT, LONG],
        [SHORT, LONG],
      ],
      1,
    ],
  ] as const)('%s', (_, pairs, packet) => {
    expect(overAt(pairs)).toBe(packet);
  });

  test('never before it is meant, never later than both go on, and never at unlike windows where there are alike ones', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(windows, windows), { minLength: 2, maxLength: 40 }), (pairs) => {
        const over = overAt(pairs);
        expect(over).toBeGreaterThanOrEqual(1);
        expect(over).toBeLessThan(Math.min(pairs.length, 1 + MOST));
        const areAlike = ([a, b]: (typeof pairs)[number]) => JSON.stringify(a) === JSON.stringify(b);
        const some = pairs.slice(0, Math.min(pairs.length - 1, MOST)).some(areAlike);
        expect(areAlike(pairs[over - 1] as (typeof pairs)[number])).toBe(some);
      }),
    );
  });
});
