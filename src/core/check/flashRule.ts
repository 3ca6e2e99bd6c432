import type { LightCells } from '@/core/raster/light';
import { luminanceOf } from '@/core/raster/light';
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
const SATURATED_RED = 0.8;
const LEAST_CHROMA_CHANGE = 0.2;
const MOST_FLASHES = 3;
const FIELD = { width: 341, height: 256, part: 0.25 };
const SCREEN = { width: 1024, height: 768 };
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

/** Follows one cell, and says at each of its lights whether it made a transition: 1 up or towards red, -1 down or away, 0 none. */
type Follower = { step(cell: number, light: LightCells): -1 | 0 | 1 };

const luminanceAt = (light: LightCells, cell: number) =>
  luminanceOf(light.red[cell] as number, light.green[cell] as number, light.blue[cell] as number);

/** Follows luminance: after a rise from its highest, after a fall from its lowest, before either from both. */
function generalFollower(cells: number, first: LightCells): Follower {
  const [low, high, direction] = [new Float32Array(cells), new Float32Array(cells), new Int8Array(cells)];
  for (let cell = 0; cell < cells; cell++) low[cell] = high[cell] = luminanceAt(first, cell);
  return {
    step(cell, light) {
      const now = luminanceAt(light, cell);
      const lowest = Math.min(low[cell] as number, now);
      const highest = Math.max(high[cell] as number, now);
      const rises = direction[cell] !== 1 && now - lowest >= LEAST_CHANGE - HAIR && lowest < DARKER_BELOW;
      const falls = direction[cell] !== -1 && highest - now >= LEAST_CHANGE - HAIR && now < DARKER_BELOW;
      low[cell] = rises || falls ? now : lowest;
      high[cell] = rises || falls ? now : highest;
      if (!rises && !falls) return 0;
      direction[cell] = rises ? 1 : -1;
      return rises ? 1 : -1;
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
  return {
    step(cell, light) {
      const nowRed = isRed(light, cell);
      if (!nowRed && red[cell] === 0) {
        take(cell, light);
        return 0;
      }
      const chroma = chromaOf(light.red[cell] as number, light.green[cell] as number, light.blue[cell] as number);
      if (Math.hypot(chroma.u - (u[cell] as number), chroma.v - (v[cell] as number)) <= LEAST_CHROMA_CHANGE) return 0;
      take(cell, light, chroma);
      return nowRed ? 1 : -1;
    },
  };
}

/** The rectangle of 10° on a grid of cells, and how many cells are a quarter of it. */
function fieldOn({ width, height }: Size, { columns, rows, cellPx }: LightCells) {
  const scale = Math.min(SCREEN.width / width, SCREEN.height / height);
  const cell = cellPx * scale;
  return {
    columns: Math.max(1, Math.min(columns, Math.round(FIELD.width / cell))),
    rows: Math.max(1, Math.min(rows, Math.round(FIELD.height / cell))),
    quarterCells: (FIELD.width * FIELD.height * FIELD.part) / (cell * cell),
  };
}

type Transition = { readonly frame: number; readonly direction: number; readonly cells: number };

/** Cells that ever change enough to make a transition; where those are too few, nothing can flash. */
function changingCells(runs: readonly LightRun[], cells: number, kind: FlashKind): readonly number[] {
  const lights = new Set(runs.map((run) => run.light));
  const least = new Float32Array(cells).fill(2);
  const most = new Float32Array(cells).fill(-1);
  for (const light of lights) {
    for (let cell = 0; cell < cells; cell++) {
      const [red, green, blue] = [light.red[cell] as number, light.green[cell] as number, light.blue[cell] as number];
      const value = kind === 'general' ? luminanceOf(red, green, blue) : red > 0 ? red / (red + green + blue) : 0;
      if (value < (least[cell] as number)) least[cell] = value;
      if (value > (most[cell] as number)) most[cell] = value;
    }
  }
  const changing: number[] = [];
  for (let cell = 0; cell < cells; cell++) {
    const [low, high] = [least[cell] as number, most[cell] as number];
    const can = kind === 'general' ? high - low >= LEAST_CHANGE - HAIR && low < DARKER_BELOW : high >= SATURATED_RED - HAIR && high > low;
    if (can) changing.push(cell);
  }
  return changing;
}

/** Sums over rectangles from the upper left corner, one row and column of zeros before. */
function summed(marks: Int8Array, direction: number, columns: number, rows: number, sums: Int32Array): void {
  for (let row = 0; row < rows; row++) {
    let line = 0;
    for (let column = 0; column < columns; column++) {
      if (marks[row * columns + column] === direction) line++;
      sums[(row + 1) * (columns + 1) + column + 1] = (sums[row * (columns + 1) + column + 1] as number) + line;
    }
  }
}

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

/** The worst second of a film for flashes of a kind; null when there is none at all. Runs are in order of their frames. */
export function worstFlashes(runs: readonly LightRun[], size: Size, rate: Rate, kind: FlashKind): Flashes | null {
  const first = runs[0]?.light;
  if (!first) return null;
  const { columns, rows } = first;
  const cells = columns * rows;
  const field = fieldOn(size, first);
  const changing = changingCells(runs, cells, kind);
  if (changing.length <= field.quarterCells) return null;
  const follower = kind === 'general' ? generalFollower(cells, first) : redFollower(cells, first);
  const marks = new Int8Array(cells);
  const sums = new Int32Array((columns + 1) * (rows + 1));
  const places = (columns - field.columns + 1) * (rows - field.rows + 1);
  const transitions: Transition[][] = Array.from({ length: places }, () => []);
  let before = first;
  for (const { light, startFrame } of runs) {
    if (light === before) continue;
    before = light;
    let [up, down] = [0, 0];
    for (const cell of changing) {
      const made = follower.step(cell, light);
      marks[cell] = made;
      if (made === 1) up++;
      else if (made === -1) down++;
    }
    for (const direction of [1, -1]) {
      if ((direction === 1 ? up : down) <= field.quarterCells) continue;
      summed(marks, direction, columns, rows, sums);
      collect(sums, columns, field, (place, count) => transitions[place]?.push({ frame: startFrame, direction, cells: count }), rows);
    }
  }
  let worst: Flashes | null = null;
  for (const made of transitions) {
    const { flashes, from, to, cells: most } = worstSecond(made, rate.num / rate.den);
    if (flashes <= (worst?.flashes ?? 0)) continue;
    const fieldPercent = Math.round((most / (field.columns * field.rows)) * 100);
    worst = { kind, flashes, fromFrame: from, toFrame: to, fieldPercent };
  }
  return worst;
}

/** Every place of the rectangle in which more than a quarter of it is marked. */
function collect(
  sums: Int32Array,
  columns: number,
  field: { readonly columns: number; readonly rows: number; readonly quarterCells: number },
  found: (place: number, cells: number) => void,
  rows: number,
): void {
  const stride = columns + 1;
  let place = 0;
  for (let top = 0; top + field.rows <= rows; top++) {
    for (let left = 0; left + field.columns <= columns; left++, place++) {
      const upper = top * stride + left;
      const lower = (top + field.rows) * stride + left;
      const count =
        (sums[lower + field.columns] as number) -
        (sums[lower] as number) -
        (sums[upper + field.columns] as number) +
        (sums[upper] as number);
      if (count > field.quarterCells) found(place, count);
    }
  }
}
