'use client';
import { useEffect, useRef } from 'react';
import type { Finding } from '@/core/check/finding';
import type { Digest, Size } from '@/core/document/model';
import { drawWith } from '@/features/project/pictures';
import { Thumb } from '@/features/sheet/Thumb';
import { Dialog } from '@/ui/Dialog';

const WIDTH_PX = 508;
const STRONG = 6;
/** The least difference there is, is seen. */
const LEAST_STRENGTH = 0.4;

/** What differs between two pictures, made strong: rust where they do, however little, pale where both draw alike. */
function Difference({ first, second, size }: { first: Digest; second: Digest; size: Size }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const height = Math.round((WIDTH_PX * size.height) / size.width);
  useEffect(
    () =>
      drawWith(
        [first, second].map((digest) => ({ digest, widthPx: WIDTH_PX })),
        ([a, b]) => {
          const context = canvas.current?.getContext('2d', { willReadFrequently: true });
          if (!context || !a || !b) return;
          const pixelsOf = (bitmap: CanvasImageSource) => {
            context.fillStyle = '#ffffff';
            context.fillRect(0, 0, WIDTH_PX, height);
            context.drawImage(bitmap, 0, 0, WIDTH_PX, height);
            return context.getImageData(0, 0, WIDTH_PX, height);
          };
          const [one, other] = [pixelsOf(a), pixelsOf(b)];
          for (let at = 0; at < one.data.length; at += 4) {
            let apart = 0;
            let light = 0;
            for (let channel = at; channel < at + 3; channel++) {
              apart = Math.max(apart, Math.abs((one.data[channel] as number) - (other.data[channel] as number)));
              light += other.data[channel] as number;
            }
            const strength = apart === 0 ? 0 : Math.min(1, Math.max(LEAST_STRENGTH, (apart * STRONG) / 255));
            const pale = 225 + light / 25.5;
            for (const [channel, ink] of [184, 67, 26].entries()) other.data[at + channel] = pale * (1 - strength) + ink * strength;
          }
          context.putImageData(other, 0, 0);
        },
        () => canvas.current?.setAttribute('aria-label', 'One of the pictures is missing from the store.'),
      ),
    [first, second, height],
  );
  return (
    <canvas
      ref={canvas}
      width={WIDTH_PX}
      height={height}
      role="img"
      aria-label="Where the two pictures differ"
      className="mt-3 block w-full border border-line bg-white"
    />
  );
}

/** Two pictures that are nearly one, beside each other, and what differs. */
export function DifferenceDialog({ finding, size, onClose }: { finding: Finding; size: Size; onClose: () => void }) {
  const [first, second] = finding.pair ?? [];
  return (
    <Dialog title="What differs" about={finding.sentence} open onOpenChange={(open) => !open && onClose()}>
      {first && second && (
        <>
          <Difference first={first} second={second} size={size} />
          <p className="text-soft text-xs">Rust where they differ, however little; pale where both draw alike.</p>
          <div className="mt-3 grid grid-cols-2 gap-3">
            {[
              { digest: first, words: 'the first of the two' },
              { digest: second, words: 'the second' },
            ].map(({ digest, words }) => (
              <figure key={words}>
                <div className="border border-line">
                  <Thumb size={size} widthPx={250} layers={[{ picture: digest, opacityPercent: 100 }]} label={words} />
                </div>
                <figcaption className="text-center text-soft text-xs">{words}</figcaption>
              </figure>
            ))}
          </div>
        </>
      )}
    </Dialog>
  );
}
