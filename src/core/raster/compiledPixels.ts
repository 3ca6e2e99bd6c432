import { CompiledCode, NEAR_BYTES } from '@/core/compiledCode';
import { PIXELS_CODE } from '@/core/raster/pixelsCode';

/** What `src/simd/pixels.ts` does; places are bytes from the beginning of its memory. */
type PixelsCode = {
  readonly changePlaces: (at: number, bytes: number) => void;
  readonly withoutFourth: (from: number, bytes: number, to: number) => void;
  readonly clearHidden: (at: number, bytes: number) => number;
  readonly widenArea: (a: number, b: number, width: number, lines: number, firstLine: number, area: number) => void;
};

const compiledPixels = new CompiledCode<PixelsCode>(PIXELS_CODE);

/** Sixteen bytes are read and written at once, past the end too. */
const PAST_THE_END_BYTES = 16;

/** Pixels of four bytes with the first and the third in each other's place, written into `room`, which may be the pixels themselves. */
export function withPlacesChanged(pixels: Uint8Array, room: Uint8Array): Uint8Array {
  const { functions, memory } = compiledPixels.withRoom(NEAR_BYTES + PAST_THE_END_BYTES);
  for (let start = 0; start < pixels.length; start += NEAR_BYTES) {
    const part = pixels.subarray(start, start + NEAR_BYTES);
    memory.set(part);
    functions.changePlaces(0, part.length);
    room.set(memory.subarray(0, part.length), start);
  }
  return room;
}

/** Pixels of four bytes without the fourth. */
export function withoutFourth(pixels: Uint8Array): Uint8Array {
  const [from, to] = [NEAR_BYTES + PAST_THE_END_BYTES, 0];
  const { functions, memory } = compiledPixels.withRoom(from + NEAR_BYTES + PAST_THE_END_BYTES);
  const out = new Uint8Array((pixels.length / 4) * 3);
  for (let start = 0; start < pixels.length; start += NEAR_BYTES) {
    const part = pixels.subarray(start, start + NEAR_BYTES);
    memory.set(part, from);
    functions.withoutFourth(from, part.length, to);
    out.set(memory.subarray(to, (part.length / 4) * 3), (start / 4) * 3);
  }
  return out;
}

/** Makes every pixel of four bytes whose fourth is 0 nothing but 0, in place. Tells whether all were so. */
export function clearHidden(pixels: Uint8Array | Uint8ClampedArray): boolean {
  const { functions, memory } = compiledPixels.withRoom(NEAR_BYTES + PAST_THE_END_BYTES);
  let wasClear = true;
  for (let start = 0; start < pixels.length; start += NEAR_BYTES) {
    const part = pixels.subarray(start, start + NEAR_BYTES);
    memory.set(part);
    memory.fill(0, part.length, part.length + PAST_THE_END_BYTES);
    if (functions.clearHidden(0, part.length) === 0) continue;
    pixels.set(memory.subarray(0, part.length), start);
    wasClear = false;
  }
  return wasClear;
}

/** The columns and lines, the last ones too, between which two pictures of `width` pixels of four bytes differ; null where they are alike. */
export function differingBetween(
  before: Uint8Array,
  after: Uint8Array,
  width: number,
): { readonly left: number; readonly right: number; readonly top: number; readonly bottom: number } | null {
  const lineBytes = width * 4;
  const height = after.length / lineBytes;
  const lines = Math.max(1, Math.floor(NEAR_BYTES / 2 / lineBytes));
  const [areaBytes, stripBytes] = [16, lines * lineBytes + PAST_THE_END_BYTES];
  const { functions, memory } = compiledPixels.withRoom(areaBytes + stripBytes * 2);
  const [a, b] = [areaBytes, areaBytes + stripBytes];
  const area = new DataView(memory.buffer, 0, areaBytes);
  for (const [index, start] of [width, -1, height, -1].entries()) area.setInt32(index * 4, start, true);
  for (let line = 0; line < height; line += lines) {
    const [start, end] = [line * lineBytes, (line + lines) * lineBytes];
    memory.set(before.subarray(start, end), a);
    memory.set(after.subarray(start, end), b);
    functions.widenArea(a, b, width, Math.min(lines, height - line), line, 0);
  }
  const [left, right, top, bottom] = [0, 4, 8, 12].map((at) => area.getInt32(at, true)) as [number, number, number, number];
  return right < 0 ? null : { left, right, top, bottom };
}
