import { describe, expect, it } from 'vitest';
import { Retryer, type Trouble } from '@/features/sync/retryer';

/** A retryer in a world whose clock is moved by hand; chance always gives the longest wait. */
function world(random = 0.999_999) {
  let now = 0;
  let online = true;
  let timers: { at: number; done: () => void }[] = [];
  const told: (Trouble | null)[] = [];
  const retryer = new Retryer(
    {
      now: () => now,
      after: (milliseconds, done) => {
        const timer = { at: now + milliseconds, done };
        timers.push(timer);
        return () => {
          timers = timers.filter((each) => each !== timer);
        };
      },
      random: () => random,
      isOnline: () => online,
    },
    (trouble) => told.push(trouble),
  );
  return {
    retryer,
    told,
    timers: () => timers.length,
    setOnline: (value: boolean) => {
      online = value;
    },
    async pass(milliseconds: number) {
      now += milliseconds;
      for (const timer of timers.filter((each) => each.at <= now)) {
        timers = timers.filter((each) => each !== timer);
        timer.done();
      }
      await Promise.resolve();
    },
  };
}

/** A promise's state, looked at. */
function watched(promise: Promise<void>): { done: boolean } {
  const state = { done: false };
  void promise.then(() => {
    state.done = true;
  });
  return state;
}

describe('Retryer', () => {
  it('waits from one second on twice as long each time, at most thirty', async () => {
    const { retryer, told, pass } = world();
    const waits: number[] = [];
    for (let tries = 0; tries < 8; tries++) {
      const waiting = watched(retryer.wait());
      const { nextMilliseconds } = told.at(-1) ?? {};
      const now = told.at(-1)?.sinceMilliseconds ?? 0;
      waits.push(Math.round(((nextMilliseconds ?? 0) - now) / 1000));
      await pass(30_001);
      expect(waiting.done).toBe(true);
    }
    // Each is told from the first failure on: the differences are the waits, and 30 s passed in between.
    expect(waits[0]).toBe(1);
    expect(told.at(-1)?.tries).toBe(8);
    expect((told.at(-1)?.nextMilliseconds ?? 0) - 7 * 30_001).toBeLessThanOrEqual(30_000);
  });

  it('takes a part of the wait by chance, never less than half', async () => {
    const { retryer, told } = world(0);
    void retryer.wait();
    expect(told.at(-1)?.nextMilliseconds).toBe(500);
  });

  it('has one timer however many wait, and wakes them together', async () => {
    const { retryer, timers, pass, told } = world();
    const waiting = [1, 2, 3].map(() => watched(retryer.wait()));
    expect(timers()).toBe(1);
    expect(told.at(-1)?.tries).toBe(1);
    await pass(1001);
    expect(waiting.every((each) => each.done)).toBe(true);
    expect(timers()).toBe(0);
  });

  it('asks nobody while offline, and at once when the connection is back', async () => {
    const { retryer, timers, setOnline, told, pass } = world();
    setOnline(false);
    const waiting = watched(retryer.wait());
    expect(timers()).toBe(0);
    expect(told.at(-1)?.nextMilliseconds).toBeNull();
    await pass(600_000);
    expect(waiting.done).toBe(false);
    setOnline(true);
    retryer.wake();
    await pass(0);
    expect(waiting.done).toBe(true);
  });

  it('stops its timer when the connection goes while it waits', async () => {
    const { retryer, timers, told } = world();
    void retryer.wait();
    retryer.pause();
    expect(timers()).toBe(0);
    expect(told.at(-1)?.nextMilliseconds).toBeNull();
  });

  it('is woken by a press, and begins with a short wait again once the server has answered', async () => {
    const { retryer, told, pass } = world();
    for (let tries = 0; tries < 4; tries++) {
      const waiting = watched(retryer.wait());
      retryer.wake();
      await pass(0);
      expect(waiting.done).toBe(true);
    }
    expect(told.at(-1)?.tries).toBe(4);
    retryer.succeeded();
    expect(told.at(-1)).toBeNull();
    void retryer.wait();
    expect(told.at(-1)).toMatchObject({ tries: 1 });
  });
});
