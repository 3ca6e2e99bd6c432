import { CompiledCode } from '@/core/compiledCode';
import type { Size } from '@/core/document/model';
import { DISTANCES_CODE } from '@/core/raster/distancesCode';

/** What `src/simd/distances.ts` does; places are bytes from the beginning of its memory. */
type DistancesCode = {
  readonly distances: (at: number, stride: number, width: number, height: number) => void;
  readonly further: (at: number, bytes: number, reach: number) => void;
  readonly edges: (at: number, stride: number, width: number, height: number, to: number) => void;
};

const compiledDistances = new CompiledCode<DistancesCode>(DISTANCES_CODE);

/** Sixteen bytes are worked on at once, and those beside them are looked at. */
const AT_ONCE = 16;

/** Bytes from one row to the next: its pixels in sixteens, one byte before them and more after. */
const strideOf = (width: number): number => Math.ceil(width / AT_ONCE) * AT_ONCE + AT_ONCE;

/** Writes a byte a pixel into the beginning of memory, rows apart by their stride, with a row above and below; 1 wherever there is none. */
function layRows({ width, height }: Size, from: Uint8Array, memory: Uint8Array): void {
  const stride = strideOf(width);
  memory.fill(1, 0, stride * (height + 2));
  for (let y = 0; y < height; y++) memory.set(from.subarray(y * width, (y + 1) * width), (y + 1) * stride + 1);
}

/** The bytes back again. */
function takeRows({ width, height }: Size, memory: Uint8Array): Uint8Array {
  const stride = strideOf(width);
  const out = new Uint8Array(width * height);
  for (let y = 0; y < height; y++) {
    const start = (y + 1) * stride + 1;
    out.set(memory.subarray(start, start + width), y * width);
  }
  return out;
}

/** What is away from walls: how far it lies from them, and where colour may run without coming near. */
export type AwayFromWalls = { readonly reach: number; readonly open: Uint8Array };

/**
 * The pixels (1, all others 0) that are further from every wall than `reach`, in thirds of a pixel and less than 250; with a seed
 * nearer than that, those further than it is, less one. `free` has 1 for each pixel that is no wall. The page's edge is no wall.
 * Distances are chamfer distances with the weights 3 and 4 (Borgefors 1986), within 8 % of the true ones.
 */
export function awayFromWalls(size: Size, free: Uint8Array, seed: number, reach: number): AwayFromWalls {
  const stride = strideOf(size.width);
  const bytes = stride * (size.height + 2);
  const { functions, memory } = compiledDistances.withRoom(bytes + AT_ONCE);
  layRows(size, free, memory);
  functions.distances(0, stride, size.width, size.height);
  const seedDistance = memory[(Math.floor(seed / size.width) + 1) * stride + 1 + (seed % size.width)] as number;
  const nearest = Math.min(reach, Math.max(0, seedDistance - 1));
  functions.further(0, bytes, nearest);
  return { reach: nearest, open: takeRows(size, memory) };
}

/** The pixels of an area (1) with one that is not of it (0) to a side, above or below; what is beyond the page counts as of it. */
export function edgesOf(size: Size, area: Uint8Array): number[] {
  const stride = strideOf(size.width);
  const bytes = stride * (size.height + 2);
  const to = bytes + AT_ONCE;
  const { functions, memory } = compiledDistances.withRoom(to + bytes + AT_ONCE);
  layRows(size, area, memory);
  functions.edges(0, stride, size.width, size.height, to);
  const found: number[] = [];
  for (let y = 0; y < size.height; y++) {
    const start = to + (y + 1) * stride + 1;
    const row = memory.subarray(start, start + size.width);
    for (let x = row.indexOf(1); x !== -1; x = row.indexOf(1, x + 1)) found.push(y * size.width + x);
  }
  return found;
}

/** Gives the memory back, until a page is filled again. */
export const letGoOfDistances = (): void => compiledDistances.letGo();
