import { APNG_END, apngHead, apngPicture } from '@/core/format/png/writeApng';
import { heldInLoop, type LoopOptions } from '@/core/output/loop';
import { changedArea, cropped } from '@/core/raster/changedArea';
import { inRgba } from '@/core/raster/pixelOrder';
import type { RenderPlan } from '@/core/render/renderPlan';
import { delaysOf } from '@/core/time/heldTimes';
import type { LoopFile } from '@/workers/output/loop/loopFile';
import { PackedParts } from '@/workers/output/loop/packedParts';
import type { OutputJob } from '@/workers/output/outputFormat';
import type { RowPacking } from '@/workers/output/pictures/packRows';

const NOTHING = { x: 0, y: 0, width: 1, height: 1 };

/** Writes a plan as an animated PNG: each run of frames is one picture, of which the rectangle that changes is stored. */
export async function writeApngLoop(
  plan: RenderPlan,
  options: LoopOptions,
  job: OutputJob,
  file: LoopFile,
  rows: RowPacking,
): Promise<void> {
  const { size } = plan;
  const channels = job.ground === 'none' ? 4 : 3;
  const delays = delaysOf(heldInLoop(plan, options), plan.rate);
  file.add(apngHead(size, channels, plan.runs.length, options.plays));
  const pictures = job.pictures(
    async (picture) => {
      const { pixels, order } = await picture.ownPixels(new Uint8Array(size.width * size.height * 4));
      return inRgba(pixels, order, () => pixels);
    },
    (rgba) => rgba.byteLength,
    'maker',
  );
  const parts = new PackedParts(file, job, rows.atOnce);
  let before: Uint32Array | null = null;
  for (const [index, run] of plan.runs.entries()) {
    job.stop.throwIfAborted();
    const rgba = await pictures.ofRun(index);
    const words = new Uint32Array(rgba.buffer, rgba.byteOffset, rgba.byteLength >> 2);
    await job.notes.takePixels(run.stack, size, job.ground, rgba);
    const area = before ? (changedArea(before, words, size) ?? NOTHING) : { x: 0, y: 0, ...size };
    const changed = new Uint8Array(cropped(words, size, area).buffer);
    const delay = delays[index];
    if (!delay) throw new Error('Every picture of a loop has a time.');
    const packed = rows.packRows(changed, { width: area.width, height: area.height, channels, depth: 8 });
    await parts.add(
      run,
      packed.then((bytes) => apngPicture(index, area, delay, bytes)),
    );
    before = words;
  }
  await parts.finish();
  file.add(APNG_END);
}
