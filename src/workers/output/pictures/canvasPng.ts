import { decode } from 'fast-png';
import type { Size } from '@/core/document/model';

/*
 * A canvas holds its colours multiplied by their transparency, in whole numbers: a straight colour that is put on it may come off
 * as another. Of the 65,536 pairs of a transparency and a channel about half come off as they were, and all that were ever read from
 * a canvas are among them. So the browser's own encoder, several times as quick as packing straight pixels, may have every picture
 * whose colours are all among those; which they are is asked of the browser itself, once, by sending each through it.
 */

/** Values of a channel, and of a transparency. */
export const COLOURS_SIDE = 256;
const RGBA = 6;

let room: OffscreenCanvasRenderingContext2D | null = null;

/** One canvas for all pictures of a size: a new one each would leave its memory to be found some time later. */
export function canvasOf({ width, height }: Size): OffscreenCanvasRenderingContext2D {
  if (room?.canvas.width === width && room.canvas.height === height) return room;
  const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('There is no memory for a picture of this size.');
  room = context;
  return context;
}

/** What the browser's own encoder makes of straight pixels; null where it has none for a type. `quality` is from 0 to 1. */
export async function encodedByCanvas(rgba: Uint8Array, size: Size, type: string, quality: number): Promise<Uint8Array | null> {
  const context = canvasOf(size);
  const pixels = new Uint8ClampedArray(rgba.buffer as ArrayBuffer, rgba.byteOffset, rgba.byteLength);
  context.putImageData(new ImageData(pixels, size.width, size.height), 0, 0);
  const blob = await context.canvas.convertToBlob({ type, quality });
  return blob.type === type ? new Uint8Array(await blob.arrayBuffer()) : null;
}

/** Every transparency with every value of a channel, the same in all three: at y · 256 + x is the value x under the alpha y. */
export function allColours(): Uint8Array {
  const rgba = new Uint8Array(COLOURS_SIDE * COLOURS_SIDE * 4);
  for (let at = 0; at < COLOURS_SIDE * COLOURS_SIDE; at++)
    rgba.set([at % COLOURS_SIDE, at % COLOURS_SIDE, at % COLOURS_SIDE, Math.floor(at / COLOURS_SIDE)], at * 4);
  return rgba;
}

/**
 * Which channel values come back from a PNG as they were put on the canvas: 1 at alpha · 256 + value where they do. None do in a
 * browser whose encoder writes no transparency.
 */
async function askWhatIsKept(): Promise<Uint8Array> {
  const kept = new Uint8Array(COLOURS_SIDE * COLOURS_SIDE);
  const put = allColours();
  const png = await encodedByCanvas(put, { width: COLOURS_SIDE, height: COLOURS_SIDE }, 'image/png', 1);
  const { data, channels, depth } = png ? decode(png) : { data: new Uint8Array(0), channels: 0, depth: 8 };
  if (channels !== 4 || depth !== 8) return kept;
  for (let at = 0; at < kept.length; at++) {
    const isKept = [0, 1, 2, 3].every((channel) => data[at * 4 + channel] === put[at * 4 + channel]);
    if (isKept) kept[at] = 1;
  }
  return kept;
}

let asked: Promise<Uint8Array> | null = null;

/** Whether every colour of a picture is among those that are kept. */
export function areKept(rgba: Uint8Array, kept: Uint8Array): boolean {
  const words = new Uint32Array(rgba.buffer, rgba.byteOffset, rgba.byteLength >> 2);
  let before = 0;
  for (let pixel = 0; pixel < words.length; pixel++) {
    const word = words[pixel] as number;
    // Most pixels are as the one before them, and nothing is always kept.
    if (word === before) continue;
    before = word;
    const at = pixel * 4;
    const row = (rgba[at + 3] as number) * COLOURS_SIDE;
    if (!(kept[row + (rgba[at] as number)] && kept[row + (rgba[at + 1] as number)] && kept[row + (rgba[at + 2] as number)])) return false;
  }
  return true;
}

/** The type of colour a PNG's header says (W3C PNG Third Edition, 11.2.1): byte 9 of a chunk that starts at 8 and whose data at 16. */
const colourType = (png: Uint8Array): number | undefined => png[16 + 9];

/** A PNG of straight pixels with their transparency by the browser's own encoder; null where it would change a colour, or drop the transparency. */
export async function clearByCanvas(rgba: Uint8Array, size: Size): Promise<Uint8Array | null> {
  // Where the browser's PNG can't be read, nothing is known to be kept: pictures go the slower way.
  asked ??= askWhatIsKept().catch(() => new Uint8Array(COLOURS_SIDE * COLOURS_SIDE));
  if (!areKept(rgba, await asked)) return null;
  const png = await encodedByCanvas(rgba, size, 'image/png', 1);
  return png && colourType(png) === RGBA ? png : null;
}
