/*
 * Trying again, as one object: whoever waits for the server waits here, and all are woken together. The wait
 * doubles from one second to thirty, a part of it by chance, so that many windows don't ask at one moment.
 * Offline nobody asks; `online`, or a press, wakes at once.
 */

/** The part of the world a retryer lives in. */
export type RetryWorld = {
  readonly now: () => number;
  /** Calls back after a time. Returns a function that keeps it from calling. */
  readonly after: (milliseconds: number, done: () => void) => () => void;
  /** From 0 (inclusive) to 1 (exclusive). */
  readonly random: () => number;
  readonly isOnline: () => boolean;
};

export const LEAST_WAIT_MILLISECONDS = 1000;
export const MOST_WAIT_MILLISECONDS = 30_000;

/** Since when the server has not answered, how often it was asked, and when it is asked next (null while offline). */
export type Trouble = { readonly sinceMilliseconds: number; readonly tries: number; readonly nextMilliseconds: number | null };

export class Retryer {
  private trouble: Trouble | null = null;
  private waiters: (() => void)[] = [];
  private stopTimer: (() => void) | null = null;

  constructor(
    private readonly world: RetryWorld,
    private readonly onChange: (trouble: Trouble | null) => void = () => undefined,
  ) {}

  /** Resolves when it is time to try again after a failure. */
  wait(): Promise<void> {
    const waiting = new Promise<void>((resolve) => this.waiters.push(resolve));
    // Those who fail while others wait already wait with them: the time grows by tries, not by how many ask.
    if (this.waiters.length === 1) this.begin();
    return waiting;
  }

  private begin(): void {
    const tries = (this.trouble?.tries ?? 0) + 1;
    const whole = Math.min(MOST_WAIT_MILLISECONDS, LEAST_WAIT_MILLISECONDS * 2 ** (tries - 1));
    const milliseconds = whole * (0.5 + this.world.random() / 2);
    const now = this.world.now();
    const online = this.world.isOnline();
    this.setTrouble({
      sinceMilliseconds: this.trouble?.sinceMilliseconds ?? now,
      tries,
      nextMilliseconds: online ? now + milliseconds : null,
    });
    this.stopTimer?.();
    this.stopTimer = online ? this.world.after(milliseconds, () => this.wake()) : null;
  }

  /** The server answered: the next failure waits a short time again. */
  succeeded(): void {
    if (this.trouble) this.setTrouble(null);
    this.wake();
  }

  /** Has everybody who waits try now. */
  wake(): void {
    this.stopTimer?.();
    this.stopTimer = null;
    const { waiters } = this;
    this.waiters = [];
    for (const wake of waiters) wake();
  }

  /** The connection went: nobody asks until it is back. */
  pause(): void {
    if (this.waiters.length === 0 || !this.trouble) return;
    this.stopTimer?.();
    this.stopTimer = null;
    this.setTrouble({ ...this.trouble, nextMilliseconds: null });
  }

  private setTrouble(trouble: Trouble | null): void {
    this.trouble = trouble;
    this.onChange(trouble);
  }
}
