import { describe, expect, it } from 'vitest';
import { frameOfTick, LateCount, tickDue } from '@/core/sheet/playing';

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
