import type { FormatOptions } from '@/core/output/format';
import { LOOP_KIND_FACTS, type LoopKind, type LoopOptions, refuseLoop, START_LOOP } from '@/core/output/loop';
import type { RenderPlan } from '@/core/render/renderPlan';
import type { LoopFile } from '@/workers/output/loop/loopFile';
import type { LoopPacking } from '@/workers/output/loop/loopPacking';
import { fileOf, type OutputFormat, type OutputJob } from '@/workers/output/outputFormat';
import { helpersOfJob } from '@/workers/output/pictures/helpersOfJob';

/** What is asked of a loop. Throws when it is asked of something else. */
function loopOptions(options: FormatOptions): LoopOptions {
  if (options.kind !== 'loop') throw new Error('A loop is asked for as a loop.');
  return options;
}

/** Writes a loop; what it holds may be packed by others meanwhile. */
type LoopWriter = (plan: RenderPlan, options: LoopOptions, job: OutputJob, file: LoopFile, packing: LoopPacking) => Promise<void>;

/** How each kind is written; it is loaded when it is used. */
export const LOOP_WRITERS: Readonly<Record<LoopKind, () => Promise<LoopWriter>>> = {
  gif: async () => (await import('@/workers/output/loop/gifLoop')).writeGifLoop,
  apng: async () => (await import('@/workers/output/loop/apngLoop')).writeApngLoop,
  awebp: async () => (await import('@/workers/output/loop/webpLoop')).writeWebpLoop,
  page: async () => (await import('@/workers/output/loop/pageLoop')).writePageLoop,
  strip: async () => (await import('@/workers/output/loop/stripLoop')).writeStripLoop,
};

/** A loop of one kind: what differs between them is data, see `@/core/output/loop`. */
function loopFormat(kind: LoopKind): OutputFormat {
  const { name, extension } = LOOP_KIND_FACTS[kind];
  return {
    id: kind,
    name,
    group: 'loop',
    files: { kind: 'one', extension },
    carries: {
      rates: 'any',
      sizes: 'any',
      transparency: true,
      sound: false,
      colours: kind === 'gif' || kind === 'awebp' ? 'near' : 'exact',
    },
    start: START_LOOP,
    compares: (options, ground) => {
      const { quality } = loopOptions(options);
      if (quality !== null || (kind === 'awebp' && ground === 'none')) return 'clearPicture';
      return 'exact';
    },
    refuse: (plan) => refuseLoop(kind, plan),
    load: async () => {
      await Promise.all([
        LOOP_WRITERS[kind](),
        import('@/workers/output/loop/loopFile'),
        import('@/workers/output/loop/readLoop'),
        helpersOfJob(),
      ]);
    },
    write: async (plan, sink, job) => {
      const options = loopOptions(job.options);
      const { createOwnFile } = await import('@/workers/output/ownFile');
      const { LoopFile } = await import('@/workers/output/loop/loopFile');
      const own = await createOwnFile(`${job.baseName}.${extension}`, sink.owner);
      const file = new LoopFile(own, options);
      try {
        if (job.tried) {
          await file.addAll(job.tried());
          job.onWritten(plan.frames);
        } else await (await LOOP_WRITERS[kind]())(plan, options, job, file, await helpersOfJob());
        return await file.finish();
      } catch (error) {
        await own.discard();
        throw error;
      }
    },
    readBack: async (source, stop) => {
      const { readLoop } = await import('@/workers/output/loop/readLoop');
      return readLoop(fileOf(source), stop);
    },
  };
}

export const gif = loopFormat('gif');
export const apng = loopFormat('apng');
export const animatedWebp = loopFormat('awebp');
export const page = loopFormat('page');
export const strip = loopFormat('strip');
