import { showsClip } from '@/core/render/clipPicture';
import type { PictureStack } from '@/core/render/stacks';
import { type PreviewSize, type PreviewsHeld, preview, previewsHeld, previewsRest, readyPreview } from '@/features/clock/previews';

/** How far pictures are made ready before they are due. */
const MOST_TICKS = 120;
/** How many are asked for side by side when they are urgent, and when there is time: playing needs the machine too. */
const URGENT_AT_ONCE = 12;
const CALM_AT_ONCE = 2;
/** No start with less than this ready, and none before so many pictures tell how fast they come. */
const LEAST_LEAD_TICKS = 24;
const LEAST_MEASURED = 6;
/** Playing that only gets going takes what machine there is: with less than this to wait, all is made ready first. */
const LONGEST_WAIT_MILLISECONDS = 2500;
/** How much of what can be held is made ready ahead: the rest stays for going back. */
const HORIZON_PART = 0.75;
/** How much slower than measured the rest may come. */
const SAFETY = 2;

/** How much of the machine is used: all of it before playing starts, no more than is needed while it plays, little otherwise. */
type Pace = 'starting' | 'playing' | 'idle';

/** How many ticks from one on, up to `mostTicks`, show no more different pictures than told, of those with frames of clips and of all others. */
function ticksWithin(stackOfTick: (tick: number) => PictureStack, fromTick: number, mostTicks: number, most: PreviewsHeld): number {
  const [ofDrawings, ofClips] = [new Set<string>(), new Set<string>()];
  for (let tick = 0; tick < mostTicks; tick++) {
    const stack = stackOfTick(fromTick + tick);
    (showsClip(stack) ? ofClips : ofDrawings).add(stack.key);
    if (ofDrawings.size > most.ofDrawings || ofClips.size > most.ofClips) return tick;
  }
  return mostTicks;
}

/**
 * Makes the pictures of coming ticks ready, in order, a bounded way ahead. A picture that is missing
 * counts as settled: it will be late, and waiting wouldn't help.
 */
export class ReadAhead {
  private readonly startTime = performance.now();
  private readonly mostTicks: number;
  private readonly most: PreviewsHeld;
  /** How far is made ready before playing starts. */
  private readonly startTicks: number;
  private readonly failed = new Set<string>();
  private pace: Pace = 'idle';
  private dueTick = 0;
  private nextTick = 0;
  private wantedTick = 0;
  private asked = 0;
  private made = 0;
  private stopped = false;
  /** Every tick before this one is ready. */
  private settledTick = 0;

  constructor(
    private readonly size: PreviewSize,
    private readonly stackOfTick: (tick: number) => PictureStack,
    rangeFrames: number,
    private readonly settled: () => void = () => undefined,
  ) {
    const held = previewsHeld(size);
    this.mostTicks = Math.min(MOST_TICKS, rangeFrames);
    this.most = { ofDrawings: Math.floor(held.ofDrawings * HORIZON_PART), ofClips: Math.floor(held.ofClips * HORIZON_PART) };
    this.startTicks = this.reach(0);
  }

  /** How many ticks from one on what is ready has room for. */
  private reach(tick: number): number {
    return ticksWithin(this.stackOfTick, tick, this.mostTicks, this.most);
  }

  stop(): void {
    this.stopped = true;
  }

  /** Goes on making ready from `tick` on, the next that is due. */
  from(tick: number, pace: Pace): void {
    this.pace = pace;
    this.dueTick = tick;
    this.nextTick = Math.max(this.nextTick, tick);
    this.settledTick = Math.max(this.settledTick, tick);
    this.wantedTick = tick + this.reach(tick);
    this.settle();
    this.ask();
  }

  /**
   * Whether playing can start and nothing is expected to come late: all within reach is ready, or that
   * takes long and at the pace so far the rest is ready sooner than what is ready has been played.
   */
  leads(millisecondsPerTick: number): boolean {
    if (this.settledTick >= this.startTicks) return true;
    const waitedMilliseconds = performance.now() - this.startTime;
    if (waitedMilliseconds < LONGEST_WAIT_MILLISECONDS || this.settledTick < LEAST_LEAD_TICKS || this.made < LEAST_MEASURED) return false;
    const left = new Set<string>();
    for (let tick = this.settledTick; tick < this.startTicks; tick++) {
      if (!this.isSettled(tick)) left.add(this.stackOfTick(tick).key);
    }
    return left.size * (waitedMilliseconds / this.made) * SAFETY <= this.settledTick * millisecondsPerTick;
  }

  private isSettled(tick: number): boolean {
    const stack = this.stackOfTick(tick);
    return readyPreview(this.size, stack) !== undefined || this.failed.has(stack.key);
  }

  private settle(): void {
    while (this.settledTick < this.wantedTick && this.isSettled(this.settledTick)) this.settledTick++;
  }

  private mostAtOnce(): number {
    if (this.pace === 'playing') return this.settledTick - this.dueTick < LEAST_LEAD_TICKS ? URGENT_AT_ONCE : CALM_AT_ONCE;
    return this.pace === 'starting' ? URGENT_AT_ONCE : CALM_AT_ONCE;
  }

  private ask(): void {
    if (this.pace === 'idle' && previewsRest()) return;
    while (this.nextTick < this.wantedTick && this.asked < this.mostAtOnce() && !this.stopped) {
      const tick = this.nextTick++;
      if (this.isSettled(tick)) continue;
      const stack = this.stackOfTick(tick);
      this.asked++;
      preview(this.size, stack, true)
        .then(
          () => this.made++,
          () => this.failed.add(stack.key),
        )
        .finally(() => {
          this.asked--;
          if (this.stopped) return;
          this.settle();
          this.ask();
          this.settled();
        });
    }
  }
}
