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
import type { RenderedPicture } from '@/workers/render/renderedPicture';

type Packing = { readonly picture: RenderedPicture; readonly options: PictureOptions; readonly isClear: boolean };

/** What the browser's own encoder makes of the canvas. Throws `OutputRefused` where it has none for a kind. */
async function byCanvas({ picture, options }: Packing, type: string, name: string): Promise<Uint8Array> {
  const quality = options.quality === null ? 1 : Math.min(99, options.quality) / 100;
  const blob = await picture.canvas.convertToBlob({ type, quality });
  if (blob.type !== type) throw new OutputRefused(`This browser can’t write ${name} pictures: choose PNG or TIFF. Nothing was written.`);
  return new Uint8Array(await blob.arrayBuffer());
}

/** Pixels without the fourth channel. */
function withoutAlpha(rgba: Uint8Array): Uint8Array {
  const rgb = new Uint8Array((rgba.length / 4) * 3);
  for (let from = 0, to = 0; from < rgba.length; from += 4) {
    rgb[to++] = rgba[from] as number;
    rgb[to++] = rgba[from + 1] as number;
    rgb[to++] = rgba[from + 2] as number;
  }
  return rgb;
}

/**
 * On paper a canvas packs exactly; where there is transparency it would not be exact, since a canvas is premultiplied, so
 * straight pixels are packed. In 16 bits a value v becomes 257 · v, so that 255 is all there is (65535).
 */
async function packPng(packing: Packing): Promise<Uint8Array> {
  const { picture, options, isClear } = packing;
  if (options.depth === 8 && !isClear) return withSrgb(await byCanvas(packing, 'image/png', 'PNG'));
  const { width, height } = picture.size;
  const pixels = await pixelsOf(picture);
  const facts: PngFacts = { width, height, channels: isClear ? 4 : 3, depth: options.depth };
  return writePng(facts, await deflated(pngRows(facts, isClear ? pixels : withoutAlpha(pixels))));
}

async function packTiff({ picture, options, isClear }: Packing): Promise<Uint8Array> {
  const pixels = await pixelsOf(picture);
  const data = !isClear ? withoutAlpha(pixels) : options.alpha === 'premultiplied' ? premultiplied(pixels) : pixels;
  const strip = await deflated(data);
  return writeTiff(picture.size.width, picture.size.height, strip, isClear ? options.alpha : 'none');
}

async function packTga({ picture, options, isClear }: Packing): Promise<Uint8Array> {
  const pixels = await pixelsOf(picture);
  const { width, height } = picture.size;
  if (!isClear) return writeTga(width, height, pixels, 'none');
  return writeTga(width, height, options.alpha === 'premultiplied' ? premultiplied(pixels) : pixels, options.alpha);
}

const PACKERS: Readonly<Record<PictureKind, (packing: Packing) => Promise<Uint8Array>>> = {
  png: packPng,
  jpeg: (packing) => byCanvas(packing, 'image/jpeg', 'JPEG'),
  webp: (packing) => byCanvas(packing, 'image/webp', 'WebP'),
  tiff: packTiff,
  tga: packTga,
  bmp: async ({ picture, isClear }) => writeBmp(picture.size.width, picture.size.height, await pixelsOf(picture), isClear),
};

/** A rendered picture as a file of a kind. */
export function packPicture(kind: PictureKind, options: PictureOptions, picture: RenderedPicture): Promise<Uint8Array> {
  const isClear = picture.ground === 'none' && PICTURE_KIND_FACTS[kind].alphas.length > 0;
  return PACKERS[kind]({ picture, options, isClear });
}
