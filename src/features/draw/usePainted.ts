import { useEffect, useRef } from 'react';
import type { Digest, Level, Shot, Size } from '@/core/document/model';
import { layersAt } from '@/core/render/shotRuns';
import { type StackLayer, stackKey } from '@/core/render/stacks';
import { type OnionSheet, type OnionSkin, onionSheets } from '@/core/sheet/onion';
import { drawWith, LAST_MILLISECONDS, type Look, STILL_MILLISECONDS } from '@/features/project/pictures';
import { useViewStore } from '@/features/project/viewStore';
import { clearStill, paintStill } from '@/ui/stillCanvas';
import { drawLayers } from '@/workers/client';

/** A canvas of the size the paper has on the screen, painted with pictures, again whenever the key changes. */
function usePainted(
  size: Size,
  key: string,
  wanted: readonly Look[],
  paint: (context: OffscreenCanvasRenderingContext2D, bitmaps: readonly ImageBitmap[]) => void,
  afterMilliseconds = STILL_MILLISECONDS,
) {
  const canvas = useRef<HTMLCanvasElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key stands for everything painted
  useEffect(() => {
    const shown = canvas.current;
    if (!shown) return;
    // Nothing is better than what belonged to another frame, for as long as the right pictures are on their way.
    let isPainted = false;
    const stop = drawWith(
      wanted,
      (bitmaps) => {
        isPainted = true;
        paintStill(shown, size.width, size.height, (context) => paint(context, bitmaps));
      },
      undefined,
      afterMilliseconds,
    );
    if (!isPainted) clearStill(shown);
    return stop;
  }, [key, size.width, size.height]);
  return canvas;
}

const NONE: ReadonlySet<Digest> = new Set();
const GUIDE_TINT = '#2b6e72';

/** What guides show at a frame while they are to show their lines only. */
export const guidesAsLines = (shot: Shot, frame: number, isWanted: boolean): ReadonlySet<Digest> =>
  isWanted
    ? new Set(
        seenLayers(
          shot.levels.filter((level) => level.kind === 'guide'),
          frame,
          null,
        ).map((layer) => layer.picture),
      )
    : NONE;

/** Layers over each other as large as they are seen, some of them only in lines; what lies lowest lies on white paper when there is `ground`, as blend modes need it. */
export function useLayersPainted(size: Size, layers: readonly StackLayer[], ground: boolean, asLines: ReadonlySet<Digest> = NONE) {
  const wanted = layers.map(
    ({ picture }): Look => ({
      digest: picture,
      widthPx: size.width,
      ...(asLines.has(picture) ? { tint: GUIDE_TINT, linesOnly: true } : {}),
    }),
  );
  const lines = layers.map(({ picture }) => (asLines.has(picture) ? '1' : '0')).join('');
  return usePainted(size, `${stackKey(layers)}${ground}${lines}`, wanted, (context, bitmaps) => {
    if (ground) {
      context.fillStyle = '#ffffff';
      context.fillRect(0, 0, size.width, size.height);
    }
    drawLayers(context, bitmaps, layers);
  });
}

/** What the levels that can be seen show at a frame, lowest first; with one looked at alone, of that one only. */
export const seenLayers = (levels: readonly Level[], frame: number, aloneLevelId: string | null): readonly StackLayer[] =>
  layersAt(
    levels.filter((level) => level.visible && (aloneLevelId === null || level.id === aloneLevelId)),
    frame,
  );

const PINNED_TINT = '#2b6e72';

/** How a sheet of the onion skin looks: tinted by its side, filled or in lines; what is pinned always in lines. */
function lookOf({ picture, side }: OnionSheet, onion: OnionSkin, widthPx: number): Look {
  if (side === 'pinned') return { digest: picture, widthPx, tint: PINNED_TINT, linesOnly: true };
  const [tint, look] = side === 'before' ? [onion.beforeTint, onion.beforeLook] : [onion.afterTint, onion.afterLook];
  return { digest: picture, widthPx, tint, linesOnly: look === 'outline' };
}

/** The onion skin: what shines through at a frame. */
export function useOnionPainted(size: Size, shot: Shot, level: Level, frame: number) {
  const onion = useViewStore((state) => state.onion);
  // Paper that is flipped is looked at alone.
  const isFlipping = useViewStore((state) => state.flippingFrom !== null);
  const sheets = isFlipping ? [] : onionSheets(shot, level, frame, onion);
  const wanted = sheets.map((sheet) => lookOf(sheet, onion, size.width));
  const key = sheets.map((sheet, index) => `${sheet.picture}@${sheet.alpha}${wanted[index]?.tint}${wanted[index]?.linesOnly}`).join('+');
  const paint = (context: OffscreenCanvasRenderingContext2D, bitmaps: readonly ImageBitmap[]) => {
    bitmaps.forEach((bitmap, index) => {
      context.globalAlpha = sheets[index]?.alpha ?? 0;
      context.drawImage(bitmap, 0, 0);
    });
    context.globalAlpha = 1;
  };
  return usePainted(size, key, wanted, paint, LAST_MILLISECONDS);
}
