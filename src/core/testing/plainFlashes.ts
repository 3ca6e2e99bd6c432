import type { FlashKind } from '@/core/analysis/flashRule';

/*
 * WCAG 2.2, SC 2.3.1 and its definitions written out again, plainly and slowly, as a second opinion: every period of
 * a second of every film, every cell of every period, every place of the rectangle. It shares nothing with the program but the grid's size.
 */

/** Linear red, green and blue. */
export type Light = readonly [red: number, green: number, blue: number];

/** A film as its frames, each the light of every cell, row by row. */
export type PlainFilm = {
  readonly columns: number;
  readonly rows: number;
  /** Side of a cell on the screen of 1024 × 768. */
  readonly cellScreenPx: number;
  readonly framesPerSecond: number;
  readonly frames: readonly (readonly Light[])[];
};

const luminance = ([r, g, b]: Light) => 0.2126 * r + 0.7152 * g + 0.0722 * b;

/** "A pair of opposing changes … of 10% or more … where the relative luminance of the darker image is below 0.80". */
const opposes = (a: number, b: number) => Math.abs(a - b) >= 0.1 - 1e-4 && Math.min(a, b) < 0.8 - 1e-4;

const isRed = ([r, g, b]: Light) => r > 1e-4 && r >= (0.8 - 1e-4) * (r + g + b);

function chroma([r, g, b]: Light): readonly [number, number] {
  const [x, y, z] = [0.4124 * r + 0.3576 * g + 0.1805 * b, luminance([r, g, b]), 0.0193 * r + 0.1192 * g + 0.9505 * b];
  const sum = x + 15 * y + 3 * z;
  return sum < 1e-6 ? [0.1978, 0.4683] : [(4 * x) / sum, (9 * y) / sum];
}

/** Which way one state of a cell changes to another: 1 brighter or to red, -1 darker or from red, 0 not far enough. */
function wayOf(kind: FlashKind, from: Light, to: Light): -1 | 0 | 1 {
  if (kind === 'general') return opposes(luminance(from), luminance(to)) ? (luminance(to) > luminance(from) ? 1 : -1) : 0;
  if (isRed(from) === isRed(to)) return 0;
  const [a, b] = [chroma(from), chroma(to)];
  return Math.hypot(a[0] - b[0], a[1] - b[1]) > 0.2 ? (isRed(to) ? 1 : -1) : 0;
}

/** The most changes that each oppose the one before, in states in order: each from a state at or after the end of the one before. */
export function mostOpposing(kind: FlashKind, states: readonly Light[]): number {
  // The most such changes that end on a state or before it, by the direction of the last.
  const best = states.map(() => ({ up: 0, down: 0 }));
  for (let to = 1; to < states.length; to++) {
    let { up, down } = best[to - 1] as { up: number; down: number };
    for (let from = 0; from < to; from++) {
      const way = wayOf(kind, states[from] as Light, states[to] as Light);
      const before = best[from] as { up: number; down: number };
      if (way === 1) up = Math.max(up, before.down + 1);
      if (way === -1) down = Math.max(down, before.up + 1);
    }
    best[to] = { up, down };
  }
  const last = best.at(-1);
  return Math.max(last?.up ?? 0, last?.down ?? 0);
}

/** How much light a cell changes by, and on how many frames. */
function changed(kind: FlashKind, states: readonly Light[]): { light: number; times: number } {
  let [light, times] = [0, 0];
  for (let state = 1; state < states.length; state++) {
    const [a, b] = [states[state - 1] as Light, states[state] as Light];
    const by =
      kind === 'general' ? Math.abs(luminance(a) - luminance(b)) : Math.abs(a[0] - b[0]) + Math.abs(a[1] - b[1]) + Math.abs(a[2] - b[2]);
    if (by > 1e-6) times++;
    light += by;
  }
  return { light, times };
}

/** A cell's second: its flashes, how much light it changes by, and on how many frames. */
type CellSecond = { readonly flashes: number; readonly light: number; readonly times: number };

/** What is told of each cell; cells that show the same lights are asked once. */
function ofEach<T>(cells: readonly (readonly Light[])[], tell: (states: readonly Light[]) => T): readonly T[] {
  const told = new Map<string, T>();
  return cells.map((states) => {
    const key = states.join(' ');
    if (!told.has(key)) told.set(key, tell(states));
    return told.get(key) as T;
  });
}

/** The part of each cell that makes at least so many flashes: whole, or as much as an edge leaves of it. */
function parts({ columns, rows }: PlainFilm, cells: readonly CellSecond[], flashes: number): readonly number[] {
  const flash = (cell: number) => (cells[cell] as CellSecond).flashes >= flashes;
  const lightOf = (cell: number) => (cells[cell] as CellSecond).light;
  return cells.map((own, cell) => {
    const [column, row] = [cell % columns, Math.floor(cell / columns)];
    const beside: number[] = [];
    for (let y = Math.max(0, row - 1); y <= Math.min(rows - 1, row + 1); y++)
      for (let x = Math.max(0, column - 1); x <= Math.min(columns - 1, column + 1); x++)
        if (x !== column || y !== row) beside.push(y * columns + x);
    const most = Math.max(0, ...beside.filter(flash).map(lightOf));
    const part = most === 0 ? 1 : Math.min(1, own.light / most);
    if (flash(cell)) return beside.length < 8 || beside.some((other) => !flash(other) && lightOf(other) < 1e-3) ? part : 1;
    return most > 0 && own.times >= flashes * 2 ? part : 0;
  });
}

/** Whether parts of cells take more than a quarter of 341 × 256 px at any place, as the program's limit has it. */
function isOverQuarter({ columns, rows, cellScreenPx }: PlainFilm, part: readonly number[]): boolean {
  const across = Math.min(columns, Math.ceil(341 / cellScreenPx) + 1);
  const down = Math.min(rows, Math.ceil(256 / cellScreenPx) + 1);
  for (let top = 0; top + down <= rows; top++) {
    for (let left = 0; left + across <= columns; left++) {
      let area = 0;
      for (let y = top; y < top + down; y++)
        for (let x = left; x < left + across; x++) area += Math.round((part[y * columns + x] as number) * 255) / 255;
      if (area * cellScreenPx ** 2 > 341 * 256 * 0.25 * 0.996) return true;
    }
  }
  return false;
}

/** The most flashes in any second of a film: in each that ends with a frame on which its light changes, for one that ends later holds no more. */
export function plainFlashes(film: PlainFilm, kind: FlashKind): number {
  let worst = 0;
  const { frames, framesPerSecond } = film;
  for (let end = 1; end < frames.length; end++) {
    const [before, now] = [frames[end - 1] as readonly Light[], frames[end] as readonly Light[]];
    if (now.every((light, cell) => light === before[cell])) continue;
    const start = Math.max(0, end - Math.floor(framesPerSecond) - 1);
    const second = now.map((_, cell) => frames.slice(start, end + 1).map((lights) => lights[cell] as Light));
    const cells = ofEach(second, (states) => ({ flashes: Math.floor(mostOpposing(kind, states) / 2), ...changed(kind, states) }));
    while (isOverQuarter(film, parts(film, cells, worst + 1))) worst++;
  }
  return worst;
}
