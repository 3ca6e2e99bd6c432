import type { Size } from '@/core/document/model';
import { writeBmp } from '@/core/format/bmp/writeBmp';
import { withSrgb } from '@/core/format/png/srgb';
import { type PngFacts, pngRows, writePng } from '@/core/format/png/writePng';
import { writeTga } from '@/core/format/tga/writeTga';
import { writeTiff } from '@/core/format/tiff/tiff';
import { PICTURE_KIND_FACTS, type PictureKind, type PictureOptions } from '@/core/output/pictures';
import { premultiplied } from '@/core/raster/pictureSignature';
import { pixelsOf } from '@/workers/output/meantPictures';
import { OutputRefused } from '@/workers/output/outputFormat';
import { deflated } from '@/workers/output/pictures/deflated';
import { withoutAlpha } from '@/workers/output/pictures/withoutAlpha';
import type { RenderedPicture } from '@/workers/render/renderedPicture';

/** A picture taken off the canvas, which the next may be laid on then: as a bitmap for the browser's own encoder, or as its pixels (RGBA, row by row). */
export type TakenPicture = {
  readonly kind: PictureKind;
  readonly options: PictureOptions;
  readonly size: Size;
  readonly isClear: boolean;
  readonly content: ImageBitmap | Uint8Array;
};

/** Whether the browser's own encoder packs a kind: on paper it does so exactly; where there is transparency a canvas is premultiplied, so that straight pixels are packed instead. */
const isByCanvas = (kind: PictureKind, { depth }: PictureOptions, isClear: boolean): boolean =>
  kind === 'jpeg' || kind === 'webp' || (kind === 'png' && depth === 8 && !isClear);

/** Takes a rendered picture off its canvas, in the form a kind is packed from. Pixels are given as they lie: they may be overwritten with the next picture. */
export async function takePicture(kind: PictureKind, options: PictureOptions, picture: RenderedPicture): Promise<TakenPicture> {
  const isClear = picture.ground === 'none' && PICTURE_KIND_FACTS[kind].alphas.length > 0;
  const content = isByCanvas(kind, options, isClear) ? await createImageBitmap(picture.canvas) : await pixelsOf(picture);
  return { kind, options, size: picture.size, isClear, content };
}

/** The pixels of a picture that was taken as such. */
function pixelsTaken({ content }: TakenPicture): Uint8Array {
  if (!(content instanceof Uint8Array)) throw new Error('The picture was taken as a bitmap.');
  return content;
}

/** What the browser's own encoder makes of a picture. Throws `OutputRefused` where it has none for a kind. */
async function byCanvas({ content, options, size }: TakenPicture, type: string, name: string): Promise<Uint8Array> {
  if (content instanceof Uint8Array) throw new Error('The picture was taken as pixels.');
  const canvas = new OffscreenCanvas(size.width, size.height);
  const context = canvas.getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('There is no memory for a picture of this size.');
  context.globalCompositeOperation = 'copy';
  context.drawImage(content, 0, 0);
  content.close();
  const quality = options.quality === null ? 1 : Math.min(99, options.quality) / 100;
  const blob = await canvas.convertToBlob({ type, quality });
  if (blob.type !== type) throw new OutputRefused(`This browser can’t write ${name} pictures: choose PNG or TIFF. Nothing was written.`);
  return new Uint8Array(await blob.arrayBuffer());
}

/** In 16 bits a value v becomes 257 · v, so that 255 is all there is (65535). */
async function packPng(taken: TakenPicture): Promise<Uint8Array> {
  const { options, isClear, size } = taken;
  if (isByCanvas('png', options, isClear)) return withSrgb(await byCanvas(taken, 'image/png', 'PNG'));
  const pixels = pixelsTaken(taken);
  const facts: PngFacts = { ...size, channels: isClear ? 4 : 3, depth: options.depth };
  return writePng(facts, await deflated(pngRows(facts, isClear ? pixels : withoutAlpha(pixels))));
}

async function packTiff(taken: TakenPicture): Promise<Uint8Array> {
  const { options, isClear, size } = taken;
  const pixels = pixelsTaken(taken);
  const data = !isClear ? withoutAlpha(pixels) : options.alpha === 'premultiplied' ? premultiplied(pixels) : pixels;
  return writeTiff(size.width, size.height, await deflated(data), isClear ? options.alpha : 'none');
}

async function packTga(taken: TakenPicture): Promise<Uint8Array> {
  const { options, isClear, size } = taken;
  const pixels = pixelsTaken(taken);
  if (!isClear) return writeTga(size.width, size.height, pixels, 'none');
  return writeTga(size.width, size.height, options.alpha === 'premultiplied' ? premultiplied(pixels) : pixels, options.alpha);
}

const PACKERS: Readonly<Record<PictureKind, (taken: TakenPicture) => Promise<Uint8Array>>> = {
  png: packPng,
  jpeg: (taken) => byCanvas(taken, 'image/jpeg', 'JPEG'),
  webp: (taken) => byCanvas(taken, 'image/webp', 'WebP'),
  tiff: packTiff,
  tga: packTga,
  bmp: async (taken) => writeBmp(taken.size.width, taken.size.height, pixelsTaken(taken), taken.isClear),
};

/** A picture as a file of its kind. A bitmap is used up. */
export const packTaken = (taken: TakenPicture): Promise<Uint8Array> => PACKERS[taken.kind](taken);
