import type { RenderPlan } from '@/core/render/renderPlan';
import type { OutputJob, WrittenOutput } from '@/workers/output/outputFormat';
import type { PictureFiles } from '@/workers/output/pictures/pictureFiles';
import type { RenderedPicture } from '@/workers/render/renderedPicture';

/** Writes one picture file a frame of the plan, named in their order, and a list beside them where there is one; each distinct stack is rendered and packed once. */
export async function writePictures(
  plan: RenderPlan,
  files: PictureFiles,
  pack: (picture: RenderedPicture) => Promise<Uint8Array>,
  job: OutputJob,
): Promise<WrittenOutput> {
  try {
    const pictures = job.pictures(pack, (bytes) => bytes.byteLength);
    for (const [index, run] of plan.runs.entries()) {
      const bytes = await pictures.ofRun(index);
      for (let frame = run.startFrame; frame < run.startFrame + run.frames; frame++) {
        job.stop.throwIfAborted();
        await files.add(job.names[frame] as string, bytes);
      }
      job.onWritten(run.startFrame + run.frames);
    }
    for (const { name, text } of job.lists) await files.add(name, new TextEncoder().encode(text));
    return await files.finish();
  } catch (error) {
    await files.discard();
    throw error;
  }
}
