import { frameDigests } from '@/core/count/frameDigests';
import type { Size } from '@/core/document/model';
import { blocksOfPixels, onPaper } from '@/core/outside/blocks';
import type { OpenedOutside, OutsideFrame } from '@/core/outside/countOutside';
import { sequenceNumbers } from '@/core/outside/sequence';
import { digestOfBytes, fingerprintOf } from '@/core/raster/digest';

/* Opens pictures that lie one after another, each in a file of its own. How one is decoded is told from outside. */

/** A picture's file, not yet read. */
export type PictureFile = { readonly name: string; readonly sizeBytes: number; readonly read: () => Promise<Uint8Array> };

/** A decoded picture, straight RGBA; whoever is given it may write in it. */
export type DecodedPicture = { readonly size: Size; readonly rgba: Uint8Array };

/** Makes a frame of a picture file whose SHA-256 is given, by what it holds. Rejects with a sentence where it can't be read. */
export type ReadPictureFile = (bytes: Uint8Array, name: string, digest: string) => Promise<OutsideFrame>;

/** A decoded picture as a frame; `lay` lays its pixels on paper. */
export async function frameOf({ size, rgba }: DecodedPicture, lay: (rgba: Uint8Array) => void = onPaper): Promise<OutsideFrame> {
  lay(rgba);
  return { kind: 'seen', blocks: blocksOfPixels(size.width, size.height, rgba), fingerprint: await fingerprintOf(rgba), size };
}

/** Pictures whose files were just seen are not decoded again: a held drawing is often written as many equal files. */
const REMEMBERED = 8;

/** How pictures are read, and how many files are read and decoded at once: each takes some milliseconds and some megabytes. */
export type PictureReading = { readonly read: ReadPictureFile; readonly atOnce: number };

/** Frames of files in their order; the SHA-256 of each is put into `digests`. */
export async function* framesOfFiles(
  files: readonly PictureFile[],
  { read, atOnce }: PictureReading,
  digests: string[],
): AsyncGenerator<OutsideFrame> {
  const remembered = new Map<string, Promise<OutsideFrame>>();
  const frame = async ({ name, read: readFile }: PictureFile, place: number): Promise<OutsideFrame> => {
    try {
      const bytes = await readFile();
      const key = await digestOfBytes(bytes);
      digests[place] = key;
      const known = remembered.get(key) ?? read(bytes, name, key);
      remembered.delete(key);
      remembered.set(key, known);
      for (const oldest of remembered.keys()) {
        if (remembered.size <= REMEMBERED) break;
        remembered.delete(oldest);
      }
      return await known;
    } catch (error) {
      return { kind: 'unreadable', name, reason: error instanceof Error ? error.message : String(error) };
    }
  };
  const coming: Promise<OutsideFrame>[] = [];
  let next = 0;
  while (next < files.length || coming.length > 0) {
    while (next < files.length && coming.length < atOnce) coming.push(frame(files[next] as PictureFile, next++));
    yield (await coming.shift()) as OutsideFrame;
  }
}

const ENDING_NAMES: Readonly<Record<string, string>> = {
  jpg: 'JPEG',
  jpeg: 'JPEG',
  tif: 'TIFF',
  webp: 'WebP',
};

/** What pictures are, by their names' ending: `PNG pictures`. */
const madeOf = (name: string): string => {
  const ending = /\.([^./]+)$/.exec(name)?.[1]?.toLowerCase() ?? '';
  return `${ENDING_NAMES[ending] ?? ending.toUpperCase()} pictures`;
};

/** Opens a sequence of pictures, or a single one. */
export function openPictures(name: string, files: readonly PictureFile[], reading: PictureReading): OpenedOutside {
  const names = files.map((file) => file.name);
  const digests: string[] = [];
  return {
    kind: 'pictures',
    name,
    fileBytes: files.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0),
    made: madeOf(names[0] ?? ''),
    listedFrames: files.length,
    times: null,
    stampSeconds: null,
    size: null,
    colours: null,
    keyFrames: null,
    loop: null,
    sequence: files.length > 1 ? sequenceNumbers(name, names) : null,
    frames: framesOfFiles(files, reading, digests),
    sound: null,
    notes: () => [],
    digests: async () => ({
      file: files.length === 1 ? (digests[0] ?? null) : null,
      frames: digests.length === files.length ? frameDigests('file', digests) : null,
    }),
  };
}
