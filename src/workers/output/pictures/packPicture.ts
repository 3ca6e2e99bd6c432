import type { Size } from '@/core/document/model';
import { writeBmp } from '@/core/format/bmp/writeBmp';
import { bareRgbaPng } from '@/core/format/png/bare';
import { withSrgb } from '@/core/format/png/srgb';
import { type PngFacts, writePng } from '@/core/format/png/writePng';
import { writeTga } from '@/core/format/tga/writeTga';
import { writeTiff } from '@/core/format/tiff/tiff';
import type { Comparing } from '@/core/output/format';
import { PICTURE_KIND_FACTS, type PictureKind, type PictureOptions } from '@/core/output/pictures';
import { withoutFourth } from '@/core/raster/compiledPixels';
import { premultiplied } from '@/core/raster/pictureSignature';
import { inRgba } from '@/core/raster/pixelOrder';
import type { PixelOrder } from '@/core/raster/yuv';
import { noteOfPixels } from '@/workers/output/meantPictures';
import { OutputRefused } from '@/workers/output/outputFormat';
import { clearByCanvas, encodedByCanvas } from '@/workers/output/pictures/canvasPng';
import type { MeantNote } from '@/workers/output/pictures/keptPictures';
import { packRows } from '@/workers/output/pictures/packRows';
import { packedStrips } from '@/workers/output/pictures/packStrips';
import { type StoredPixels, storedPixels } from '@/workers/output/pictures/storedPixels';
import type { Ground } from '@/workers/render/compositor';
import type { RenderedPicture } from '@/workers/render/renderedPicture';
import type { StoredPng } from '@/workers/render/storedPng';

/** A stored picture that is all of what leaves, without a background, and what is to be made of it; see `TakenPicture`. */
export type StoredOrder = Pick<TakenPicture, 'kind' | 'options' | 'size' | 'comparing'> & { readonly png: StoredPng };

/** The pixels of a picture as they lie, which the next may be laid over, and what is to be made of them. */
export type TakenPicture = {
  readonly kind: PictureKind;
  readonly options: PictureOptions;
  readonly size: Size;
  readonly ground: Ground;
  readonly pixels: Uint8Array;
  readonly order: PixelOrder;
  /** How the file is held against them afterwards; null where nobody asks. */
  readonly comparing: Exclude<Comparing, 'film'> | null;
};

/** A picture as a file, and what its pixels were noted as. */
export type PackedPicture = { readonly bytes: Uint8Array; readonly note: MeantNote | null };

/** A picture whose pixels are in the order of their names. */
type Picture = Pick<TakenPicture, 'kind' | 'options' | 'size'> & { readonly isClear: boolean; readonly rgba: Uint8Array };

/** Takes a rendered picture off its canvas, to be packed here. */
export async function takePicture(kind: PictureKind, options: PictureOptions, picture: RenderedPicture): Promise<TakenPicture> {
  const { size, ground } = picture;
  const taken = ground === 'none' ? { pixels: picture.straightPixels(), order: 'RGBA' as const } : await picture.opaquePixels();
  return { kind, options, size, ground, comparing: null, ...taken };
}

/** Takes a rendered picture off its canvas, to be packed elsewhere: its pixels are its own, in `room` where they can be. */
export const takeOwnPicture = async (
  kind: PictureKind,
  options: PictureOptions,
  picture: RenderedPicture,
  comparing: TakenPicture['comparing'],
  room: Uint8Array,
): Promise<TakenPicture> => ({ kind, options, size: picture.size, ground: picture.ground, comparing, ...(await picture.ownPixels(room)) });

/** What the browser's own encoder makes of a picture. Throws `OutputRefused` where it has none for a kind. */
async function byCanvas({ rgba, options, size }: Picture, type: string, name: string): Promise<Uint8Array> {
  const quality = options.quality === null ? 1 : Math.min(99, options.quality) / 100;
  const bytes = await encodedByCanvas(rgba, size, type, quality);
  if (!bytes) throw new OutputRefused(`This browser can’t write ${name} pictures: choose PNG or TIFF. Nothing was written.`);
  return bytes;
}

