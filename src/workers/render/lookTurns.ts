import type { Digest } from '@/core/document/model';
import type { Look } from '@/workers/render/looks';

type Waiting<Shown> = { readonly look: Look; readonly resolve: (shown: Shown) => void; readonly reject: (reason: unknown) => void };

/**
 * Turns in which looks of pictures are made: a picture at a time, those first that were asked for first. All looks of a picture that are
 * waited for when its turn has come are made from it together, however far apart they were asked for, since having the whole picture
 * takes longest.
 */
export class LookTurns<Whole, Shown> {
  private readonly waiting = new Map<Digest, Waiting<Shown>[]>();
  private isGoing = false;
  private whenResting: (() => void)[] = [];

  constructor(
    private readonly wholeOf: (digest: Digest) => Promise<Whole>,
    private readonly make: (whole: Whole, look: Look) => Promise<Shown>,
  ) {}

  /** Whether a picture waits for its turn. */
  isWaiting(digest: Digest): boolean {
    return this.waiting.has(digest);
  }

  /** A picture in one look; rejects as having the picture, or making the look, does. */
  look(look: Look): Promise<Shown> {
    return new Promise((resolve, reject) => {
      const each = { look, resolve, reject };
      const others = this.waiting.get(look.digest);
      if (others) others.push(each);
      else this.waiting.set(look.digest, [each]);
      if (!this.isGoing) void this.go();
    });
  }

  /** Calls back at a moment when no picture is used: at once where none is waited for, else once all have had their turns. */
  whenAtRest(then: () => void): void {
    if (this.isGoing) this.whenResting.push(then);
    else then();
  }

  private async go(): Promise<void> {
    this.isGoing = true;
    // What is asked for together is known before the first turn begins.
    await Promise.resolve();
    for (let [digest] = this.waiting.keys(); digest !== undefined; [digest] = this.waiting.keys()) await this.turn(digest);
    this.isGoing = false;
    const resting = this.whenResting;
    this.whenResting = [];
    for (const then of resting) then();
  }

  private async turn(digest: Digest): Promise<void> {
    const take = () => {
      const all = this.waiting.get(digest) ?? [];
      this.waiting.delete(digest);
      return all;
    };
    let whole: Whole;
    try {
      whole = await this.wholeOf(digest);
    } catch (error) {
      for (const { reject } of take()) reject(error);
      return;
    }
    for (const { look, resolve, reject } of take()) await this.make(whole, look).then(resolve, reject);
  }
}
