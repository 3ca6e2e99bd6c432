import { areaMeans, squareMeans } from '@/core/raster/compiledPlanes';

/*
 * What a frame looks like, small enough to keep one for each picture of a long film: the mean brightness of each cell of a
 * grid laid over the whole picture, whatever its size, and how blue and how red each cell of a wider one is. Films of
 * different sizes are held against each other by it.
 */

/** Cells across and down: of brightness, of each of the two colour differences, and of brightness in a coarse look. */
const LIGHT_GRID = { columns: 64, rows: 36 };
const COLOUR_GRID = { columns: 32, rows: 18 };
const COARSE_GRID = { columns: 16, rows: 9 };
const cellsOf = ({ columns, rows }: Grid): number => columns * rows;
type Grid = { readonly columns: number; readonly rows: number };
const LIGHT_CELLS = cellsOf(LIGHT_GRID);
const COLOUR_CELLS = cellsOf(COLOUR_GRID);

/** Bytes of a look as a rule, and of one of a very long film: then brightness alone, in few cells. */
export const LOOK_BYTES = LIGHT_CELLS + 2 * COLOUR_CELLS;
export const COARSE_LOOK_BYTES = cellsOf(COARSE_GRID);

/** A picture brought down to blocks: three planes of `columns` × `rows` bytes, brightness (Y), blueness (Cb) and redness (Cr), one after another. */
export type Blocks = Grid & { readonly planes: Uint8Array };

/** Averages a plane of blocks into a grid of cells by area, into `out` from `at` on. */
function averageInto(out: Uint8Array, at: number, grid: Grid, plane: Uint8Array, columns: number, rows: number): void {
  const side = columns / grid.columns;
  const isSquare = Number.isInteger(side) && rows === side * grid.rows;
  out.set(isSquare ? squareMeans(plane, columns, rows, side) : areaMeans(plane, columns, rows, grid.columns, grid.rows), at);
}

/** The look of a picture given as blocks; `isCoarse` for one of a very long film. */
export function lookOf({ columns, rows, planes }: Blocks, isCoarse: boolean): Uint8Array {
  const blocks = columns * rows;
  const out = new Uint8Array(isCoarse ? COARSE_LOOK_BYTES : LOOK_BYTES);
  if (isCoarse) {
    averageInto(out, 0, COARSE_GRID, planes, columns, rows);
    return out;
  }
  averageInto(out, 0, LIGHT_GRID, planes, columns, rows);
  averageInto(out, LIGHT_CELLS, COLOUR_GRID, planes.subarray(blocks, 2 * blocks), columns, rows);
  averageInto(out, LIGHT_CELLS + COLOUR_CELLS, COLOUR_GRID, planes.subarray(2 * blocks), columns, rows);
  return out;
}

/** A look with the cells of a coarse one alone. */
export function coarseLook(look: Uint8Array): Uint8Array {
  if (look.length === COARSE_LOOK_BYTES) return look;
  const out = new Uint8Array(COARSE_LOOK_BYTES);
  averageInto(out, 0, COARSE_GRID, look, LIGHT_GRID.columns, LIGHT_GRID.rows);
  return out;
}

/*
 * Two looks are of one picture when no cell differs by much, few differ a little, and they are close on the whole. Coding a
 * film (measured with H.264 from fine to poor, and VP9) moves the mean of a cell of 16 pixels a side and more by up to 7
 * levels of 255, 0.5 on the whole, and that of smaller ones by more, as their side is smaller. A line three pixels wide that
 * moves by its width in 720 lines changes a cell by more than 10.
 */
const MOST_CELL_LEVELS = 12;
const SOME_LEVELS = 8;
export const MOST_SOME_CELLS = 3;
const MEAN_LEVELS = 1.5;
const STEADY_CELL_PX = 16;
const MOST_LOOSER = 5;

/** How far looks of one picture may be apart: `mean` over all cells, in one cell, and in more than a few. In levels of 255. */
export type Nearby = { readonly mean: number; readonly most: number; readonly some: number };

/** How far looks of one picture may be apart in films of which the smaller is so many pixels wide. */
export function nearbyAt(widthPx: number): Nearby {
  const looser = Math.max(1, Math.min(MOST_LOOSER, STEADY_CELL_PX / (widthPx / LIGHT_GRID.columns)));
  return { mean: MEAN_LEVELS * looser, most: MOST_CELL_LEVELS * looser, some: SOME_LEVELS * looser };
}

/** A picture of one colour all over: darker than dark grey it is black, lighter than light grey white. */
export type Flat = 'black' | 'white' | 'one colour';

/** Coding leaves traces of what was there before: some levels here and there, hardly any on the whole. */
const FLAT_LEVELS = 40;
const FLAT_MEAN_LEVELS = 2.5;
/** Limited range (ITU-R BT.709): black is 16 and white 235. */
const BLACK_TO = 32;
const WHITE_FROM = 226;

/** Whether a picture is of one colour all over; null where something is seen on it. */
export function flatOf({ columns, rows, planes }: Blocks): Flat | null {
  const blocks = columns * rows;
  let light = 0;
  for (let plane = 0; plane < 3; plane++) {
    const own = planes.subarray(plane * blocks, (plane + 1) * blocks);
    let [least, most, sum] = [255, 0, 0];
    for (const value of own) {
      if (value < least) least = value;
      if (value > most) most = value;
      if (most - least > FLAT_LEVELS) return null;
      sum += value;
    }
    const mean = sum / blocks;
    let apart = 0;
    for (const value of own) apart += Math.abs(value - mean);
    if (apart / blocks > FLAT_MEAN_LEVELS) return null;
    if (plane === 0) light = mean;
  }
  return light <= BLACK_TO ? 'black' : light >= WHITE_FROM ? 'white' : 'one colour';
}

