import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sampleOfFrame } from '@/core/document/sound';
import { overloadRuns, overloadsOf, overWords } from '@/core/sound/overloads';

const FILM = { num: 24000, den: 1001 };
const MIX = 48_000;

describe('overloads of a mix', () => {
  it('are on the very frame whose sample is over full scale, and full scale itself is none', () => {
    fc.assert(
      fc.property(
        fc.nat(40),
        fc.nat(60),
        fc.float({ min: Math.fround(0.9), max: 2, noNaN: true }),
        fc.boolean(),
        (from, within, value, isBelow) => {
          const start = sampleOfFrame(from, FILM, MIX);
          const channel = new Float32Array(sampleOfFrame(from + 61, FILM, MIX) - start).fill(1);
          const at = sampleOfFrame(from + within + 1, FILM, MIX) - 1 - start;
          channel[at] = isBelow ? -value : value;
          const expected = Math.fround(value) > 1 ? [{ frame: from + within, peak: Math.fround(value) }] : [];
          expect(overloadsOf([new Float32Array(channel.length), channel], from, from + 60, FILM, MIX)).toEqual(expected);
        },
      ),
    );
  });

  it('that follow each other are one run with the loudest of them', () =>
    expect(
      overloadRuns([
        { frame: 3, peak: 1.1 },
        { frame: 4, peak: 1.4 },
        { frame: 9, peak: 1.2 },
      ]),
    ).toEqual([
      { fromFrame: 3, toFrame: 4, peak: 1.4 },
      { fromFrame: 9, toFrame: 9, peak: 1.2 },
    ]));

  it.each([
    [2, '+6.0 dB'],
    [10, '+20.0 dB'],
    [1.0001, '+0.1 dB'],
  ])('%d is %s', (peak, words) => expect(overWords(peak)).toBe(words));
});
