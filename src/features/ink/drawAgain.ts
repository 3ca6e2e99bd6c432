import type { InkStroke } from '@/contracts/local';
import type { Size } from '@/core/document/model';
import { drawInk } from '@/features/ink/ink';
import { type DrawTarget, drawingOf, makePicture } from '@/features/ink/makePicture';
import { pictures } from '@/features/project/pictures';
import { serverRetryer } from '@/features/sync/server';
import { PictureMissing } from '@/workers/client';

/** A page with a drawing's picture as it is now; waits for a server that doesn't answer. */
export async function pageOf(size: Size, target: DrawTarget): Promise<OffscreenCanvasRenderingContext2D> {
  const context = new OffscreenCanvas(size.width, size.height).getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('There is no memory for a picture of this size.');
  for (;;) {
    const picture = drawingOf(target)?.picture;
    if (!picture) return context;
    try {
      context.drawImage(await pictures.get(picture), 0, 0);
      return context;
    } catch (error) {
      // What is in no store can't be drawn on; the ink is all there is then.
      if (error instanceof PictureMissing) return context;
      await serverRetryer.wait();
    }
  }
}

/** Draws a stroke on its drawing as that is now, and makes it the drawing's picture. */
export async function drawAgain(size: Size, target: DrawTarget, stroke: InkStroke, order: number): Promise<void> {
  const context = await pageOf(size, target);
  drawInk(context, stroke);
  const pixels = context.getImageData(0, 0, size.width, size.height).data;
  await makePicture(size, target, pixels, { order, fromDraft: true });
}
