import { APNG_END, apngHead, apngPicture } from '@/core/format/png/writeApng';
import { heldInLoop, type LoopOptions } from '@/core/output/loop';
import { changedArea, cropped } from '@/core/raster/changedArea';
import type { RenderPlan } from '@/core/render/renderPlan';
import { delaysOf } from '@/core/time/heldTimes';
import type { LoopFile } from '@/workers/output/loop/loopFile';
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
    async (picture) => new Uint32Array((await picture.rgbaPixels()).slice().buffer),
    (words) => words.byteLength,
  );
  // Packed while the next are rendered, and written in their order.
  const packing: Promise<Uint8Array>[] = [];
  let written = 0;
  const writeNext = async (): Promise<void> => {
    const run = plan.runs[written++];
    const packed = await packing.shift();
    if (!run || !packed) return;
    file.add(packed);
    job.onWritten(run.startFrame + run.frames);
  };
  let before: Uint32Array | null = null;
  for (const index of plan.runs.keys()) {
    job.stop.throwIfAborted();
    const words = await pictures.ofRun(index);
    const area = before ? (changedArea(before, words, size) ?? NOTHING) : { x: 0, y: 0, ...size };
    const rgba = new Uint8Array(cropped(words, size, area).buffer);
    const delay = delays[index];
    if (!delay) throw new Error('Every picture of a loop has a time.');
    const packed = rows
      .packRows(rgba, { width: area.width, height: area.height, channels, depth: 8 })
      .then((packedRows) => apngPicture(index, area, delay, packedRows));
    // Whoever waits for it is told of what failed; until then it is no error of the page's.
    packed.catch(() => undefined);
    packing.push(packed);
    if (packing.length > rows.atOnce) await writeNext();
    before = words;
  }
  while (packing.length > 0) await writeNext();
  file.add(APNG_END);
}
