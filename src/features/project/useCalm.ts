'use client';
import { useEffect, useState } from 'react';

const CALM_MILLISECONDS = 120;

/**
 * A value as it was when nothing had changed for a moment. For what is worked out from the whole film and
 * may come a moment later: the sheet must not wait for it while keys are pressed.
 */
export function useCalm<T>(value: T): T {
  const [calm, setCalm] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setCalm(value), CALM_MILLISECONDS);
    return () => clearTimeout(timer);
  }, [value]);
  return calm;
}
