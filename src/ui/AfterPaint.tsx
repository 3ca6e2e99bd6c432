'use client';
import { type ReactNode, startTransition, useEffect, useState } from 'react';

/** Shows its content once what stands around it has been painted: for what may come a moment later. */
export function AfterPaint({ children }: { children: ReactNode }) {
  const [painted, setPainted] = useState(false);
  useEffect(() => {
    let timer = 0;
    const request = requestAnimationFrame(() => {
      timer = window.setTimeout(() => startTransition(() => setPainted(true)), 0);
    });
    return () => {
      cancelAnimationFrame(request);
      window.clearTimeout(timer);
    };
  }, []);
  return painted ? children : null;
}
