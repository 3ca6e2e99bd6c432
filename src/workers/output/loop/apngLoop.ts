import { APNG_END, apngHead } from '@/core/format/png/writeApng';
import { heldInLoop, type LoopOptions } from '@/core/output/loop';
import type { RenderPlan } from '@/core/render/renderPlan';
import { delaysOf } from '@/core/time/heldTimes';
import type { LoopFile } from '@/workers/output/loop/loopFile';
import type { LoopPacking } from '@/workers/output/loop/loopPacking';
import { LoopParts } from '@/workers/output/loop/loopParts';
import type { OutputJob } from '@/workers/output/outputFormat';

/** Writes a plan as an animated PNG: each run of frames is one picture, of which the rectangle that changes is stored. */
export async function writeApngLoop(
  plan: RenderPlan,
  options: LoopOptions,
  job: OutputJob,
  file: LoopFile,
  packing: LoopPacking,
): Promise<void> {
  const { size } = plan;
  const { ground, notes } = job;
  const channels = ground === 'none' ? 4 : 3;
  const delays = delaysOf(heldInLoop(plan, options), plan.rate);
  file.add(apngHead(size, channels, plan.runs.length, options.plays));
  const parts = new LoopParts(file, job, { kind: 'apng', size, ground, comparing: notes.comparingPixels, channels, delays }, packing);
  const pictures = job.pictures(
    (picture) => picture.ownPixels(parts.room()),
    ({ pixels }) => pixels.byteLength,
    'maker',
  );
  for (const [index, run] of plan.runs.entries()) {
    job.stop.throwIfAborted();
    await parts.add(run, await pictures.ofRun(index), pictures.keeps(index));
  }
  await parts.finish();
  file.add(APNG_END);
}
