'use client';
import { create } from 'zustand';
import type { Size } from '@/core/document/model';
import { useViewStore } from '@/features/project/viewStore';

type Point = { readonly x: number; readonly y: number };

/** A brush at least this wide on the screen is shown as a ring. */
const RING_FROM_PX = 12;

/** Where a pen is held over the paper, in pixels of the picture; apart from the paper, which must not be made anew for every movement. */
const useHeldStore = create<{ at: Point | null }>(() => ({ at: null }));

/** Tells where a pen is held over the paper; null when it is no more. */
export function holdPenAt(at: Point | null): void {
  if (at !== useHeldStore.getState().at) useHeldStore.setState({ at });
}

function RingAt({ diameterPx, size }: { diameterPx: number; size: Size }) {
  const at = useHeldStore((state) => state.at);
  if (!at) return null;
  return (
    <div
      className="pointer-events-none absolute aspect-square rounded-full border border-edge"
      style={{
        width: `${(diameterPx / size.width) * 100}%`,
        left: `${(at.x / size.width) * 100}%`,
        top: `${(at.y / size.height) * 100}%`,
        transform: 'translate(-50%, -50%)',
      }}
    />
  );
}

/** How wide the brush or the eraser is, around the pen; nothing where that is too small to be seen. */
export function BrushRing({ size, screenPxPerPixel }: { size: Size; screenPxPerPixel: number }) {
  const brush = useViewStore((state) => state.brush);
  const diameterPx = brush.tool === 'eraser' ? brush.eraserPx : brush.sizePx;
  const hasRing = brush.tool === 'brush' || brush.tool === 'eraser';
  if (!hasRing || diameterPx * screenPxPerPixel <= RING_FROM_PX) return null;
  return <RingAt diameterPx={diameterPx} size={size} />;
}
