import { blocksOfPixels, onPaper } from '@/core/outside/blocks';
import type { Blocks } from '@/core/outside/look';
import { FrameWatch, type SeenFrames } from '@/core/outside/seenFrames';
import type { RenderPlan } from '@/core/render/renderPlan';
import { fitted } from '@/workers/count/framePictures';
import { Compositor } from '@/workers/render/compositor';
import { StackPictures } from '@/workers/render/stackPictures';

/** What every frame of a plan looks like, each distinct stack composited once; `onFrame` is told how many frames are done. */
export async function planFrames(plan: RenderPlan, onFrame: (frames: number) => void, stop: AbortSignal): Promise<SeenFrames> {
  const { width, height } = plan.size;
  const pictures = new StackPictures<Blocks>(
    plan,
    'paper',
    async (picture) => {
      const rgba = await picture.rgbaPixels();
      onPaper(rgba);
      return blocksOfPixels(width, height, rgba);
    },
    ({ planes }) => planes.byteLength,
  );
  const watch = new FrameWatch(plan.frames);
  for (const [index, run] of plan.runs.entries()) {
    stop.throwIfAborted();
    const blocks = await pictures.ofRun(index);
    for (let frame = 0; frame < run.frames; frame++) watch.take(blocks, width, `${run.stack}`);
    onFrame(run.startFrame + run.frames);
  }
  return watch.seen;
}

/** A frame of a plan as a picture no wider than told. */
export async function planPicture(plan: RenderPlan, frame: number, mostWidthPx: number): Promise<ImageBitmap | null> {
  const run = plan.runs.find(({ startFrame, frames }) => frame >= startFrame && frame < startFrame + frames);
  const stack = run && plan.stacks[run.stack];
  if (!stack) return null;
  const { width, height } = plan.composedSize ?? plan.size;
  const canvas = await new Compositor({ width, height }, undefined, 1, plan.finish).lay(stack, 'paper');
  return fitted((context, across, down) => context.drawImage(canvas, 0, 0, across, down), width, height, mostWidthPx);
}
