'use client';
import { type RefObject, useEffect, useRef, useState } from 'react';
import type { ColourRange } from '@/core/document/checks';
import { outsideRange } from '@/core/raster/range';

/** Width of the stripes that mark pixels, in pixels of the picture. */
const STRIPE_PX = 6;
const MARK = [184, 67, 26, 255] as const;
const BETWEEN = [255, 255, 255, 255] as const;

/** Colours outside a range, striped over the still picture, with how much of it they are. */
export function RangeMarks({
  picture,
  painted,
  range,
}: {
  picture: RefObject<HTMLCanvasElement | null>;
  painted: number;
  range: ColourRange;
}) {
  const marks = useRef<HTMLCanvasElement>(null);
  const [percent, setPercent] = useState<number | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new painting is a new picture
  useEffect(() => {
    const source = picture.current;
    const target = marks.current?.getContext('2d');
    if (!source || !target) return;
    const { width, height } = source;
    const rgba = source.getContext('2d')?.getImageData(0, 0, width, height).data;
    if (!rgba) return;
    const { mask, count } = outsideRange(rgba, range);
    const striped = new ImageData(width, height);
    for (let pixel = 0; pixel < mask.length; pixel++) {
      if (mask[pixel] === 0) continue;
      const isMark = Math.floor(((pixel % width) + Math.floor(pixel / width)) / STRIPE_PX) % 2 === 0;
      striped.data.set(isMark ? MARK : BETWEEN, pixel * 4);
    }
    target.putImageData(striped, 0, 0);
    setPercent((count / mask.length) * 100);
  }, [painted, range]);
  return (
    <>
      <canvas
        ref={marks}
        width={picture.current?.width ?? 1}
        height={picture.current?.height ?? 1}
        className="pointer-events-none absolute inset-0 h-full w-full opacity-80"
      />
      {percent !== null && (
        <output className="numbers absolute top-2 left-2 rounded bg-ink px-2 py-0.5 text-2xs text-paper">
          {percent.toFixed(1)} % of this picture outside {range.from}–{range.to}
        </output>
      )}
    </>
  );
}
