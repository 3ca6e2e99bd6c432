import { expose, transfer } from 'comlink';
import type { JobEvent } from '@/core/output/jobState';
import { isLoopKind } from '@/core/output/loop';
import type { RenderPlan } from '@/core/render/renderPlan';
import { FORMATS } from '@/workers/output/formats/list';
import { LOOP_WRITERS } from '@/workers/output/formats/loops';
import { RunningJob } from '@/workers/output/job';
import { LoopFile, type LoopSink } from '@/workers/output/loop/loopFile';
import type { TriedLoop } from '@/workers/output/loop/loopMaker';
import { PACKED_HERE } from '@/workers/output/loop/loopPacking';
import { openLoop } from '@/workers/output/loop/readLoop';
import { madeOf } from '@/workers/output/loop/triedLoop';
import { OutputRefused } from '@/workers/output/outputFormat';
import { type HandoverOrder, handoverOrderSchema, type TrialProgress, type TrialWorker, type TriedPicture } from '@/workers/protocol';
import { PictureMissing } from '@/workers/render/pictureSource';
import { StackPictures } from '@/workers/render/stackPictures';

/** A file in memory, written from its beginning on. */
function inMemory(): LoopSink {
  const parts = new Map<number, Uint8Array>();
  return {
    storedAs: 'trial',
    write: (position, bytes) => {
      // A head that is only known in the end lies over the beginning of what is there.
      const there = parts.get(position);
      if (there) there.set(bytes);
      else parts.set(position, bytes);
    },
    finish: async () => new Blob([...parts.values()] as Uint8Array<ArrayBuffer>[]),
    discard: async () => parts.clear(),
  };
}

let made: { readonly order: HandoverOrder; readonly file: Blob } | null = null;

async function make(order: HandoverOrder, onProgress: TrialProgress): Promise<{ loop: TriedLoop; microseconds: readonly number[] }> {
  const { plan, options, formatId } = order;
  const format = FORMATS.find(({ id }) => id === formatId);
  if (options.kind !== 'loop' || !format || !isLoopKind(formatId)) throw new Error('Only loops are tried.');
  const refusal = format.refuse(plan);
  if (!refusal.ok) throw new OutputRefused(refusal.reason);
  const onEvent = (event: JobEvent) => {
    if ('progress' in event) onProgress(event.progress.framesDone, event.kind === 'looking');
  };
  const job = new RunningJob(order, format, onEvent, new AbortController().signal, null, null);
  const file = new LoopFile(inMemory(), { ...options, mostBytes: null });
  await (await LOOP_WRITERS[formatId]())(plan, options, job.forWriter, file, PACKED_HERE);
  const written = (await file.finish()).file ?? new Blob();
  const { microseconds } = (await openLoop(new Uint8Array(await written.arrayBuffer()))).loop;
  const notes = job.notes.ofAll(plan.stacks.length);
  return { loop: { madeOf: await madeOf(order), file: written, notes, composited: job.pictures }, microseconds };
}

/** The pixels that a run of a plan is rendered to. */
async function rendered(plan: RenderPlan, place: number, ground: HandoverOrder['ground']): Promise<Uint8Array> {
  const run = plan.runs[place];
  if (!run) throw new Error(`There is no picture ${place + 1}.`);
  const alone = { ...plan, frames: run.frames, runs: [{ ...run, startFrame: 0 }] };
  const pictures = new StackPictures(
    alone,
    ground,
    async (picture) => (await picture.rgbaPixels()).slice(),
    () => 0,
  );
  return pictures.ofRun(0);
}

async function seen(file: Blob, place: number): Promise<Uint8Array> {
  let at = 0;
  for await (const { pixels } of (await openLoop(new Uint8Array(await file.arrayBuffer()))).pages) if (at++ === place) return pixels;
  throw new Error(`The loop has no picture ${place + 1}.`);
}

/** How many times stronger a difference is shown than it is. */
const DIFFERENCE_GAIN = 4;

/** Where two pictures differ, on black: each channel by how much, transparency in all of them. */
function differenceOf(
  a: Uint8Array,
  b: Uint8Array,
): { readonly pixels: Uint8ClampedArray; readonly meanLevels: number; readonly mostLevels: number } {
  const pixels = new Uint8ClampedArray(a.length);
  let [sum, most] = [0, 0];
  for (let at = 0; at < a.length; at += 4) {
    const clear = Math.abs((a[at + 3] as number) - (b[at + 3] as number));
    for (let channel = 0; channel < 3; channel++) {
      const apart = Math.max(clear, Math.abs((a[at + channel] as number) - (b[at + channel] as number)));
      sum += apart;
      most = Math.max(most, apart);
      pixels[at + channel] = apart * DIFFERENCE_GAIN;
    }
    pixels[at + 3] = 255;
  }
  return { pixels, meanLevels: sum / ((a.length / 4) * 3), mostLevels: most };
}

async function picture(place: number): Promise<TriedPicture> {
  if (!made) throw new Error('No loop was made yet.');
  const { plan, ground } = made.order;
  const [original, result] = [await rendered(plan, place, ground), await seen(made.file, place)];
  const { pixels, meanLevels, mostLevels } = differenceOf(original, result);
  const bitmapOf = (rgba: Uint8Array | Uint8ClampedArray) =>
    createImageBitmap(new ImageData(new Uint8ClampedArray(rgba), plan.size.width, plan.size.height));
  const bitmaps = [await bitmapOf(original), await bitmapOf(result), await bitmapOf(pixels)] as const;
  return transfer({ original: bitmaps[0], result: bitmaps[1], difference: bitmaps[2], meanLevels, mostLevels }, [...bitmaps]);
}

const worker: TrialWorker = {
  make: async (asked, onProgress) => {
    const order = handoverOrderSchema.parse(asked);
    try {
      const { loop, microseconds } = await make(order, onProgress);
      made = { order, file: loop.file };
      return { kind: 'tried', loop, microseconds };
    } catch (error) {
      if (error instanceof OutputRefused || error instanceof PictureMissing) return { kind: 'refused', reason: error.message };
      throw error;
    }
  },
  picture,
};

expose(worker);
