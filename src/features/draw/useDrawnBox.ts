'use client';
import { useEffect, useState } from 'react';
import { boundsOfPixels } from '@/core/raster/bounds';
import { BESIDE_MILLISECONDS, pictures } from '@/features/project/pictures';
import type { Crop } from '@/features/sheet/Thumb';
import { whenClosed } from '@/features/sync/projectStore';

/** Drawings are looked at this small to find where on them something is drawn. */
const WIDTH_PX = 160;
const HEIGHT_PX = 90;
const MARGIN = 0.04;
/** No closer than a quarter of the picture, so that a dot stays a dot. */
const CLOSEST = 0.25;

const known = new Map<string, Crop | null>();
whenClosed(() => known.clear());
let canvas: OffscreenCanvas | undefined;

/** The part of a picture that is drawn on, in parts of its width and height; null for an empty one. */
async function drawnPart(digest: string): Promise<Crop | null> {
  const before = known.get(digest);
  if (before !== undefined) return before;
  const bitmap = await pictures.get(digest);
  canvas ??= new OffscreenCanvas(WIDTH_PX, HEIGHT_PX);
  const context = canvas.getContext('2d', { willReadFrequently: true });
  context?.clearRect(0, 0, WIDTH_PX, HEIGHT_PX);
  context?.drawImage(bitmap, 0, 0, WIDTH_PX, HEIGHT_PX);
  const pixels = context?.getImageData(0, 0, WIDTH_PX, HEIGHT_PX).data;
  const box = pixels ? boundsOfPixels(WIDTH_PX, HEIGHT_PX, pixels) : null;
  const part = box && { left: box.left / WIDTH_PX, top: box.top / HEIGHT_PX, right: box.right / WIDTH_PX, bottom: box.bottom / HEIGHT_PX };
  known.set(digest, part);
  return part;
}

/** One frame around all the parts, with a margin, in the picture's own shape and within it. */
function around(parts: readonly Crop[]): Crop | null {
  if (parts.length === 0) return null;
  const left = Math.min(...parts.map((part) => part.left)) - MARGIN;
  const right = Math.max(...parts.map((part) => part.right)) + MARGIN;
  const top = Math.min(...parts.map((part) => part.top)) - MARGIN;
  const bottom = Math.max(...parts.map((part) => part.bottom)) + MARGIN;
  const side = Math.min(1, Math.max(right - left, bottom - top, CLOSEST));
  const start = (from: number, to: number) => Math.max(0, Math.min(1 - side, (from + to - side) / 2));
  const [x, y] = [start(left, right), start(top, bottom)];
  return { left: x, top: y, right: x + side, bottom: y + side };
}

const sameCrop = (a: Crop | null, b: Crop | null) =>
  a === b || (a !== null && b !== null && a.left === b.left && a.top === b.top && a.right === b.right && a.bottom === b.bottom);

/** The part of the page that a few neighbouring drawings use, the same for all of them, so that they can be compared; null until it is known. */
export function useDrawnBox(digests: readonly string[]): Crop | null {
  const [box, setBox] = useState<Crop | null>(null);
  const key = digests.join('+');
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key stands for the digests
  useEffect(() => {
    let current = true;
    const show = () =>
      Promise.all(digests.map(drawnPart)).then(
        (parts) => {
          const next = around(parts.filter((part) => part !== null));
          // The same box again is the same value, so that nothing is painted anew for it.
          if (current) setBox((before) => (sameCrop(before, next) ? before : next));
        },
        () => undefined,
      );
    const timer = setTimeout(show, digests.every((digest) => known.has(digest)) ? 0 : BESIDE_MILLISECONDS);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [key]);
  return box;
}
