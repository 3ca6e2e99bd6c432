import { useLayoutEffect, useRef, useState } from 'react';
import type { Size } from '@/core/document/model';

/** Room left around the paper for its shadow, in px. */
const MARGIN_PX = 6;

/** An element and the largest size of a picture's shape that fits into it, in whole px of the screen. */
export function useRoom({ width, height }: Size) {
  const room = useRef<HTMLDivElement>(null);
  const [fit, setFit] = useState<Size>({ width, height });
  useLayoutEffect(() => {
    const element = room.current;
    if (!element) return;
    const measure = () => {
      const scale = Math.min((element.clientWidth - MARGIN_PX * 2) / width, (element.clientHeight - MARGIN_PX * 2) / height);
      setFit({ width: Math.max(1, Math.floor(width * scale)), height: Math.max(1, Math.floor(height * scale)) });
    };
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, [width, height]);
  return { room, fit };
}

/** The paper's size on the screen is taken in eighths of the picture's, so that a nearer look doesn't paint all anew at each turn of the wheel. */
const PARTS = 8;

/** How large, in device pixels, a picture is painted that is shown at `screenPxPerPixel`: as large as it is seen, never larger than it is. */
export function sizeOnScreen({ width, height }: Size, screenPxPerPixel: number): Size {
  const wanted = screenPxPerPixel * (typeof window === 'undefined' ? 1 : window.devicePixelRatio);
  const scale = Math.min(1, Math.max(1, Math.ceil(wanted * PARTS)) / PARTS);
  return { width: Math.round(width * scale), height: Math.round(height * scale) };
}
