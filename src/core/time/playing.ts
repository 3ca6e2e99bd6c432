import type { Rate } from '@/core/time/rate';
import { frameAtMilliseconds } from '@/core/time/seconds';

/** Frames to play over and over, both ends inclusive, from 0. */
export type PlayRange = { readonly fromFrame: number; readonly toFrame: number };

/** How fast, of the true rate; exact, since a speed is never rounded into the rate. */
export type Speed = { readonly num: number; readonly den: number };
export const SPEEDS: readonly Speed[] = [
  { num: 1, den: 4 },
  { num: 1, den: 2 },
  { num: 1, den: 1 },
  { num: 2, den: 1 },
];

/** How a range is played: `rounds` times, or for ever when null; `everySecond` shows each second frame for two. */
export type PlayWay = {
  readonly speed: Speed;
  readonly backwards: boolean;
  readonly rounds: number | null;
  readonly everySecond: boolean;
};

/** Forwards at the true rate, round and round. */
export const ROUND_AND_ROUND: PlayWay = { speed: { num: 1, den: 1 }, backwards: false, rounds: null, everySecond: false };

const isIn = (frame: number, { fromFrame, toFrame }: PlayRange) => frame >= fromFrame && frame <= toFrame;

/** How far into the first round playing starts, in ticks. */
function startTick(range: PlayRange, startFrame: number, { backwards }: PlayWay): number {
  if (!isIn(startFrame, range)) return 0;
  return backwards ? range.toFrame - startFrame : startFrame - range.fromFrame;
}

/** How many ticks playing takes from `startFrame` on; null when it goes on for ever. */
export function ticksToPlay(range: PlayRange, startFrame: number, way: PlayWay): number | null {
  if (way.rounds === null) return null;
  return way.rounds * (range.toFrame - range.fromFrame + 1) - startTick(range, startFrame, way);
}

/**
 * The tick due so long after the start: ticks count on from 0 over every round of the range, and `frame` is the
 * one that tick shows. By the clock alone, never by counting callbacks. Once all rounds are over it stays the
 * last tick, and `isOver` says so.
 */
export function tickDue(
  elapsedMilliseconds: number,
  rate: Rate,
  range: PlayRange,
  startFrame: number,
  way: PlayWay = ROUND_AND_ROUND,
): { tick: number; frame: number; isOver: boolean } {
  const played = { num: rate.num * way.speed.num, den: rate.den * way.speed.den };
  const due = frameAtMilliseconds(elapsedMilliseconds, played);
  const ticks = ticksToPlay(range, startFrame, way);
  const isOver = ticks !== null && due >= ticks;
  const tick = isOver ? ticks - 1 : due;
  return { tick, frame: frameOfTick(tick, range, startFrame, way), isOver };
}

/** The frame a tick shows when playing a range from `startFrame` (taken into the range). */
export function frameOfTick(tick: number, range: PlayRange, startFrame: number, way: PlayWay = ROUND_AND_ROUND): number {
  const frames = range.toFrame - range.fromFrame + 1;
  const at = (startTick(range, startFrame, way) + tick) % frames;
  const shown = way.everySecond ? at - (at % 2) : at;
  return way.backwards ? range.toFrame - shown : range.fromFrame + shown;
}

/** When a tick starts, in seconds after the first one started: for what is heard with it. */
export const secondsOfTick = (tick: number, rate: Rate, { speed }: PlayWay): number =>
  (tick * rate.den * speed.den) / (rate.num * speed.num);

/**
 * At most so many ticks from `tick` on whose frames lie side by side, in the order of time or, backwards, against
 * it: what ends a chunk is the end of a round. Both frames inclusive.
 */
export function chunkAt(
  tick: number,
  mostTicks: number,
  range: PlayRange,
  startFrame: number,
  way: PlayWay,
): { readonly fromFrame: number; readonly toFrame: number; readonly ticks: number } {
  const frames = range.toFrame - range.fromFrame + 1;
  const at = (startTick(range, startFrame, way) + tick) % frames;
  const ticks = Math.min(mostTicks, frames - at);
  return way.backwards
    ? { fromFrame: range.toFrame - at - ticks + 1, toFrame: range.toFrame - at, ticks }
    : { fromFrame: range.fromFrame + at, toFrame: range.fromFrame + at + ticks - 1, ticks };
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