/*
 * How colours are reckoned is often lost on the way: a film of ITU-R BT.601 read by BT.709 or the other way round, or full
 * range read as limited. What comes out is linear in what went in (but where it is cut off), so that looks can be turned
 * back cell by cell. With Y, Cb, Cr about their middle, in limited range:
 *
 *   from BT.601 to BT.709:  Y' = Y − 0.1155 Cb − 0.2079 Cr,  Cb' = 1.0186 Cb + 0.1146 Cr,  Cr' = 0.0750 Cb + 1.0253 Cr
 *   from BT.709 to BT.601:  Y' = Y + 0.0993 Cb + 0.1917 Cr,  Cb' = 0.9899 Cb − 0.1107 Cr,  Cr' = −0.0725 Cb + 0.9834 Cr
 *
 * which is the one's matrix (Kr, Kb = 0.2126, 0.0722 for BT.709 and 0.299, 0.114 for BT.601, rows times 219, 224, 224) times the
 * other's inverse. From full to limited range: Y' = 16 + 219/255 Y, C' = 128 + 224/255 (C − 128).
 */
type Turn = {
  readonly light: readonly [gain: number, offset: number, cb: number, cr: number];
  readonly cb: readonly [number, number];
  readonly cr: readonly [number, number];
};

export const COLOUR_READINGS = {
  'as it is': null,
  'BT.601 for BT.709': { light: [1, 0, -0.1155, -0.2079], cb: [1.0186, 0.1146], cr: [0.075, 1.0253] },
  'BT.709 for BT.601': { light: [1, 0, 0.0993, 0.1917], cb: [0.9899, -0.1107], cr: [-0.0725, 0.9834] },
  'limited range for full': { light: [219 / 255, 16, 0, 0], cb: [224 / 255, 0], cr: [0, 224 / 255] },
  'full range for limited': { light: [255 / 219, (-16 * 255) / 219, 0, 0], cb: [255 / 224, 0], cr: [0, 255 / 224] },
} as const satisfies Readonly<Record<string, Turn | null>>;
export type ColourReading = keyof typeof COLOUR_READINGS;

const byte = (value: number): number => Math.max(0, Math.min(255, Math.round(value)));

/** A look as it would be had its colours been read in another way. Coarse ones have no colours: they are turned by their brightness alone. */
export function readAs(look: Uint8Array, reading: ColourReading): Uint8Array {
  const turn: Turn | null = COLOUR_READINGS[reading];
  if (!turn) return look;
  const out = new Uint8Array(look.length);
  const [gain, offset, byCb, byCr] = turn.light;
  if (look.length === COARSE_LOOK_BYTES) return out.map((_, cell) => byte((look[cell] as number) * gain + offset));
  const chroma = (plane: number, cell: number) => (look[LIGHT_CELLS + plane * COLOUR_CELLS + cell] as number) - 128;
  for (let cell = 0; cell < LIGHT_CELLS; cell++) {
    const row = Math.floor(cell / LIGHT_GRID.columns / 2);
    const own = row * COLOUR_GRID.columns + Math.floor((cell % LIGHT_GRID.columns) / 2);
    out[cell] = byte((look[cell] as number) * gain + offset + byCb * chroma(0, own) + byCr * chroma(1, own));
  }
  for (let cell = 0; cell < COLOUR_CELLS; cell++) {
    out[LIGHT_CELLS + cell] = byte(128 + turn.cb[0] * chroma(0, cell) + turn.cb[1] * chroma(1, cell));
    out[LIGHT_CELLS + COLOUR_CELLS + cell] = byte(128 + turn.cr[0] * chroma(0, cell) + turn.cr[1] * chroma(1, cell));
  }
  return out;
}

/** A look as a small picture of opaque pixels; null for a coarse one, which has no colours. */
export function lookPixels(
  look: Uint8Array,
): { readonly size: { readonly width: number; readonly height: number }; readonly rgba: Uint8Array } | null {
  if (look.length === COARSE_LOOK_BYTES) return null;
  const rgba = new Uint8Array(LIGHT_CELLS * 4);
  for (let cell = 0; cell < LIGHT_CELLS; cell++) {
    const own = Math.floor(cell / LIGHT_GRID.columns / 2) * COLOUR_GRID.columns + Math.floor((cell % LIGHT_GRID.columns) / 2);
    rgba.set(rgbOf(look[cell] as number, look[LIGHT_CELLS + own] as number, look[LIGHT_CELLS + COLOUR_CELLS + own] as number), cell * 4);
    rgba[cell * 4 + 3] = 255;
  }
  return { size: { width: LIGHT_GRID.columns, height: LIGHT_GRID.rows }, rgba };
}

/** Red, green and blue of brightness and colour differences (ITU-R BT.709, limited range). */
function rgbOf(y: number, cb: number, cr: number): readonly [number, number, number] {
  const luma = ((y - 16) * 255) / 219;
  const blue = luma + (1.8556 * (cb - 128) * 255) / 224;
  const red = luma + (1.5748 * (cr - 128) * 255) / 224;
  return [byte(red), byte((luma - 0.2126 * red - 0.0722 * blue) / 0.7152), byte(blue)];
}
