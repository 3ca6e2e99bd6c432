import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { chunkAt, frameOfTick, LateCount, ROUND_AND_ROUND, SPEEDS, secondsOfTick, tickDue, ticksToPlay } from '@/core/time/playing';

const R24 = { num: 24, den: 1 };
const whole = { fromFrame: 0, toFrame: 95 };

describe('tickDue', () => {
  it.each([
    [0, 0],
    [41, 0],
    [42, 1],
    [500, 12],
    [3999, 95],
    [4000, 0],
    [4042, 1],
  ])('after %i ms of 96 frames at 24 shows frame %i', (elapsed, frame) => expect(tickDue(elapsed, R24, whole, 0).frame).toBe(frame));

  it('starts where it is in the range, else at its beginning', () => {
    const loop = { fromFrame: 24, toFrame: 47 };
    expect(frameOfTick(0, loop, 30)).toBe(30);
    expect(frameOfTick(17, loop, 30)).toBe(47);
    expect(frameOfTick(18, loop, 30)).toBe(24);
    expect(frameOfTick(0, loop, 3)).toBe(24);
  });
});

describe('ways to play', () => {
  const range = { fromFrame: 4, toFrame: 7 };
  const framesOf = (ticks: number, startFrame: number, way: Partial<typeof ROUND_AND_ROUND>) =>
    Array.from({ length: ticks }, (_, tick) => frameOfTick(tick, range, startFrame, { ...ROUND_AND_ROUND, ...way }));

  it.each<[string, Partial<typeof ROUND_AND_ROUND>, number, number[]]>([
    ['forwards', {}, 4, [4, 5, 6, 7, 4, 5]],
    ['backwards', { backwards: true }, 7, [7, 6, 5, 4, 7, 6]],
    ['backwards from within', { backwards: true }, 5, [5, 4, 7, 6, 5, 4]],
    ['backwards from outside', { backwards: true }, 0, [7, 6, 5, 4, 7, 6]],
    ['every second frame', { everySecond: true }, 4, [4, 4, 6, 6, 4, 4]],
    ['every second frame, backwards', { everySecond: true, backwards: true }, 7, [7, 7, 5, 5, 7, 7]],
  ])('%s', (_what, way, start, frames) => expect(framesOf(6, start, way)).toEqual(frames));

  it.each([
    [1, 4, 4],
    [1, 6, 2],
    [3, 4, 12],
    [3, 7, 9],
    [1, 99, 4],
  ])('%i rounds from frame %i take %i ticks', (rounds, start, ticks) =>
    expect(ticksToPlay(range, start, { ...ROUND_AND_ROUND, rounds })).toBe(ticks),
  );

  it('end on the last frame and say they are over', () => {
    const once = { ...ROUND_AND_ROUND, rounds: 1 };
    expect(tickDue(4 * 41.7, R24, range, 4, once)).toEqual({ tick: 3, frame: 7, isOver: true });
    expect(tickDue(3 * 41.7, R24, range, 4, once)).toEqual({ tick: 3, frame: 7, isOver: false });
    expect(tickDue(1e9, R24, range, 4, once)).toEqual({ tick: 3, frame: 7, isOver: true });
    expect(ticksToPlay(range, 4, ROUND_AND_ROUND)).toBeNull();
  });

  it('take a quarter, half, once or twice as many frames a second, exactly', () => {
    expect(SPEEDS.map((speed) => tickDue(4000, R24, whole, 0, { ...ROUND_AND_ROUND, speed }).tick)).toEqual([24, 48, 96, 192]);
    const ntsc = { num: 30000, den: 1001 };
    expect(tickDue(1001 * 4, ntsc, whole, 0, { ...ROUND_AND_ROUND, speed: { num: 1, den: 4 } }).tick).toBe(30);
  });
});

describe('what is heard with the frames', () => {
  const range = { fromFrame: 4, toFrame: 13 };
  const forwards = ROUND_AND_ROUND;
  const backwards = { ...ROUND_AND_ROUND, backwards: true };

  it.each([
    ['from the beginning', 0, 4, forwards, [4, 7, 4]],
    ['from within', 0, 6, forwards, [6, 9, 4]],
    ['up to the end of a round', 4, 6, forwards, [10, 13, 4]],
    ['in the next round', 8, 6, forwards, [4, 7, 4]],
    ['no further than the round goes', 6, 6, forwards, [12, 13, 2]],
    ['backwards', 0, 13, backwards, [10, 13, 4]],
    ['backwards, at the end of a round', 8, 13, backwards, [4, 5, 2]],
  ] as const)('%s', (_words, tick, startFrame, way, [fromFrame, toFrame, ticks]) => {
    expect(chunkAt(tick, 4, range, startFrame, way)).toEqual({ fromFrame, toFrame, ticks });
  });

  it('is, chunk after chunk, what the frames are', () => {
    fc.assert(
      fc.property(
        fc.nat(30),
        fc.nat(30),
        fc.integer({ min: 1, max: 9 }),
        fc.boolean(),
        fc.nat(40),
        (from, more, most, isBackwards, start) => {
          const played = { fromFrame: from, toFrame: from + more };
          const way = { ...ROUND_AND_ROUND, backwards: isBackwards };
          for (let tick = 0; tick < 90; ) {
            const chunk = chunkAt(tick, most, played, start, way);
            expect(chunk.toFrame - chunk.fromFrame + 1).toBe(chunk.ticks);
            for (let each = 0; each < chunk.ticks; each++)
              expect(frameOfTick(tick + each, played, start, way)).toBe(isBackwards ? chunk.toFrame - each : chunk.fromFrame + each);
            tick += chunk.ticks;
          }
        },
      ),
    );
  });

  it.each(SPEEDS)('starts with its tick at $num/$den of the rate', (speed) => {
    const seconds = secondsOfTick(48, R24, { ...ROUND_AND_ROUND, speed });
    expect(seconds).toBeCloseTo((2 * speed.den) / speed.num, 12);
    expect(tickDue(seconds * 1000, R24, whole, 0, { ...ROUND_AND_ROUND, speed }).tick).toBe(48);
  });
});

describe('LateCount', () => {
  /** Drawings on twos: ticks 0 and 1 show a, 2 and 3 show b, and so on. */
  const onTwos = () =>
    new LateCount(
      (tick) => String(Math.floor(tick / 2)),
      (tick) => tick,
    );

  it('counts nothing late when every picture is there in its time', () => {
    const count = onTwos();
    for (let tick = 0; tick < 24; tick++) count.due(tick, String(Math.floor(tick / 2)));
    expect([count.ticks, count.late]).toEqual([23, 0]);
  });

  it('counts a tick whose picture was not ready', () => {
    const count = onTwos();
    count.due(0, '0');
    count.due(1, '0');
    count.due(2, '0');
    count.due(3, '1');
    count.due(4, '2');
    expect([count.ticks, count.late, ...count.lateFrames]).toEqual([4, 1, 2]);
  });

  it('counts skipped ticks late, but not those whose picture stood there anyway', () => {
    const count = onTwos();
    count.due(0, '0');
    count.due(7, '3');
    count.due(8, '4');
    expect(count.lateFrames).toEqual([2, 3, 4, 5, 6]);
    const held = new LateCount(
      () => 'same',
      (tick) => tick,
    );
    held.due(0, 'same');
    held.due(20, 'same');
    expect(held.late).toBe(0);
  });

  it('takes a picture that comes within its tick as in time', () => {
    const count = onTwos();
    count.due(0, '0');
    count.due(2, '0');
    count.due(2, '1');
    count.due(3, '1');
    expect(count.lateFrames).toEqual([]);
  });
});
