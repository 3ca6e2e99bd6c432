import { handRests } from '@/features/sync/hand';

/** Least time between the beginnings of two sendings, so that steps made in quick succession go out together. */
export const LEAST_BETWEEN_MILLISECONDS = 200;

/** What is drawn without a rest goes out after so long. It is in the browser's own store meanwhile. */
export const MOST_DRAWN_MILLISECONDS = 10_000;

/** The part of the world a pace lives in. */
export type PaceWorld = {
  readonly now: () => number;
  /** Calls back after a time. */
  readonly after: (milliseconds: number, done: () => void) => void;
  /** Resolves once nothing is being drawn, after so long at the latest. */
  readonly handRests: (mostMilliseconds: number) => Promise<void>;
};

/** The world of a page. */
export const PAGE_WORLD: PaceWorld = {
  now: () => Date.now(),
  after: (milliseconds, done) => void setTimeout(done, milliseconds),
  handRests,
};

/**
 * The pace at which steps are sent. After a pause the first goes out at once; those that follow on its heels, as while a key
 * is held down, wait a moment, so that page and server are not busy with a sending for each. While something is drawn they
 * wait for the hand to rest: server and browser share a machine mostly, and reading pictures takes more of it than drawing.
 */
export class Pace {
  private lastMilliseconds = Number.NEGATIVE_INFINITY;

  constructor(private readonly world: PaceWorld) {}

  /** Resolves when the next sending may begin, which counts as begun then. */
  async turn(): Promise<void> {
    await this.world.handRests(MOST_DRAWN_MILLISECONDS);
    const leftMilliseconds = this.lastMilliseconds + LEAST_BETWEEN_MILLISECONDS - this.world.now();
    // A clock that was set back must not keep anything from being sent.
    if (leftMilliseconds > 0 && leftMilliseconds <= LEAST_BETWEEN_MILLISECONDS)
      await new Promise<void>((resolve) => this.world.after(leftMilliseconds, resolve));
    this.lastMilliseconds = this.world.now();
  }
}
