import type { Size } from '@/core/document/model';
import { changesColours } from '@/core/format/png/chunks';
import { writePng } from '@/core/format/png/writePng';
import { canonicalisePixels } from '@/core/raster/canonical';
import { inRgba, makeOpaque } from '@/core/raster/pixelOrder';
import { allColours, COLOURS_SIDE } from '@/workers/output/pictures/canvasPng';
import { packRows } from '@/workers/output/pictures/packRows';

/*
 * A PNG decoded to the very colours it holds, not multiplied by their transparency and divided again, by the browser's own decoder:
 * several times as quick as a script. A browser that says it does so is asked once whether that is so, with every pair of a
 * transparency and a channel.
 */

async function decoded(png: Uint8Array, { width, height }: Size, room?: Uint8Array): Promise<Uint8Array | null> {
  const decoder = new ImageDecoder({
    data: png as Uint8Array<ArrayBuffer>,
    type: 'image/png',
    premultiplyAlpha: 'none',
    colorSpaceConversion: 'none',
  });
  try {
    const { image } = await decoder.decode();
    try {
      const { format, codedWidth, codedHeight } = image;
      const [, order, last] = /^(BGR|RGB)([AX])$/.exec(format ?? '') ?? [];
      if (codedWidth !== width || codedHeight !== height || !order) return null;
      const bytes = width * height * 4;
      const pixels = room?.byteLength === bytes ? room : new Uint8Array(bytes);
      const [plane] = image.allocationSize() === bytes ? await image.copyTo(pixels) : [];
      if (plane?.stride !== width * 4 || plane.offset !== 0) return null;
      // What stands in the fourth place of pixels that have no transparency is nobody's word.
      if (last === 'X') makeOpaque(pixels);
      return inRgba(pixels, order === 'BGR' ? 'BGRA' : 'RGBA', () => pixels);
    } finally {
      image.close();
    }
  } finally {
    decoder.close();
  }
}

async function isDecoderStraight(): Promise<boolean> {
  if (typeof ImageDecoder === 'undefined') return false;
  const size = { width: COLOURS_SIDE, height: COLOURS_SIDE };
  for (const channels of [4, 3] as const) {
    const [stored, facts] = [allColours(), { ...size, channels, depth: 8 } as const];
    const back = await decoded(writePng(facts, await packRows(stored, facts)), size);
    if (!back) return false;
    if (channels === 3) makeOpaque(stored);
    canonicalisePixels(stored);
    canonicalisePixels(back);
    if (stored.some((value, at) => back[at] !== value)) return false;
  }
  return true;
}

let asked: Promise<boolean> | null = null;

/**
 * The pixels of a PNG of 8 bits a sample at most: RGBA, 8 bits each, as they are stored, in `room` where they fit it. Null where this
 * browser can't give them, or the picture says other colours than plain ones, has another size or can't be decoded.
 */
export async function straightPixels(png: Uint8Array, size: Size, room?: Uint8Array): Promise<Uint8Array | null> {
  // Where it can't be asked, and where a picture can't be decoded, whoever asks has another way, which says what is wrong.
  asked ??= isDecoderStraight().catch(() => false);
  return (await asked) && !changesColours(png) ? decoded(png, size, room).catch(() => null) : null;
}
