import { inOne } from '@/core/bytes';
import type { Size } from '@/core/document/model';
import { chunkBytes } from '@/core/format/png/chunkBytes';
import { type PngChunk, pngChunks } from '@/core/format/png/chunks';
import { done, type Outcome, refused } from '@/core/outcome';

/*
 * An animated PNG (W3C PNG Third Edition, 11.3.3) is one PNG with frame controls (fcTL) before the data of
 * each frame, which is in IDAT for a first frame that is the default picture, and else in fdAT behind a
 * sequence number. Each frame has a size and place of its own on the page, and says how it is laid on it.
 */

/** How a frame is laid: over what is there, or in its place. */
type Blend = 'source' | 'over';
/** What becomes of its place afterwards: it stays, is cleared, or is put back as it was. */
type Dispose = 'none' | 'background' | 'previous';

/** A frame of an animated PNG; `data` are the places of its packed pixels in the file. */
export type ApngFrame = Size & {
  readonly x: number;
  readonly y: number;
  /** How long it is shown, in parts of a second. */
  readonly delay: { readonly num: number; readonly den: number };
  readonly delayMilliseconds: number;
  readonly dispose: Dispose;
  readonly blend: Blend;
  readonly data: readonly { readonly start: number; readonly end: number }[];
};

/** An animated PNG: its page, its frames in order, and what every frame needs to be read as a PNG of its own. */
export type Apng = {
  readonly size: Size;
  readonly frames: readonly ApngFrame[];
  /** How often it is played, 0 for ever. */
  readonly plays: number;
  readonly shared: readonly PngChunk[];
  readonly isWhole: boolean;
};

const FRAME_CONTROL_BYTES = 26;
const DISPOSE: readonly Dispose[] = ['none', 'background', 'previous'];

function frameControl(bytes: Uint8Array, { start, end }: PngChunk): Omit<ApngFrame, 'data'> | null {
  if (end - start < FRAME_CONTROL_BYTES) return null;
  const view = new DataView(bytes.buffer, bytes.byteOffset + start, FRAME_CONTROL_BYTES);
  const denominator = view.getUint16(22) || 100;
  return {
    width: view.getUint32(4),
    height: view.getUint32(8),
    x: view.getUint32(12),
    y: view.getUint32(16),
    delay: { num: view.getUint16(20), den: denominator },
    delayMilliseconds: Math.round((view.getUint16(20) * 1000) / denominator),
    dispose: DISPOSE[view.getUint8(24)] ?? 'none',
    blend: view.getUint8(25) === 1 ? 'over' : 'source',
  };
}

/** Whether a PNG holds an animation: an acTL chunk before its pixels. */
export function isAnimatedPng(bytes: Uint8Array): boolean {
  for (const { type } of pngChunks(bytes).chunks) {
    if (type === 'acTL') return true;
    if (type === 'IDAT') return false;
  }
  return false;
}

/** Reads what an animated PNG says of itself; nothing is unpacked. `size` is that of its header. */
export function readApng(bytes: Uint8Array, size: Size): Outcome<Apng> {
  const { chunks, isWhole } = pngChunks(bytes);
  const frames: ApngFrame[] = [];
  let current: (Omit<ApngFrame, 'data'> & { data: { start: number; end: number }[] }) | null = null;
  for (const chunk of chunks) {
    if (chunk.type === 'fcTL') {
      const control = frameControl(bytes, chunk);
      if (!control) return refused('It is broken: it doesn’t say how one of its frames lies.');
      const fits =
        control.width > 0 && control.height > 0 && control.x + control.width <= size.width && control.y + control.height <= size.height;
      if (!fits) return refused('It is broken: one of its frames lies outside the picture.');
      current = { ...control, data: [] };
      frames.push(current);
    } else if (chunk.type === 'IDAT') current?.data.push({ start: chunk.start, end: chunk.end });
    else if (chunk.type === 'fdAT') current?.data.push({ start: chunk.start + 4, end: chunk.end });
  }
  const control = chunks.find(({ type, start, end }) => type === 'acTL' && end - start >= 8);
  const plays = control ? new DataView(bytes.buffer, bytes.byteOffset + control.start, 8).getUint32(4) : 1;
  const shared = chunks.filter(({ type }) => !['IHDR', 'IDAT', 'IEND', 'acTL', 'fcTL', 'fdAT'].includes(type));
  return done({ size, plays, frames: frames.filter((frame) => frame.data.length > 0), shared, isWhole });
}

/** A frame of an animated PNG as a PNG of its own. */
export function apngFramePng(bytes: Uint8Array, { shared }: Apng, frame: ApngFrame): Uint8Array {
  const header = bytes.slice(16, 29);
  const view = new DataView(header.buffer);
  view.setUint32(0, frame.width);
  view.setUint32(4, frame.height);
  const parts = [
    bytes.subarray(0, 8),
    chunkBytes('IHDR', header),
    ...shared.map(({ type, start, end }) => chunkBytes(type, bytes.subarray(start, end))),
    ...frame.data.map(({ start, end }) => chunkBytes('IDAT', bytes.subarray(start, end))),
    chunkBytes('IEND', new Uint8Array(0)),
  ];
  return inOne(parts);
}

/** Lays a frame's pixels (RGBA, straight alpha) on the page's; "over" is source-over with straight alpha. */
export function layApngFrame(
  page: Uint8ClampedArray,
  { width: pageWidth }: Size,
  frame: ApngFrame,
  rgba: Uint8Array | Uint8ClampedArray,
): void {
  for (let row = 0; row < frame.height; row++) {
    const from = row * frame.width * 4;
    const to = ((frame.y + row) * pageWidth + frame.x) * 4;
    if (frame.blend === 'source') page.set(rgba.subarray(from, from + frame.width * 4), to);
    else for (let x = 0; x < frame.width * 4; x += 4) layOver(page, to + x, rgba, from + x);
  }
}

function layOver(page: Uint8ClampedArray, at: number, rgba: Uint8Array | Uint8ClampedArray, from: number): void {
  const alpha = rgba[from + 3] as number;
  if (alpha === 0) return;
  const below = page[at + 3] as number;
  if (alpha === 255 || below === 0) {
    for (let channel = 0; channel < 4; channel++) page[at + channel] = rgba[from + channel] as number;
    return;
  }
  // αo = αs + αb(1 − αs); Co = (Cs·αs + Cb·αb·(1 − αs)) / αo
  const weight = (below * (255 - alpha)) / 255;
  const total = alpha + weight;
  for (let channel = 0; channel < 3; channel++)
    page[at + channel] = ((rgba[from + channel] as number) * alpha + (page[at + channel] as number) * weight) / total;
  page[at + 3] = total;
}

/** Clears a frame's place on the page. */
export function clearApngFrame(page: Uint8ClampedArray, { width: pageWidth }: Size, frame: ApngFrame): void {
  for (let row = 0; row < frame.height; row++) {
    const start = ((frame.y + row) * pageWidth + frame.x) * 4;
    page.fill(0, start, start + frame.width * 4);
  }
}
