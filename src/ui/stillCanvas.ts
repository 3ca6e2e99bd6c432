/*
 * With every frame of the page a browser takes over anew each canvas that can be drawn on, whether or not
 * anything on it has changed: that costs a copy of all their pixels, also while nothing but a pen moves. What
 * is given to a canvas as a whole it takes over once.
 */

let sheet: OffscreenCanvasRenderingContext2D | null = null;

/** Paints a canvas that then stays as it is until it is painted anew, of a size in pixels; `paint` finds it empty. */
export function paintStill(
  canvas: HTMLCanvasElement,
  widthPx: number,
  heightPx: number,
  paint: (context: OffscreenCanvasRenderingContext2D) => void,
): void {
  const still = canvas.getContext('bitmaprenderer');
  sheet ??= new OffscreenCanvas(1, 1).getContext('2d', { willReadFrequently: true });
  if (!still || !sheet) throw new Error('This browser gives no canvas to show pictures on.');
  // There is no picture without pixels: where there is no room to show it either, that goes unseen.
  const [width, height] = [Math.max(1, Math.floor(widthPx)), Math.max(1, Math.floor(heightPx))];
  if (canvas.width !== width) canvas.width = width;
  if (canvas.height !== height) canvas.height = height;
  // Giving it a size, even the one it has, clears it and sets everything back.
  sheet.canvas.width = width;
  sheet.canvas.height = height;
  paint(sheet);
  still.transferFromImageBitmap(sheet.canvas.transferToImageBitmap());
}

/** Takes away what is on such a canvas. */
export const clearStill = (canvas: HTMLCanvasElement): void => canvas.getContext('bitmaprenderer')?.transferFromImageBitmap(null);
