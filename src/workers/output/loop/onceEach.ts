import { startPictureOptions } from '@/core/output/pictures';
import type { RenderPlan } from '@/core/render/renderPlan';
import type { OutputJob } from '@/workers/output/outputFormat';
import { packTaken, takePicture } from '@/workers/output/pictures/packPicture';
import type { RenderedPicture } from '@/workers/render/renderedPicture';

/** Takes the distinct pictures of a plan in the order they are first shown; gives for each run which of them it shows (from 0). */
export async function onceEach<Made>(
  plan: RenderPlan,
  job: OutputJob,
  make: (picture: RenderedPicture) => Promise<Made>,
  take: (made: Made) => Promise<void> | void,
): Promise<readonly number[]> {
  const pictures = job.pictures(make, () => 0);
  const places = new Map<number, number>();
  for (const [index, run] of plan.runs.entries()) {
    job.stop.throwIfAborted();
    if (!places.has(run.stack)) {
      places.set(run.stack, places.size);
      await take(await pictures.ofRun(index));
    }
    job.onWritten(run.startFrame + run.frames);
  }
  return plan.runs.map(({ stack }) => places.get(stack) as number);
}

/** A picture as a PNG that keeps every pixel. */
export const asPng = async (picture: RenderedPicture): Promise<Uint8Array> =>
  (await packTaken(await takePicture('png', startPictureOptions('png'), picture))).bytes;
