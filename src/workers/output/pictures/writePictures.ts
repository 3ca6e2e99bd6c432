import type { RenderPlan } from '@/core/render/renderPlan';
import type { OutputJob, WrittenOutput } from '@/workers/output/outputFormat';
import { KeptPictures, keptNames } from '@/workers/output/pictures/keptPictures';
import type { PackedPicture, StoredOrder, TakenPicture } from '@/workers/output/pictures/packPicture';
import type { PictureFiles } from '@/workers/output/pictures/pictureFiles';
import type { PictureHelpers } from '@/workers/output/pictures/pictureHelpers';
import type { RenderedPicture } from '@/workers/render/renderedPicture';

/** How pictures are taken off the canvas, and what is asked of those that never lie on one. */
export type PictureTaking = {
  readonly take: (picture: RenderedPicture) => Promise<TakenPicture>;
  readonly asked: Omit<StoredOrder, 'png'>;
};

/** A picture that is being packed while others are rendered. */
type Packing = { readonly packed: Promise<PackedPicture>; readonly mostBytes: number };

/** The finished pictures of a plan, in its order: each distinct stack is rendered and packed once, and not at all where it was finished before the page was left. */
class FinishedPictures {
  private readonly names;
  private readonly pictures;

  constructor(
    private readonly plan: RenderPlan,
    private readonly kept: KeptPictures | null,
    { take, asked }: PictureTaking,
    helpers: PictureHelpers,
    formatId: string,
    private readonly job: OutputJob,
  ) {
    const mostBytes = plan.size.width * plan.size.height;
    this.names = keptNames(plan, job.ground, formatId, job.options);
    this.pictures = job.pictures(
      async (picture): Promise<Packing> => {
        const taken = await take(picture);
        return { packed: helpers.pack(taken), mostBytes };
      },
      (packing) => packing.mostBytes,
      'maker',
      (png): Packing => ({ packed: helpers.packStored({ ...asked, png }), mostBytes }),
    );
  }

  /** Has the picture of a run rendered, unless it is finished; resolves when it is being packed. */
  async ofRun(index: number): Promise<{ readonly bytes: Promise<Uint8Array> }> {
    const { stack = 0 } = this.plan.runs[index] ?? {};
    const name = await (this.names[stack] as () => Promise<string>)();
    const finished = await this.kept?.get(name);
    if (finished && this.job.notes.recall(stack, finished.note)) return { bytes: Promise.resolve(finished.bytes) };
    const { packed } = await this.pictures.ofRun(index);
    return { bytes: this.noted(name, stack, packed) };
  }

  /** The bytes of a picture, once what it was rendered as is noted and both are kept. */
  private async noted(name: string, stack: number, packing: Promise<PackedPicture>): Promise<Uint8Array> {
    const { bytes, note } = await packing;
    if (note === null || !this.job.notes.recall(stack, note))
      throw new Error('A picture was packed and nobody noted what it was rendered as.');
    await this.kept?.put(name, { bytes, note });
    return bytes;
  }
}

/** Writes one picture file a frame of the plan, named in their order, and a list beside them where there is one. */
export async function writePictures(
  plan: RenderPlan,
  files: PictureFiles,
  taking: PictureTaking,
  helpers: PictureHelpers,
  formatId: string,
  job: OutputJob,
): Promise<WrittenOutput> {
  const kept = await KeptPictures.open(job.jobId);
  try {
    const pictures = new FinishedPictures(plan, kept, taking, helpers, formatId, job);
    const packing: Promise<Uint8Array>[] = [];
    let written = 0;
    const writeNext = async (): Promise<void> => {
      const run = plan.runs[written++];
      const bytes = await packing.shift();
      if (!run || !bytes) return;
      for (let frame = run.startFrame; frame < run.startFrame + run.frames; frame++) {
        job.stop.throwIfAborted();
        await files.add(job.names[frame] as string, bytes);
      }
      job.onWritten(run.startFrame + run.frames);
    };
    for (const index of plan.runs.keys()) {
      const { bytes } = await pictures.ofRun(index);
      // Whoever waits for it is told of what failed; until then it is no error of the page's.
      bytes.catch(() => undefined);
      packing.push(bytes);
      if (packing.length > helpers.atOnce) await writeNext();
    }
    while (packing.length > 0) await writeNext();
    for (const { name, text } of job.lists) await files.add(name, new TextEncoder().encode(text));
    const output = await files.finish();
    await kept?.clear();
    return output;
  } catch (error) {
    await files.discard();
    await kept?.clear();
    throw error;
  }
}
