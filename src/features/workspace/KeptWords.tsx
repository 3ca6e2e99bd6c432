'use client';
import { useEffect, useState } from 'react';
import { plural } from '@/core/time/counts';
import { useProjectStore } from '@/features/sync/projectStore';

function agoWords(at: Date, now: number): string {
  const seconds = Math.max(0, Math.round((now - at.getTime()) / 1000));
  if (seconds < 60) return `${seconds} s ago`;
  if (seconds < 3600) return `${Math.floor(seconds / 60)} min ago`;
  return at.toLocaleString(undefined, { dateStyle: 'short', timeStyle: 'short' });
}

/** What is kept and what waits. "Kept" is said only of what the database has acknowledged. */
export function KeptWords() {
  const { kept: sent, waitingSteps: waiting, settling, keptAt } = useProjectStore();
  const waitingSteps = waiting + settling;
  const kept = sent === 'kept' && settling > 0 ? 'sending' : sent;
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(timer);
  }, []);
  const words =
    kept === 'kept'
      ? `Kept ${keptAt ? agoWords(keptAt, Math.max(now, keptAt.getTime())) : ''}`
      : kept === 'sending'
        ? `Keeping ${plural(waitingSteps, 'change')}`
        : `Server doesn’t answer: ${settling > 0 ? `putting ${plural(settling, 'change')} away` : `${plural(waitingSteps, 'change')} safe in this browser`}`;
  return (
    <output
      data-testid="kept"
      data-state={kept}
      className={`truncate text-right text-xs tabular-nums ${kept === 'waiting' ? 'font-semibold text-rust' : 'text-soft'}`}
      title={words}
    >
      {words}
    </output>
  );
}
