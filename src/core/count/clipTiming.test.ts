import { describe, expect, it } from 'vitest';
import { clipTimingOf, timingOfFirst } from '@/core/count/clipTiming';

const times = (starts: readonly number[], lastDuration: number | null, tick: number) => ({
  startMicroseconds: starts,
  lastDurationMicroseconds: lastDuration,
  statedDurationMicroseconds: null,
  tickMicroseconds: tick,
});
const even = (frames: number, perSecond: number, round: (value: number) => number) =>
  Array.from({ length: frames }, (_, frame) => round((frame * 1e6) / perSecond));

describe('the times of a clip', () => {
  it.each([
    ['24 a second in thousandths', 24, 1000, { num: 24, den: 1 }],
    ['25 a second in thousandths', 25, 1000, { num: 25, den: 1 }],
    ['30 a second, exactly', 30, 1, { num: 30, den: 1 }],
    ['12 a second in thousandths', 12, 1000, { num: 12, den: 1 }],
  ])('%s are of one rate', (_what, perSecond, tick, rate) => {
    const starts = even(1200, perSecond, (value) => Math.round(value / tick) * tick);
    expect(clipTimingOf(times(starts, null, tick))).toEqual({ kind: 'constant', rate });
  });

  it('of 23.976 in thousandths are told from 24 once they are long enough', () => {
    const starts = even(3000, 24000 / 1001, (value) => Math.round(value / 1000) * 1000);
    expect(clipTimingOf(times(starts, null, 1000))).toEqual({ kind: 'constant', rate: { num: 24000, den: 1001 } });
  });

  it('that vary are kept as they are, equal ones together, the last as its file says or as the one before', () => {
    const starts = [0, 40_000, 80_000, 200_000, 240_000, 360_000];
    expect(clipTimingOf(times(starts, 50_000, 1))).toEqual({
      kind: 'variable',
      spans: [
        { frames: 2, microseconds: 40_000 },
        { frames: 1, microseconds: 120_000 },
        { frames: 1, microseconds: 40_000 },
        { frames: 1, microseconds: 120_000 },
        { frames: 1, microseconds: 50_000 },
      ],
    });
    expect(clipTimingOf(times(starts, null, 1))).toMatchObject({ spans: [{}, {}, {}, { frames: 2, microseconds: 120_000 }] });
  });

  it('of one frame that says nothing stand a moment', () =>
    expect(clipTimingOf(times([0], null, 1000))).toEqual({ kind: 'variable', spans: [{ frames: 1, microseconds: 1 }] }));

  it('of the first frames alone end with them', () => {
    const timing = {
      kind: 'variable',
      spans: [
        { frames: 3, microseconds: 5 },
        { frames: 3, microseconds: 7 },
      ],
    } as const;
    expect(timingOfFirst(timing, 4)).toEqual({
      kind: 'variable',
      spans: [
        { frames: 3, microseconds: 5 },
        { frames: 1, microseconds: 7 },
      ],
    });
    expect(timingOfFirst(timing, 2)).toEqual({ kind: 'variable', spans: [{ frames: 2, microseconds: 5 }] });
  });
});
