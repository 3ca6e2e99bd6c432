'use client';
import { memo, useEffect, useRef } from 'react';
import type { PlacedItem } from '@/core/reel/reel';
import { changedSpan, type Stroke, strokeOf } from '@/features/assemble/narrowStrokes';
import type { Sight } from '@/features/assemble/reelView';

/** Height of the row the items lie in, in CSS pixels. */
export const ITEMS_PX = 92;
/** Above and below a stroke. */
const BESIDE_PX = 6;
const COLOURS = ['#cfcdbf', '#b9b7a8'];

/** So many CSS pixels are whole pixels of any screen, whose edges can be cleared and drawn again without a seam. */
const WHOLE_PX = 4;

type Drawn = { readonly strokes: readonly Stroke[]; readonly widthPx: number; readonly ratio: number };

function drawSpan(context: CanvasRenderingContext2D, strokes: readonly Stroke[], [fromPx, toPx]: readonly [number, number]): void {
  const [left, right] = [Math.floor(fromPx / WHOLE_PX) * WHOLE_PX, Math.ceil(toPx / WHOLE_PX) * WHOLE_PX];
  context.save();
  context.beginPath();
  context.rect(left, 0, right - left, ITEMS_PX);
  context.clip();
  context.clearRect(left, 0, right - left, ITEMS_PX);
  const inSpan = strokes.filter((stroke) => stroke.x + stroke.width >= left && stroke.x <= right);
  // One colour after the other: a change of it costs more than the stroke.
  for (const [parity, colour] of COLOURS.entries()) {
    context.fillStyle = colour;
    for (const stroke of inSpan)
      if (stroke.parity === parity) context.fillRect(stroke.x, BESIDE_PX, stroke.width, ITEMS_PX - 2 * BESIDE_PX);
  }
  context.restore();
}

/**
 * Items too narrow for blocks, as strokes that tell one from the next; those chosen are marked apart, so that choosing paints no
 * stroke anew, and of an edit only what it changed is painted.
 */
export const NarrowItems = memo(function NarrowItems({ items, sight }: { items: readonly PlacedItem[]; sight: Sight }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const drawn = useRef<Drawn | null>(null);
  useEffect(() => {
    const element = canvas.current;
    const context = element?.getContext('2d');
    if (!element || !context) return;
    const ratio = window.devicePixelRatio;
    const { widthPx } = sight;
    const strokes = items.filter(({ item }) => item.kind !== 'gap').map((placed) => strokeOf(placed, sight));
    const before = drawn.current;
    drawn.current = { strokes, widthPx, ratio };
    if (before?.widthPx === widthPx && before.ratio === ratio) {
      const span = changedSpan(before.strokes, strokes);
      if (span) drawSpan(context, strokes, span);
      return;
    }
    element.width = widthPx * ratio;
    element.height = ITEMS_PX * ratio;
    context.scale(ratio, ratio);
    drawSpan(context, strokes, [0, widthPx]);
  }, [items, sight]);
  return <canvas ref={canvas} className="pointer-events-none absolute inset-0 h-full w-full" />;
});
