import type { StackLayer } from '@/core/render/stacks';

/** Draws bitmaps over each other as their layers say; the context's own settings are normal again after it. */
export function drawLayers(
  context: OffscreenCanvasRenderingContext2D | CanvasRenderingContext2D,
  bitmaps: readonly (ImageBitmap | OffscreenCanvas)[],
  layers: readonly StackLayer[],
): void {
  bitmaps.forEach((bitmap, index) => {
    const { opacityPercent, blend = 'normal' } = layers[index] as StackLayer;
    context.globalAlpha = opacityPercent / 100;
    context.globalCompositeOperation = blend === 'normal' ? 'source-over' : blend;
    context.drawImage(bitmap, 0, 0);
  });
  context.globalAlpha = 1;
  context.globalCompositeOperation = 'source-over';
}
