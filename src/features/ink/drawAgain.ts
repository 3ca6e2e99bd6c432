import type { InkStroke } from '@/contracts/local';
import type { Digest, Size } from '@/core/document/model';
import { drawInk } from '@/features/ink/ink';
import { type DrawTarget, drawingOf, makePicture } from '@/features/ink/makePicture';
import { pictures } from '@/features/project/pictures';
import { serverRetryer } from '@/features/sync/server';
import { PictureMissing } from '@/workers/client';

/** A drawing's picture as it is now, on a page of its own. */
type DrawnPage = { readonly context: OffscreenCanvasRenderingContext2D; readonly picture: Digest | null };

/** A page with a drawing's picture as it is now; waits for a server that doesn't answer. */
export async function pageOf(size: Size, target: DrawTarget): Promise<DrawnPage> {
  const context = new OffscreenCanvas(size.width, size.height).getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('There is no memory for a picture of this size.');
  for (;;) {
    const picture = drawingOf(target)?.picture;
    if (!picture) return { context, picture: null };
    try {
      context.drawImage(await pictures.get(picture), 0, 0);
      return { context, picture };
    } catch (error) {
      // What is in no store can't be drawn on; the ink is all there is then.
      if (error instanceof PictureMissing) return { context, picture: null };
      await serverRetryer.wait();
    }
  }
}

/** Draws a stroke on its drawing as that is now, and makes it the drawing's picture; `onDigest` is told the picture that has become, and which one it was drawn on. */
export async function drawAgain(
  size: Size,
  target: DrawTarget,
  stroke: InkStroke,
  order: number,
  onDigest: (digest: Digest | null, drawnOn: Digest | null) => void = () => undefined,
): Promise<void> {
  const { context, picture } = await pageOf(size, target);
  drawInk(context, stroke);
  const pixels = context.getImageData(0, 0, size.width, size.height).data;
  await makePicture(size, target, pixels, { order, fromDraft: true, onDigest: (digest) => onDigest(digest, picture) });
}
