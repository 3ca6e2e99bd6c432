import { webpHead, webpPicture } from '@/core/format/webp/animatedWebp';
import { heldInLoop, type LoopOptions } from '@/core/output/loop';
import { type Area, changedArea, evenArea } from '@/core/raster/changedArea';
import type { RenderPlan } from '@/core/render/renderPlan';
import { roundedDurations } from '@/core/time/heldTimes';
import type { LoopFile } from '@/workers/output/loop/loopFile';
import { type OutputJob, OutputRefused } from '@/workers/output/outputFormat';

const MILLISECONDS = 1000;
const NOTHING: Area = { x: 0, y: 0, width: 1, height: 1 };

type Taken = { readonly words: Uint32Array; readonly bitmap: ImageBitmap };

/** The rectangle of a picture as a WebP, packed by the browser. Throws `OutputRefused` where it can't write one. */
async function packed(bitmap: ImageBitmap, { x, y, width, height }: Area, quality: number | null): Promise<Uint8Array> {
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('There is no memory for a picture of this size.');
  context.globalCompositeOperation = 'copy';
  context.drawImage(bitmap, -x, -y);
  const blob = await canvas.convertToBlob({ type: 'image/webp', quality: quality === null ? 1 : Math.min(99, quality) / 100 });
  if (blob.type !== 'image/webp')
    throw new OutputRefused('This browser can’t write WebP pictures: choose GIF or APNG. Nothing was written.');
  return new Uint8Array(await blob.arrayBuffer());
}

/** Writes a plan as an animated WebP: each run of frames is one picture, of which the rectangle that changes is stored. */
export async function writeWebpLoop(plan: RenderPlan, options: LoopOptions, job: OutputJob, file: LoopFile): Promise<void> {
  const { size } = plan;
  const durations = roundedDurations(heldInLoop(plan, options), plan.rate, MILLISECONDS);
  const hasAlpha = job.ground === 'none';
  const headBytes = webpHead(size, hasAlpha, options.plays, 0);
  file.add(headBytes);
  const pictures = job.pictures(
    async (picture): Promise<Taken> => ({
      words: new Uint32Array((await picture.rgbaPixels()).slice().buffer),
      bitmap: await createImageBitmap(picture.canvas),
    }),
    ({ words }) => words.byteLength * 2,
  );
  let before: Uint32Array | null = null;
  for (const [index, run] of plan.runs.entries()) {
    job.stop.throwIfAborted();
    const { words, bitmap } = await pictures.ofRun(index);
    const area = before ? evenArea(changedArea(before, words, size) ?? NOTHING) : { x: 0, y: 0, ...size };
    const picture = webpPicture(area, durations[index] as number, await packed(bitmap, area, options.quality));
    if (!picture.ok) throw new Error(picture.reason);
    file.add(picture.value);
    before = words;
    job.onWritten(run.startFrame + run.frames);
  }
  file.begin(webpHead(size, hasAlpha, options.plays, file.fileBytes - headBytes.byteLength));
}
