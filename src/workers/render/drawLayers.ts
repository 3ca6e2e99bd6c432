import type { Size } from '@/core/document/model';
import type { StackLayer } from '@/core/render/stacks';

/**
 * Draws bitmaps over each other as their layers say, each in its own size unless another is told; the context's own settings are normal
 * again after it.
 */
export function drawLayers(
  context: OffscreenCanvasRenderingContext2D | CanvasRenderingContext2D,
  bitmaps: readonly (ImageBitmap | OffscreenCanvas)[],
  layers: readonly StackLayer[],
  sizeOf: (bitmap: ImageBitmap | OffscreenCanvas, layer: StackLayer) => Size = (bitmap) => bitmap,
): void {
  bitmaps.forEach((bitmap, index) => {
    const layer = layers[index] as StackLayer;
    const { opacityPercent, blend = 'normal' } = layer;
    const { width, height } = sizeOf(bitmap, layer);
    context.globalAlpha = opacityPercent / 100;
    context.globalCompositeOperation = blend === 'normal' ? 'source-over' : blend;
    context.drawImage(bitmap, 0, 0, width, height);
  });
  context.globalAlpha = 1;
  context.globalCompositeOperation = 'source-over';
}
