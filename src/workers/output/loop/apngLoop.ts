import { APNG_END, apngHead, apngPicture } from '@/core/format/png/writeApng';
import { pngRows } from '@/core/format/png/writePng';
import { heldInLoop, type LoopOptions } from '@/core/output/loop';
import { changedArea, cropped } from '@/core/raster/changedArea';
import type { RenderPlan } from '@/core/render/renderPlan';
import { delaysOf } from '@/core/time/heldTimes';
import type { LoopFile } from '@/workers/output/loop/loopFile';
import type { OutputJob } from '@/workers/output/outputFormat';
import { deflated } from '@/workers/output/pictures/deflated';
import { withoutAlpha } from '@/workers/output/pictures/withoutAlpha';

const NOTHING = { x: 0, y: 0, width: 1, height: 1 };

/** Writes a plan as an animated PNG: each run of frames is one picture, of which the rectangle that changes is stored. */
export async function writeApngLoop(plan: RenderPlan, options: LoopOptions, job: OutputJob, file: LoopFile): Promise<void> {
  const { size } = plan;
  const channels = job.ground === 'none' ? 4 : 3;
  const delays = delaysOf(heldInLoop(plan, options), plan.rate);
  file.add(apngHead(size, channels, plan.runs.length, options.plays));
  const pictures = job.pictures(
    async (picture) => new Uint32Array((await picture.rgbaPixels()).slice().buffer),
    (words) => words.byteLength,
  );
  let before: Uint32Array | null = null;
  for (const [index, run] of plan.runs.entries()) {
    job.stop.throwIfAborted();
    const words = await pictures.ofRun(index);
    const area = before ? (changedArea(before, words, size) ?? NOTHING) : { x: 0, y: 0, ...size };
    const rgba = new Uint8Array(cropped(words, size, area).buffer);
    const rows = pngRows({ width: area.width, height: area.height, channels, depth: 8 }, channels === 4 ? rgba : withoutAlpha(rgba));
    const delay = delays[index];
    if (!delay) throw new Error('Every picture of a loop has a time.');
    file.add(apngPicture(index, area, delay, await deflated(rows)));
    before = words;
    job.onWritten(run.startFrame + run.frames);
  }
  file.add(APNG_END);
}
