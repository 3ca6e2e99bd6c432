import type { RenderPlan } from '@/core/render/renderPlan';
import type { OutputJob, WrittenOutput } from '@/workers/output/outputFormat';
import { KeptPictures, keptNames } from '@/workers/output/pictures/keptPictures';
import type { PictureFiles } from '@/workers/output/pictures/pictureFiles';
import type { RenderedPicture } from '@/workers/render/renderedPicture';

/**
 * Writes one picture file a frame of the plan, named in their order, and a list beside them where there is one; each distinct
 * stack is rendered and packed once, and not at all where it was finished before the page was left.
 */
export async function writePictures(
  plan: RenderPlan,
  files: PictureFiles,
  pack: (picture: RenderedPicture) => Promise<Uint8Array>,
  formatId: string,
  job: OutputJob,
): Promise<WrittenOutput> {
  const kept = await KeptPictures.open(job.jobId);
  try {
    const names = keptNames(plan, job.ground, formatId, job.options);
    const pictures = job.pictures(pack, (bytes) => bytes.byteLength);
    const packed = async (run: number, stack: number): Promise<Uint8Array> => {
      const name = await (names[stack] as () => Promise<string>)();
      const finished = await kept?.get(name);
      if (finished && job.notes.recall(stack, finished.note)) return finished.bytes;
      const bytes = await pictures.ofRun(run);
      const note = job.notes.noteOf(stack);
      if (note) await kept?.put(name, { bytes, note });
      return bytes;
    };
    for (const [index, run] of plan.runs.entries()) {
      const bytes = await packed(index, run.stack);
      for (let frame = run.startFrame; frame < run.startFrame + run.frames; frame++) {
        job.stop.throwIfAborted();
        await files.add(job.names[frame] as string, bytes);
      }
      job.onWritten(run.startFrame + run.frames);
    }
    for (const { name, text } of job.lists) await files.add(name, new TextEncoder().encode(text));
    const written = await files.finish();
    await kept?.clear();
    return written;
  } catch (error) {
    await files.discard();
    await kept?.clear();
    throw error;
  }
}
