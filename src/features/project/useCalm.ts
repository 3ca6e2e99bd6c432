'use client';
import { startTransition, useEffect, useRef, useState } from 'react';

/** So long nothing has changed when all is calm. */
export const CALM_MILLISECONDS = 120;
/** What stands on the screen beside the sheet is never older than this while keys are held. */
const OLDEST_MILLISECONDS = 600;

/**
 * A value as it was when nothing had changed for a moment. For what is worked out from the whole film and
 * may come a moment later: the sheet must not wait for it while keys are pressed.
 */
export function useCalm<T>(value: T): T {
  const [calm, setCalm] = useState(value);
  useEffect(() => {
    // A key that is pressed while it is worked out goes before.
    const timer = setTimeout(() => startTransition(() => setCalm(value)), CALM_MILLISECONDS);
    return () => clearTimeout(timer);
  }, [value]);
  return calm;
}

/** A value once nothing has changed for a moment, or as it is now and then while it goes on changing. */
export function useSoon<T>(value: T): T {
  const [soon, setSoon] = useState(value);
  const setAt = useRef(0);
  useEffect(() => {
    const wait = Math.max(0, Math.min(CALM_MILLISECONDS, setAt.current + OLDEST_MILLISECONDS - performance.now()));
    const timer = setTimeout(() => {
      setAt.current = performance.now();
      startTransition(() => setSoon(value));
    }, wait);
    return () => clearTimeout(timer);
  }, [value]);
  return soon;
}
