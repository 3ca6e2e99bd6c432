'use client';
import { useEffect, useRef } from 'react';
import type { Size } from '@/core/document/model';
import type { StackLayer } from '@/core/render/stacks';
import { BESIDE_MILLISECONDS, drawWith } from '@/features/project/pictures';
import { paintStill } from '@/ui/stillCanvas';

/** A part of a picture, in parts of its width and height from 0 to 1. */
export type Crop = { readonly left: number; readonly top: number; readonly right: number; readonly bottom: number };

const WHOLE: Crop = { left: 0, top: 0, right: 1, bottom: 1 };

/** Thumbs are painted from pictures this wide: enough for the closest look at a part. */
const SOURCE_PX = 480;

type Props = { layers: readonly StackLayer[]; size: Size; widthPx: number; label?: string; crop?: Crop };

/** Shapes that differ by less than rounding to whole pixels does. */
const isAlike = (one: number, other: number) => Math.abs(one / other - 1) < 0.03;

/** A small picture of a stack on white paper, or of the part of it that is asked for. */
export function Thumb({ layers, size, widthPx, label, crop = WHOLE }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const heightPx = Math.round((widthPx * size.height) / size.width);
  const key = layers.map((layer) => `${layer.picture}@${layer.opacityPercent}`).join('+');
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key stands for the layers
  useEffect(
    () =>
      drawWith(
        layers.map((layer) => ({ digest: layer.picture, widthPx: SOURCE_PX })),
        (bitmaps) => {
          if (!canvas.current) return;
          const [width, height] = [widthPx * 2, heightPx * 2];
          paintStill(canvas.current, width, height, (context) => {
            context.fillStyle = '#ffffff';
            context.imageSmoothingQuality = 'high';
            context.fillRect(0, 0, width, height);
            bitmaps.forEach((bitmap, index) => {
              context.globalAlpha = (layers[index]?.opacityPercent ?? 100) / 100;
              const [left, top] = [crop.left * bitmap.width, crop.top * bitmap.height];
              const [across, down] = [(crop.right - crop.left) * bitmap.width, (crop.bottom - crop.top) * bitmap.height];
              // A picture of another shape, as before it is laid on the film's size, keeps its own.
              const scale = Math.min(width / across, height / down);
              const [w, h] = isAlike(across / down, width / height) ? [width, height] : [across * scale, down * scale];
              context.drawImage(bitmap, left, top, across, down, (width - w) / 2, (height - h) / 2, w, h);
            });
          });
        },
        () => canvas.current?.setAttribute('aria-label', 'The picture is missing from the store.'),
        BESIDE_MILLISECONDS,
      ),
    [key, widthPx, crop],
  );
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label={label ?? ''}
      aria-hidden={label ? undefined : true}
      className="block w-full bg-white"
      style={{ aspectRatio: `${size.width} / ${size.height}` }}
    />
  );
}
