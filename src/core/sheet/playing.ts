import type { Rate } from '@/core/time/rate';
import { frameAtMilliseconds } from '@/core/time/seconds';

/** Frames to play over and over, both ends inclusive, from 0. */
export type PlayRange = { readonly fromFrame: number; readonly toFrame: number };

/**
 * The tick due so long after the start: ticks count on from 0 over every round of the range, and
 * `frame` is the one that tick shows. By the clock alone, never by counting callbacks.
 */
export function tickDue(elapsedMilliseconds: number, rate: Rate, range: PlayRange, startFrame: number): { tick: number; frame: number } {
  const tick = frameAtMilliseconds(elapsedMilliseconds, rate);
  return { tick, frame: frameOfTick(tick, range, startFrame) };
}

/** The frame a tick shows when playing a range round and round from `startFrame` (taken into the range). */
export function frameOfTick(tick: number, range: PlayRange, startFrame: number): number {
  const frames = range.toFrame - range.fromFrame + 1;
  const offset = startFrame < range.fromFrame || startFrame > range.toFrame ? 0 : startFrame - range.fromFrame;
  return range.fromFrame + ((offset + tick) % frames);
}

/** Counts ticks whose picture was not on the screen in its own time. */
export class LateCount {
  private lastTick = -1;
  private shown = false;
  private onScreen: string | null = null;
  /** Ticks that are over, and how many of them were late. */
  ticks = 0;
  late = 0;
  /** The first frames that were late, for telling where. */
  readonly lateFrames: number[] = [];

  constructor(
    private readonly keyOfTick: (tick: number) => string,
    private readonly frameOf: (tick: number) => number,
  ) {}

  /** Takes note that `tick` is due now; `showing` is the key of the picture on the screen after painting. */
  due(tick: number, showing: string | null): void {
    while (this.lastTick >= 0 && this.lastTick < tick) {
      this.finish();
      this.lastTick++;
      this.shown = this.onScreen === this.keyOfTick(this.lastTick) && this.lastTick < tick;
    }
    if (this.lastTick < 0) this.lastTick = tick;
    this.onScreen = showing;
    if (showing === this.keyOfTick(tick)) this.shown = true;
  }

  private finish(): void {
    this.ticks++;
    if (this.shown) return;
    this.late++;
    if (this.lateFrames.length < 50) this.lateFrames.push(this.frameOf(this.lastTick));
  }
}
