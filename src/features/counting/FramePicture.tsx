'use client';
import { useEffect, useRef, useState } from 'react';
import { framePicture, type Side } from '@/features/counting/framePictures';

/** A frame of a plan or of a thing on the desk; where it can't be decoded, that is said. */
export function FramePicture({
  side,
  frame,
  widthPx,
  size,
  className = '',
}: {
  side: Side;
  frame: number | null;
  widthPx: number;
  size: { width: number; height: number };
  className?: string;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [isMissing, setMissing] = useState(false);
  const { kind, id } = side;
  useEffect(() => {
    let current = true;
    const context = canvas.current?.getContext('2d');
    if (!context || frame === null) return;
    void framePicture({ kind, id }, frame, widthPx).then((bitmap) => {
      if (!current) return;
      setMissing(bitmap === null);
      if (!bitmap) return;
      const { canvas: own } = context;
      if (own.width !== bitmap.width || own.height !== bitmap.height) [own.width, own.height] = [bitmap.width, bitmap.height];
      context.drawImage(bitmap, 0, 0);
    });
    return () => {
      current = false;
    };
  }, [kind, id, frame, widthPx]);
  return (
    <span className={`relative block overflow-hidden bg-white ${className}`} style={{ aspectRatio: `${size.width} / ${size.height}` }}>
      <canvas ref={canvas} className={`block h-full w-full ${frame === null || isMissing ? 'invisible' : ''}`} />
      {isMissing && frame !== null && widthPx > 200 && (
        <span className="absolute inset-0 flex items-center justify-center p-4 text-center text-soft text-xs">
          This browser could not decode this frame.
        </span>
      )}
    </span>
  );
}