/** In 16 bits a value v becomes 257 · v, so that 255 is all there is (65535). */
async function packPng(picture: Picture): Promise<Uint8Array> {
  const { options, isClear, size, rgba } = picture;
  if (options.depth === 8 && !isClear) return withSrgb(await byCanvas(picture, 'image/png', 'PNG'));
  if (options.depth === 8) {
    const quick = await clearByCanvas(rgba, size);
    if (quick) return withSrgb(quick);
  }
  const facts: PngFacts = { ...size, channels: isClear ? 4 : 3, depth: options.depth };
  return writePng(facts, await packRows(rgba, facts));
}

async function packTiff({ options, isClear, size, rgba }: Picture): Promise<Uint8Array> {
  const data = !isClear ? withoutFourth(rgba) : options.alpha === 'premultiplied' ? premultiplied(rgba) : rgba;
  return writeTiff(size.width, size.height, await packedStrips(data, size), isClear ? options.alpha : 'none');
}

async function packTga({ options, isClear, size, rgba }: Picture): Promise<Uint8Array> {
  if (!isClear) return writeTga(size.width, size.height, rgba, 'none');
  return writeTga(size.width, size.height, options.alpha === 'premultiplied' ? premultiplied(rgba) : rgba, options.alpha);
}

const PACKERS: Readonly<Record<PictureKind, (picture: Picture) => Promise<Uint8Array>>> = {
  png: packPng,
  jpeg: (picture) => byCanvas(picture, 'image/jpeg', 'JPEG'),
  webp: (picture) => byCanvas(picture, 'image/webp', 'WebP'),
  tiff: packTiff,
  tga: packTga,
  bmp: async ({ size, rgba, isClear }) => writeBmp(size.width, size.height, rgba, isClear),
};

/** A picture as a file of its kind, and what it is held against. Its pixels are put in order in `room`, of their length. */
export async function packTaken(
  { kind, options, size, ground, pixels, order, comparing }: TakenPicture,
  room: () => Uint8Array = () => new Uint8Array(pixels.byteLength),
): Promise<PackedPicture> {
  const rgba = inRgba(pixels, order, room);
  const note = comparing && (await noteOfPixels(comparing, size, ground, rgba));
  const isClear = ground === 'none' && PICTURE_KIND_FACTS[kind].alphas.length > 0;
  return { bytes: await PACKERS[kind]({ kind, options, size, isClear, rgba }), note };
}

/** Pixels (RGBA, straight, canonical) without a background as a file; as they are stored, where they are and the kind is that. */
async function packClear(
  { kind, options, size }: Omit<StoredOrder, 'png' | 'comparing'>,
  { rgba, stored }: StoredPixels,
): Promise<Uint8Array> {
  const bare = kind === 'png' && options.depth === 8 && stored ? bareRgbaPng(stored) : null;
  if (bare) return bare;
  return PACKERS[kind]({ kind, options, size, isClear: PICTURE_KIND_FACTS[kind].alphas.length > 0, rgba });
}

/** Room for pixels that are done with, for the next of their size: as much new room takes as long as working through it. */
const rooms: Uint8Array[] = [];

/**
 * A stored picture alone as a file of a kind, with what its pixels are noted as: it leaves with its own colours. Who notes them in
 * another way is shown them, RGBA, before the next may be laid over them.
 */
export async function packStored(
  { png, comparing, ...order }: StoredOrder,
  show: (rgba: Uint8Array) => Promise<void> = async () => undefined,
): Promise<PackedPicture> {
  const pixels = await storedPixels(png, order.size, rooms.pop());
  const note = comparing && (await noteOfPixels(comparing, order.size, 'none', pixels.rgba));
  await show(pixels.rgba);
  const bytes = await packClear(order, pixels);
  rooms.push(pixels.rgba);
  return { bytes, note };
}
