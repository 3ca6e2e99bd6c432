'use client';
import { useEffect, useRef, useState } from 'react';
import { tellLater } from '@/features/project/tellLater';

/** So long nothing has changed when all is calm. */
export const CALM_MILLISECONDS = 120;
/** What follows the frame on the screen beside the sheet is never older than this while keys are held. */
const OLDEST_MILLISECONDS = 600;

/**
 * A value as it was when nothing had changed for a moment. For what is worked out from the whole film and
 * may come a moment later: the sheet must not wait for it while keys are pressed.
 */
export function useCalm<T>(value: T): T {
  const [calm, setCalm] = useState(value);
  useEffect(() => (Object.is(calm, value) ? undefined : tellLater(() => setCalm(value), CALM_MILLISECONDS)), [calm, value]);
  return calm;
}

/** A value once nothing has changed for a moment, or as it is now and then while it goes on changing. */
export function useSoon<T>(value: T): T {
  const [soon, setSoon] = useState(value);
  const setAt = useRef(0);
  useEffect(() => {
    if (Object.is(soon, value)) return;
    const mostWait = Math.max(0, setAt.current + OLDEST_MILLISECONDS - performance.now());
    return tellLater(
      () => {
        setAt.current = performance.now();
        setSoon(value);
      },
      Math.min(CALM_MILLISECONDS, mostWait),
      mostWait,
    );
  }, [soon, value]);
  return soon;
}
