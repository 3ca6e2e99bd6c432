import { useEffect, useRef, useState } from 'react';

/** Something that is being made on the page: how far it is, from 0 to 1, or null when nothing is, how to begin and how to stop it. */
export type Making = {
  readonly part: number | null;
  readonly make: (work: (onProgress: (part: number) => void, stop: AbortSignal) => Promise<void>) => Promise<void>;
  readonly stop: () => void;
};

/** Lets one thing at a time be made; `onFailed` is told why one was not, unless it was stopped. What is left stops with the panel. */
export function useMaking(onFailed: (why: string) => void): Making {
  const [part, setPart] = useState<number | null>(null);
  const stopper = useRef<AbortController | null>(null);
  useEffect(() => () => stopper.current?.abort(), []);
  const make: Making['make'] = async (work) => {
    const own = new AbortController();
    stopper.current = own;
    setPart(0);
    try {
      await work(setPart, own.signal);
    } catch (error) {
      if (!own.signal.aborted) onFailed(error instanceof Error && error.message !== '' ? error.message : 'for an unknown reason');
    } finally {
      setPart(null);
    }
  };
  return { part, make, stop: () => stopper.current?.abort() };
}
