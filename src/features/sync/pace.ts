/** Steps made one soon after another go out together: a sending begins at the earliest so long after the one before it. */
export const LEAST_BETWEEN_MILLISECONDS = 200;

/** The part of the world a pace lives in. */
export type PaceWorld = {
  readonly now: () => number;
  /** Calls back after a time. */
  readonly after: (milliseconds: number, done: () => void) => void;
};

/**
 * The pace at which steps are sent. The first one after a while goes out at once; what follows on its heels, as while
 * a key is held down, waits a moment, so that page and server aren't busy with a sending for each.
 */
export class Pace {
  private lastMilliseconds = Number.NEGATIVE_INFINITY;

  constructor(private readonly world: PaceWorld) {}

  /** Resolves when the next sending may begin, which counts as begun then. */
  async turn(): Promise<void> {
    const leftMilliseconds = this.lastMilliseconds + LEAST_BETWEEN_MILLISECONDS - this.world.now();
    // A clock that was set back must not keep anything from being sent.
    if (leftMilliseconds > 0 && leftMilliseconds <= LEAST_BETWEEN_MILLISECONDS)
      await new Promise<void>((resolve) => this.world.after(leftMilliseconds, resolve));
    this.lastMilliseconds = this.world.now();
  }
}
