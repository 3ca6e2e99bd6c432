import { countInField, type FlashField, fieldOn } from '@/core/check/flashField';
import { everyCell, type LightCells } from '@/core/raster/light';
import type { Size } from '@/core/sheet/document';
import type { Rate } from '@/core/time/rate';

/*
 * Flash safety by WCAG 2.2, success criterion 2.3.1 and its definitions:
 * - general flash: "a pair of opposing changes in relative luminance of 10% or more of the maximum relative
 *   luminance (1.0) where the relative luminance of the darker image is below 0.80";
 * - red flash: "any pair of opposing transitions involving a saturated red", one where "one transition is either
 *   to or from a state with a value R/(R + G + B) that is greater than or equal to 0.8, and the difference between
 *   states is more than 0.2 (unitless) in the CIE 1976 UCS chromaticity diagram";
 * - below the threshold: no more than three of either "within any one-second period", or "the combined area of
 *   flashes occurring concurrently occupies no more than … (25% of any 10 degree visual field on the screen)",
 *   where "a 341 x 256 pixel rectangle anywhere on the displayed screen area when the content is viewed at 1024 x
 *   768 pixels will provide a good estimate of a 10 degree visual field".
 *
 * Here: each cell of a frame is followed through its changes. A cell makes a transition on the frame on which it
 * has moved far enough from the last turning point. For every place of the rectangle, cells that make a
 * transition in the same direction on one frame are counted; more than a quarter of the rectangle makes a
 * transition of that place. Two opposing transitions are a flash; of transitions of one direction in a row the
 * first counts. Within a second are transitions whose frames lie at most one second apart.
 */

const LEAST_CHANGE = 0.1;
const DARKER_BELOW = 0.8;
/** From this part of red on a state is saturated red. */
export const SATURATED_RED = 0.8;
const LEAST_CHROMA_CHANGE = 0.2;
const MOST_FLASHES = 3;
/** Thresholds are met by values that rounding to single precision has left a hair below. */
const HAIR = 1e-6;

/** A stretch of frames that shows one light, from `startFrame` on. */
export type LightRun = { readonly light: LightCells; readonly startFrame: number };

export type FlashKind = 'general' | 'red';

/** The worst second of a film: how many flashes, between which frames (inclusive), and over how much of the 10° field at most, in percent. */
export type Flashes = {
  readonly kind: FlashKind;
  readonly flashes: number;
  readonly fromFrame: number;
  readonly toFrame: number;
  readonly fieldPercent: number;
};

/** Whether so many flashes in one second are more than the criterion allows. */
export const areTooMany = ({ flashes }: Flashes): boolean => flashes > MOST_FLASHES;

/** How many cells made a transition up or towards red, and how many down or away. */
type Marked = { readonly up: number; readonly down: number };

/** Follows cells, and marks each that changes by whether it made a transition: 1 up or towards red, -1 down or away, 0 none. */
type Follower = { follow(cells: ArrayLike<number>, light: LightCells, marks: Int8Array): Marked };

/** Follows luminance: after a rise from its highest, after a fall from its lowest, before either from both. */
function generalFollower(cells: number, first: LightCells): Follower {
  const [low, high, direction] = [first.luminance.slice(0, cells), first.luminance.slice(0, cells), new Int8Array(cells)];
  return {
    follow(changed, { luminance }, marks) {
      let [up, down] = [0, 0];
      for (let index = 0; index < changed.length; index++) {
        const cell = changed[index] as number;
        const now = luminance[cell] as number;
        const lowest = Math.min(low[cell] as number, now);
        const highest = Math.max(high[cell] as number, now);
        if (direction[cell] !== 1 && now - lowest >= LEAST_CHANGE - HAIR && lowest < DARKER_BELOW) {
          direction[cell] = marks[cell] = 1;
          low[cell] = high[cell] = now;
          up++;
        } else if (direction[cell] !== -1 && highest - now >= LEAST_CHANGE - HAIR && now < DARKER_BELOW) {
          direction[cell] = marks[cell] = -1;
          low[cell] = high[cell] = now;
          down++;
        } else {
          marks[cell] = 0;
          low[cell] = lowest;
          high[cell] = highest;
        }
      }
      return { up, down };
    },
  };
}

/** u', v' of linear sRGB by CIE 1976 with the matrix of IEC 61966-2-1; black, which has none, counts as white's. */
function chromaOf(red: number, green: number, blue: number): { u: number; v: number } {
  const x = 0.4124 * red + 0.3576 * green + 0.1805 * blue;
  const y = 0.2126 * red + 0.7152 * green + 0.0722 * blue;
  const z = 0.0193 * red + 0.1192 * green + 0.9505 * blue;
  const sum = x + 15 * y + 3 * z;
  return sum < 1e-6 ? { u: 0.1978, v: 0.4683 } : { u: (4 * x) / sum, v: (9 * y) / sum };
}

