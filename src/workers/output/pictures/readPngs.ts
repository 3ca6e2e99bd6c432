import { decode } from 'fast-png';
import type { ReadBack, ReadFrame, ReadPicture } from '@/core/count/readBack';
import { sameSize } from '@/core/document/size';
import { readPngSize } from '@/core/format/png/header';
import { canonicalisePixels, digestOfBytes, fingerprintOf } from '@/core/raster/digest';
import { inRgba, isOpaque } from '@/core/raster/pixelOrder';
import type { Source } from '@/workers/output/outputFormat';
import { Compositor } from '@/workers/render/compositor';

/** The number a picture file bears: the digits before its extension; null when there are none. */
const numberOf = (name: string): number | null => {
  const digits = /(\d+)\.[^.]+$/.exec(name)?.[1];
  return digits === undefined ? null : Number(digits);
};

/** Opens numbered PNG files, in the order of their numbers. */
export function readPngs(source: Source, stop: AbortSignal): ReadBack {
  if (source.kind !== 'files') throw new Error('This format is picture files.');
  return { size: null, times: null, packetDigests: null, frames: readInOrder(source, stop) };
}

async function* readInOrder(source: Source & { kind: 'files' }, stop: AbortSignal): AsyncGenerator<ReadFrame> {
  const numbered = source.names.flatMap((name) => {
    const number = numberOf(name);
    return number === null ? [] : [{ name, number }];
  });
  const known = new Map<string, { picture: ReadPicture; digest: string }>();
  const reader = new PngReader();
  for (const { name, number } of numbered.toSorted((a, b) => a.number - b.number)) {
    stop.throwIfAborted();
    const bytes = await source.read(name);
    const key = await fingerprintOf(bytes);
    let read = known.get(key);
    if (!read) {
      read = { picture: await reader.read(bytes), digest: await digestOfBytes(bytes) };
      known.set(key, read);
    }
    yield { number, ...read };
  }
}

/** Reads the pixels of PNG files: opaque ones through the browser's own decoder, others straight, since a canvas would premultiply them. */
class PngReader {
  private compositor: Compositor | null = null;
  private room = new Uint8Array(0);

  async read(bytes: Uint8Array): Promise<ReadPicture> {
    const header = readPngSize(bytes);
    if (!header.ok) throw new Error(header.reason);
    const size = header.value;
    if (!this.compositor || !sameSize(this.compositor.size, size)) {
      this.compositor = new Compositor(size);
      this.room = new Uint8Array(size.width * size.height * 4);
    }
    const bitmap = await createImageBitmap(new Blob([bytes as Uint8Array<ArrayBuffer>], { type: 'image/png' }), {
      colorSpaceConversion: 'none',
    });
    this.compositor.layBitmap(bitmap);
    bitmap.close();
    const { pixels, order } = await this.compositor.opaquePixels();
    const rgba = isOpaque(pixels) ? inRgba(pixels, order, () => this.room) : straightPixels(bytes);
    return { kind: 'exact', fingerprint: await fingerprintOf(rgba), size };
  }
}

/** Canonical straight pixels of a PNG with transparency. */
function straightPixels(bytes: Uint8Array): Uint8Array {
  const { channels, data } = decode(bytes);
  if (channels !== 4) throw new Error(`A picture with transparency came back with ${channels} channels.`);
  const pixels = Uint8Array.from(data);
  canonicalisePixels(pixels);
  return pixels;
}
