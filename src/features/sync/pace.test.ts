import { describe, expect, it } from 'vitest';
import { LEAST_BETWEEN_MILLISECONDS, MOST_DRAWN_MILLISECONDS, Pace } from '@/features/sync/pace';

/** A world whose time goes on when it is told to; `asked` are the waits that were asked for. */
function paced() {
  const world = { time: 1_000_000, asked: [] as number[], drawnFor: 0, restAsked: [] as number[] };
  const pace = new Pace({
    now: () => world.time,
    after: (milliseconds, done) => {
      world.asked.push(milliseconds);
      world.time += milliseconds;
      done();
    },
    handRests: async (mostMilliseconds) => {
      world.restAsked.push(mostMilliseconds);
      world.time += world.drawnFor;
    },
  });
  return { world, pace };
}

describe('the pace of sending', () => {
  it('lets the first go at once, and one that comes after a while', async () => {
    const { world, pace } = paced();
    await pace.turn();
    world.time += LEAST_BETWEEN_MILLISECONDS;
    await pace.turn();
    expect(world.asked).toEqual([]);
  });

  it('has one that follows on its heels wait for what is left', async () => {
    const { world, pace } = paced();
    await pace.turn();
    world.time += 30;
    await pace.turn();
    await pace.turn();
    expect(world.asked).toEqual([LEAST_BETWEEN_MILLISECONDS - 30, LEAST_BETWEEN_MILLISECONDS]);
  });

  it('waits for the hand to rest, which the next one counts from', async () => {
    const { world, pace } = paced();
    world.drawnFor = 1500;
    await pace.turn();
    world.drawnFor = 0;
    world.time += 30;
    await pace.turn();
    expect(world.restAsked).toEqual([MOST_DRAWN_MILLISECONDS, MOST_DRAWN_MILLISECONDS]);
    expect(world.asked).toEqual([LEAST_BETWEEN_MILLISECONDS - 30]);
  });

  it('lets one go at once when the clock was set back by hours', async () => {
    const { world, pace } = paced();
    await pace.turn();
    world.time -= 7_200_000;
    await pace.turn();
    expect(world.asked).toEqual([]);
  });
});
