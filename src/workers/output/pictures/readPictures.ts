import type { ReadBack, ReadFrame } from '@/core/count/readBack';
import { digestOfBytes, fingerprintOf } from '@/core/raster/digest';
import type { Source } from '@/workers/output/outputFormat';
import type { OpenedPicture } from '@/workers/output/pictures/openPicture';
import type { PictureHelpers } from '@/workers/output/pictures/pictureHelpers';

const EXTENSIONS = new Set(['png', 'jpg', 'webp', 'tif', 'tga', 'bmp']);
const extensionOf = (name: string): string => /\.([^.]+)$/.exec(name)?.[1]?.toLowerCase() ?? '';

/** A file that is being opened while those before it are looked at. */
type Opening = { readonly name: string; readonly opened: Promise<OpenedPicture & { readonly digest: string }> };

/** Opens picture files in the order they lie there, several at once. */
export function readPictures(source: Source, stop: AbortSignal, helpers: PictureHelpers): ReadBack {
  if (source.kind !== 'files') throw new Error('This format is picture files.');
  /** What all the pictures that were read say of their colours. */
  const said = new Set<string | null>();
  return {
    size: null,
    times: null,
    packetDigests: null,
    decoderDigest: null,
    colours: () => (said.size === 1 ? ([...said][0] ?? null) : null),
    sound: null,
    keyFrames: null,
    loop: null,
    frames: readInOrder(source, said, stop, helpers),
  };
}

async function* readInOrder(
  source: Source & { kind: 'files' },
  said: Set<string | null>,
  stop: AbortSignal,
  helpers: PictureHelpers,
): AsyncGenerator<ReadFrame> {
  const known = new Map<string, Opening['opened']>();
  const opening: Opening[] = [];
  const open = async (name: string): Promise<Opening> => {
    const bytes = await source.read(name);
    const key = await fingerprintOf(bytes);
    const opened =
      known.get(key) ?? digestOfBytes(bytes).then(async (digest) => ({ ...(await helpers.open(bytes, extensionOf(name))), digest }));
    known.set(key, opened);
    // Whoever comes to it is told of what failed; until then it is no error of the page's.
    opened.catch(() => undefined);
    return { name, opened };
  };
  const first = async (): Promise<ReadFrame> => {
    const { name, opened } = opening.shift() as Opening;
    const { picture, says, digest } = await opened;
    if (says) said.add(says.colours);
    return { name, picture, digest };
  };
  for (const name of source.names) {
    if (!EXTENSIONS.has(extensionOf(name))) continue;
    stop.throwIfAborted();
    opening.push(await open(name));
    if (opening.length > helpers.atOnce) yield await first();
  }
  while (opening.length > 0) yield await first();
}
