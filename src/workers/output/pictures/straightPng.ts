import type { Size } from '@/core/document/model';
import { writePng } from '@/core/format/png/writePng';
import { canonicalisePixels } from '@/core/raster/canonical';
import { inRgba } from '@/core/raster/pixelOrder';
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
      if (codedWidth !== width || codedHeight !== height || (format !== 'BGRA' && format !== 'RGBA')) return null;
      const bytes = width * height * 4;
      const pixels = room?.byteLength === bytes ? room : new Uint8Array(bytes);
      const [plane] = image.allocationSize() === bytes ? await image.copyTo(pixels) : [];
      return plane?.stride === width * 4 && plane.offset === 0 ? inRgba(pixels, format, () => pixels) : null;
    } finally {
      image.close();
    }
  } finally {
    decoder.close();
  }
}

async function isDecoderStraight(): Promise<boolean> {
  if (typeof ImageDecoder === 'undefined') return false;
  const [stored, size] = [allColours(), { width: COLOURS_SIDE, height: COLOURS_SIDE }];
  const facts = { ...size, channels: 4, depth: 8 } as const;
  const back = await decoded(writePng(facts, await packRows(stored, facts)), size);
  if (!back) return false;
  canonicalisePixels(stored);
  canonicalisePixels(back);
  return stored.every((value, at) => back[at] === value);
}

let asked: Promise<boolean> | null = null;

/**
 * The pixels of a PNG that says no other colours than plain ones: RGBA, 8 bits each, as they are stored, in `room` where they fit it.
 * Null where this browser can't give them, or the picture has another size or can't be decoded.
 */
export async function straightPixels(png: Uint8Array, size: Size, room?: Uint8Array): Promise<Uint8Array | null> {
  // Where it can't be asked, and where a picture can't be decoded, whoever asks has another way, which says what is wrong.
  asked ??= isDecoderStraight().catch(() => false);
  return (await asked) ? decoded(png, size, room).catch(() => null) : null;
}
