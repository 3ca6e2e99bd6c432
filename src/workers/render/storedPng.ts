import { changesColours, withoutColourWords } from '@/core/format/png/chunks';
import { withSrgb } from '@/core/format/png/srgb';

/*
 * Colours come out of a stored picture as they went in, whatever screen they are seen on: `colorSpaceConversion: 'none'` asks for
 * that. One browser takes half as long again for it as without, though a PNG that says nothing of its colours, or sRGB, comes
 * out the same there; others bring even such a one to the screen's own colours. So the browser is asked once, by having it decode
 * the same colours in both ways, and only a PNG that says nothing else of its colours goes the quicker one.
 */

/** A stored picture's file; `isPlain` where it says nothing of its colours but that they are sRGB. */
export type StoredPng = { readonly file: Blob; readonly isPlain: boolean };

const pngBlob = (bytes: Uint8Array) => new Blob([bytes as Uint8Array<ArrayBuffer>], { type: 'image/png' });

/** The bytes of a stored picture as a file that can be decoded. */
export const storedPng = (bytes: Uint8Array): StoredPng => ({ file: pngBlob(bytes), isPlain: !changesColours(bytes) });

const AS_STORED = { colorSpaceConversion: 'none' } as const;
/** Sixteen steps of red, green and blue each, all with all. */
const [STEPS, SIDE] = [16, 64];

function contextOf(side: number): OffscreenCanvasRenderingContext2D {
  const context = new OffscreenCanvas(side, side).getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('There is no memory for a small picture.');
  return context;
}

/** A PNG of colours all over the cube, by this browser's own encoder. */
async function manyColours(): Promise<Uint8Array> {
  const context = contextOf(SIDE);
  const image = new ImageData(SIDE, SIDE);
  const step = (level: number) => (level % STEPS) * (STEPS + 1);
  for (let pixel = 0; pixel < SIDE * SIDE; pixel++)
    image.data.set([step(pixel), step(pixel / STEPS), step(pixel / STEPS ** 2), 255].map(Math.floor), pixel * 4);
  context.putImageData(image, 0, 0);
  return new Uint8Array(await (await context.canvas.convertToBlob({ type: 'image/png' })).arrayBuffer());
}

async function pixelsOf(png: Uint8Array, options?: ImageBitmapOptions): Promise<Uint8ClampedArray> {
  const context = contextOf(SIDE);
  const bitmap = await createImageBitmap(pngBlob(png), options);
  context.drawImage(bitmap, 0, 0);
  bitmap.close();
  return context.getImageData(0, 0, SIDE, SIDE).data;
}

/** Whether this browser gives plain PNGs their own colours when it is asked for nothing. */
async function askForOwnColours(): Promise<boolean> {
  const silent = withoutColourWords(await manyColours());
  for (const png of [silent, withSrgb(silent)]) {
    const [asStored, asGiven] = [await pixelsOf(png, AS_STORED), await pixelsOf(png)];
    if (asStored.some((value, at) => value !== asGiven[at])) return false;
  }
  return true;
}

let asked: Promise<boolean> | null = null;

/** A stored picture decoded, its colours as they are stored. Rejects where it can't be decoded. */
export async function decodeStored({ file, isPlain }: StoredPng): Promise<ImageBitmap> {
  // Where it can't be asked, the way that always holds is taken.
  asked ??= askForOwnColours().catch(() => false);
  return isPlain && (await asked) ? createImageBitmap(file) : createImageBitmap(file, AS_STORED);
}