/** Follows chromaticity from the last state that made a transition. */
function redFollower(cells: number, first: LightCells): Follower {
  const [u, v] = [new Float32Array(cells), new Float32Array(cells)];
  const red = new Uint8Array(cells);
  const isRed = (light: LightCells, cell: number) => {
    const [r, g, b] = [light.red[cell] as number, light.green[cell] as number, light.blue[cell] as number];
    return r > 0 && r / (r + g + b) >= SATURATED_RED - HAIR;
  };
  const take = (
    cell: number,
    light: LightCells,
    chroma = chromaOf(light.red[cell] as number, light.green[cell] as number, light.blue[cell] as number),
  ) => {
    u[cell] = chroma.u;
    v[cell] = chroma.v;
    red[cell] = isRed(light, cell) ? 1 : 0;
  };
  for (let cell = 0; cell < cells; cell++) take(cell, first);
  const step = (cell: number, light: LightCells): -1 | 0 | 1 => {
    const nowRed = isRed(light, cell);
    if (!nowRed && red[cell] === 0) {
      take(cell, light);
      return 0;
    }
    const chroma = chromaOf(light.red[cell] as number, light.green[cell] as number, light.blue[cell] as number);
    if (Math.hypot(chroma.u - (u[cell] as number), chroma.v - (v[cell] as number)) <= LEAST_CHROMA_CHANGE) return 0;
    take(cell, light, chroma);
    return nowRed ? 1 : -1;
  };
  return {
    follow(changed, light, marks) {
      let [up, down] = [0, 0];
      for (let index = 0; index < changed.length; index++) {
        const cell = changed[index] as number;
        const made = step(cell, light);
        marks[cell] = made;
        if (made === 1) up++;
        else if (made === -1) down++;
      }
      return { up, down };
    },
  };
}

type Transition = { readonly frame: number; readonly direction: number; readonly cells: number };

/** The worst second of one place: the most flashes, and between which frames. */
function worstSecond(
  transitions: readonly Transition[],
  framesPerSecond: number,
): { flashes: number; from: number; to: number; cells: number } {
  const turns: Transition[] = [];
  for (const transition of transitions) if (turns.at(-1)?.direction !== transition.direction) turns.push(transition);
  let worst = { flashes: 0, from: 0, to: 0, cells: 0 };
  let first = 0;
  for (let last = 0; last < turns.length; last++) {
    const end = (turns[last] as Transition).frame;
    while (end - (turns[first] as Transition).frame > framesPerSecond) first++;
    const flashes = Math.floor((last - first + 1) / 2);
    if (flashes <= worst.flashes) continue;
    const cells = Math.max(...turns.slice(first, last + 1).map((turn) => turn.cells));
    worst = { flashes, from: (turns[first] as Transition).frame, to: end, cells };
  }
  return worst;
}

/** Watches a film's light for flashes of one kind, change by change. */
export class FlashWatch {
  private readonly field: FlashField;
  private readonly follower: Follower;
  private readonly marks: Int8Array;
  private readonly counts: Uint16Array;
  private readonly transitions: Transition[][];

  /** `first` is the light of the first frame. */
  constructor(
    size: Size,
    private readonly rate: Rate,
    private readonly kind: FlashKind,
    first: LightCells,
  ) {
    const cells = first.columns * first.rows;
    this.field = fieldOn(size, first);
    this.follower = kind === 'general' ? generalFollower(cells, first) : redFollower(cells, first);
    this.marks = new Int8Array(cells);
    this.counts = new Uint16Array(this.field.places);
    this.transitions = Array.from({ length: this.field.places }, () => []);
  }

  /** Takes in what some cells are from `frame` on; `light` is that of the whole frame. */
  change(frame: number, cells: ArrayLike<number>, light: LightCells): void {
    const { up, down } = this.follower.follow(cells, light, this.marks);
    this.collect(frame, 1, up);
    this.collect(frame, -1, down);
    for (let index = 0; index < cells.length; index++) this.marks[cells[index] as number] = 0;
  }

  private collect(frame: number, direction: number, marked: number): void {
    if (marked <= this.field.quarterCells) return;
    const counts = countInField(this.marks, direction, this.field, this.counts);
    for (let place = 0; place < counts.length; place++) {
      const cells = counts[place] as number;
      if (cells > this.field.quarterCells) this.transitions[place]?.push({ frame, direction, cells });
    }
  }

  /** The worst second so far; null when there was no flash at all. */
  worst(): Flashes | null {
    let worst: Flashes | null = null;
    for (const made of this.transitions) {
      if (made.length < 2) continue;
      const { flashes, from, to, cells } = worstSecond(made, this.rate.num / this.rate.den);
      if (flashes <= (worst?.flashes ?? 0)) continue;
      const fieldPercent = Math.round((cells / (this.field.columns * this.field.rows)) * 100);
      worst = { kind: this.kind, flashes, fromFrame: from, toFrame: to, fieldPercent };
    }
    return worst;
  }
}

/** The worst second of a film given by its lights in order; null when there is no flash at all. */
export function worstFlashes(runs: readonly LightRun[], size: Size, rate: Rate, kind: FlashKind): Flashes | null {
  const first = runs[0]?.light;
  if (!first) return null;
  const watch = new FlashWatch(size, rate, kind, first);
  const cells = everyCell(first);
  for (const { light, startFrame } of runs.slice(1)) watch.change(startFrame, cells, light);
  return watch.worst();
}
