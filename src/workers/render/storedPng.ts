import { changesColours } from '@/core/format/png/chunks';
import { withSrgb } from '@/core/format/png/srgb';

/*
 * Colours come out of a stored picture as they went in, whatever screen they are seen on: `colorSpaceConversion: 'none'` asks for
 * that. One browser takes half as long again for it as without, though a PNG that says nothing of its colours, or sRGB, comes
 * out the same there; others bring even such a one to the screen's own colours. So the browser is asked once, by having it decode
 * the same colours in both ways, and only a PNG that says nothing else of its colours goes the quicker one. No picture waits for
 * the answer: until it is known, all go the way that always holds.
 */

/** A stored picture's file; `isPlain` where it says nothing of its colours but that they are sRGB. */
export type StoredPng = { readonly file: Blob; readonly isPlain: boolean };

const pngBlob = (bytes: Uint8Array) => new Blob([bytes as Uint8Array<ArrayBuffer>], { type: 'image/png' });

/** The bytes of a stored picture as a file that can be decoded. */
export const storedPng = (bytes: Uint8Array): StoredPng => ({ file: pngBlob(bytes), isPlain: !changesColours(bytes) });

const AS_STORED = { colorSpaceConversion: 'none' } as const;
/** Sixteen steps of red, green and blue each, all with all: a PNG of 64 × 64 pixels that says nothing of its colours, as base64. */
export const MANY_COLOURS =
  'iVBORw0KGgoAAAANSUhEUgAAAEAAAABACAIAAAAlC+aJAAAACXBIWXMAAAPoAAAD6AG1e1JrAAAAbUlEQVRo3u3TwQkAIAwEwRNsIL1Ygv3XZA15KTIhz/ssy44k1flRb+1ndnpXb+0B3AdYxQAADTAAQAMMANAAAwA0wAAADTAAQAMMANAAAwA0wAAADTAAQAMMANAAAwA0wAAADTAAQAMMAPgd4AAmLCKI6unTPwAAAABJRU5ErkJggg==';
const SIDE = 64;

async function pixelsOf(png: Uint8Array, options?: ImageBitmapOptions): Promise<Uint8ClampedArray> {
  const context = new OffscreenCanvas(SIDE, SIDE).getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('There is no memory for a small picture.');
  const bitmap = await createImageBitmap(pngBlob(png), options);
  context.drawImage(bitmap, 0, 0);
  bitmap.close();
  return context.getImageData(0, 0, SIDE, SIDE).data;
}

/** Whether this browser gives plain PNGs their own colours when it is asked for nothing. */
async function askForOwnColours(): Promise<boolean> {
  const silent = Uint8Array.from(atob(MANY_COLOURS), (letter) => letter.charCodeAt(0));
  for (const png of [silent, withSrgb(silent)]) {
    const [asStored, asGiven] = [await pixelsOf(png, AS_STORED), await pixelsOf(png)];
    if (asStored.some((value, at) => value !== asGiven[at])) return false;
  }
  return true;
}

let isAsked = false;
let keepsColours = false;

function ask(): void {
  isAsked = true;
  askForOwnColours().then(
    (answer) => {
      keepsColours = answer;
    },
    () => {
      // Where it can't be asked, the way that always holds is taken.
      keepsColours = false;
    },
  );
}

/** A stored picture decoded, its colours as they are stored. Rejects where it can't be decoded. */
export function decodeStored({ file, isPlain }: StoredPng): Promise<ImageBitmap> {
  if (!isAsked) ask();
  return isPlain && keepsColours ? createImageBitmap(file) : createImageBitmap(file, AS_STORED);
}
