import { BufferTarget, CanvasSource, Output, WebMOutputFormat } from 'mediabunny';
import type { Size } from '@/core/document/model';
import type { BenchResult } from '@/core/outside/editingBench';

/** The film that comes out of the bench is there to be looked at: no wider than this. */
export const BENCH_WIDTH_PX = 640;

const BITS_A_SECOND = 2_000_000;

/** Writes what comes out of the bench as a WebM (VP8, which every browser has); `picture` gives a frame of the file. */
export async function writeBenchFilm(
  { sourceOf, rate }: BenchResult,
  size: Size,
  picture: (frame: number) => Promise<ImageBitmap | null>,
  onFrame: (frames: number) => void,
): Promise<Blob> {
  const scale = Math.min(1, BENCH_WIDTH_PX / size.width);
  const even = (side: number) => Math.max(2, Math.round((side * scale) / 2) * 2);
  const canvas = new OffscreenCanvas(even(size.width), even(size.height));
  const context = canvas.getContext('2d');
  if (!context) throw new Error('There is no memory for a picture of this size.');
  const target = new BufferTarget();
  const output = new Output({ format: new WebMOutputFormat(), target });
  const source = new CanvasSource(canvas, { codec: 'vp8', bitrate: BITS_A_SECOND });
  output.addVideoTrack(source, { frameRate: rate.num / rate.den });
  await output.start();
  let shown: number | null | undefined;
  for (const [frame, from] of sourceOf.entries()) {
    if (from !== shown) {
      context.fillStyle = '#000000';
      context.fillRect(0, 0, canvas.width, canvas.height);
      const bitmap = from === null ? null : await picture(from);
      if (bitmap) {
        context.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
        bitmap.close();
      }
      shown = from;
    }
    await source.add((frame * rate.den) / rate.num, rate.den / rate.num);
    onFrame(frame + 1);
  }
  await output.finalize();
  if (!target.buffer) throw new Error('The film could not be written.');
  return new Blob([target.buffer], { type: 'video/webm' });
}
