import { type RefObject, useCallback, useEffect, useRef, useState } from 'react';
import type { Drawing } from '@/core/document/model';
import type { Desk } from '@/features/draw/desk';
import { deskKey } from '@/features/draw/keepDrawing';
import { putPartDown, usePartStore } from '@/features/draw/part';
import { drawWith, FIRST_MILLISECONDS, readyLook, type ShownTrouble } from '@/features/project/pictures';

/**
 * Lays a drawing on the desk: at once where its picture is there, as it looks on the screen at `widthPx` before all of it has come. What
 * has become of it stands on the paper's element as `data-laid`; what hinders it is returned, null for nothing.
 */
export function useLaidDrawing(
  paper: RefObject<HTMLElement | null>,
  desk: Desk | null,
  drawing: Drawing | undefined,
  widthPx: number,
): ShownTrouble | null {
  const [trouble, setTrouble] = useState<ShownTrouble | null>(null);
  const width = useRef(widthPx);
  width.current = widthPx;
  // Written on the element itself: the page need not be made anew for each step.
  const tell = useCallback(
    (laid: 'coming' | 'ready' | ShownTrouble) => {
      paper.current?.setAttribute('data-laid', laid);
      setTrouble(laid === 'coming' || laid === 'ready' ? null : laid);
    },
    [paper],
  );
  useEffect(() => {
    if (!desk) return;
    let stop: () => void = () => undefined;
    const callOff = desk.whenFree(() => {
      // What is in the hand belongs to the drawing it was picked up from: it is put down before another one is laid.
      const inHand = usePartStore.getState().part;
      if (inHand && inHand.target.drawingId !== drawing?.id) putPartDown();
      if (!desk.expect(deskKey(drawing?.id, drawing?.picture))) return;
      tell('coming');
      const digest = drawing?.picture ?? null;
      const look = digest ? readyLook({ digest, widthPx: width.current }) : undefined;
      if (look) desk.show(look);
      stop = drawWith(
        digest ? [digest] : [],
        ([bitmap]) => {
          desk.lay(bitmap ?? null, digest, look !== undefined);
          tell('ready');
        },
        tell,
        FIRST_MILLISECONDS,
      );
    });
    return () => {
      callOff();
      stop();
    };
  }, [desk, drawing?.id, drawing?.picture, tell]);
  return trouble;
}
