'use client';
import { useEffect, useRef } from 'react';
import type { StackLayer } from '@/core/handover/framePlan';
import type { Size } from '@/core/sheet/document';
import { drawWith } from '@/features/project/pictures';

/** A part of a picture, in parts of its width and height from 0 to 1. */
export type Crop = { readonly left: number; readonly top: number; readonly right: number; readonly bottom: number };

const WHOLE: Crop = { left: 0, top: 0, right: 1, bottom: 1 };

type Props = { layers: readonly StackLayer[]; size: Size; widthPx: number; label?: string; crop?: Crop };

/** A small picture of a stack on white paper, or of the part of it that is asked for. */
export function Thumb({ layers, size, widthPx, label, crop = WHOLE }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const heightPx = Math.round((widthPx * size.height) / size.width);
  const key = layers.map((layer) => `${layer.picture}@${layer.opacityPercent}`).join('+');
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key stands for the layers
  useEffect(
    () =>
      drawWith(
        layers.map((layer) => layer.picture),
        (bitmaps) => {
          const context = canvas.current?.getContext('2d');
          if (!context) return;
          const { width, height } = context.canvas;
          context.fillStyle = '#ffffff';
          context.globalAlpha = 1;
          context.imageSmoothingQuality = 'high';
          context.fillRect(0, 0, width, height);
          bitmaps.forEach((bitmap, index) => {
            context.globalAlpha = (layers[index]?.opacityPercent ?? 100) / 100;
            const [left, top] = [crop.left * bitmap.width, crop.top * bitmap.height];
            const [across, down] = [(crop.right - crop.left) * bitmap.width, (crop.bottom - crop.top) * bitmap.height];
            context.drawImage(bitmap, left, top, across, down, 0, 0, width, height);
          });
        },
        () => canvas.current?.setAttribute('aria-label', 'The picture can’t be had from the store.'),
      ),
    [key, widthPx, crop],
  );
  return (
    <canvas
      ref={canvas}
      width={widthPx * 2}
      height={heightPx * 2}
      role="img"
      aria-label={label ?? ''}
      aria-hidden={label ? undefined : true}
      className="block w-full bg-white"
      style={{ aspectRatio: `${size.width} / ${size.height}` }}
    />
  );
}
