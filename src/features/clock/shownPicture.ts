import { type RefObject, useLayoutEffect } from 'react';
import { usePlayerStore } from '@/features/clock/playStore';
import { shrinkFor } from '@/features/clock/previews';

/** Paints a picture on a canvas, which takes its size: where it is shown says how large it is seen. */
export function paintOn(canvas: HTMLCanvasElement, bitmap: ImageBitmap): void {
  const context = canvas.getContext('2d');
  if (!context) throw new Error('This browser gives no canvas to show pictures on.');
  if (canvas.width !== bitmap.width || canvas.height !== bitmap.height) {
    canvas.width = bitmap.width;
    canvas.height = bitmap.height;
  }
  context.drawImage(bitmap, 0, 0);
}

/** By how much the sides of the picture that a canvas shows are shorter than the film's, which are `widthPx` across; kept for whoever makes pictures ready. */
export function useShrink(canvas: RefObject<HTMLCanvasElement | null>, widthPx: number): number {
  useLayoutEffect(() => {
    const shown = canvas.current;
    if (!shown) return;
    const measure = () => usePlayerStore.setState({ shrink: shrinkFor(widthPx, shown.clientWidth * window.devicePixelRatio) });
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(shown);
    return () => observer.disconnect();
  }, [canvas, widthPx]);
  return usePlayerStore((state) => state.shrink);
}
