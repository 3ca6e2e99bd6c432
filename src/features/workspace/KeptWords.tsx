'use client';
import { useEffect, useState } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { plural } from '@/core/time/counts';
import { useProjectStore } from '@/features/sync/projectStore';
import { serverRetryer, useServerStore } from '@/features/sync/server';

function agoWords(at: Date, now: number): string {
  const seconds = Math.max(0, Math.round((now - at.getTime()) / 1000));
  if (seconds < 60) return `${seconds} s ago`;
  if (seconds < 3600) return `${Math.floor(seconds / 60)} min ago`;
  const isToday = new Date(now).toDateString() === at.toDateString();
  return isToday
    ? `at ${at.toLocaleTimeString(undefined, { timeStyle: 'short' })}`
    : at.toLocaleDateString(undefined, { dateStyle: 'medium' });
}

/** What is told to who can't see it; while it is being saved nothing is, since that is over at once. */
const TOLD = {
  kept: 'Saved',
  sending: '',
  away: 'All saved; the server does not answer',
  waiting: 'The server does not answer. What you do is safe in this browser',
} as const;

/** Saving that is over sooner is not told, and how much is being saved only where it is asked for: words that change with every stroke are looked at. */
const SOON_SAVED_MILLISECONDS = 1000;

/** Whether something has gone on for so long. */
function useGoesOn(isGoingOn: boolean, milliseconds: number): boolean {
  const [lasts, setLasts] = useState(false);
  useEffect(() => {
    if (!isGoingOn) return;
    const timer = setTimeout(() => setLasts(true), milliseconds);
    return () => {
      clearTimeout(timer);
      setLasts(false);
    };
  }, [isGoingOn, milliseconds]);
  return isGoingOn && lasts;
}

const secondsSince = (milliseconds: number, now: number) => Math.max(1, Math.round((now - milliseconds) / 1000));

/** What is saved and what waits; pressed while all is well, it shows the past. "Saved" is said only of what the database has acknowledged. */
export function KeptWords({ onPress }: { onPress: () => void }) {
  const {
    kept: sent,
    waitingFor,
    waitingSteps,
    settling,
    keptAt,
  } = useProjectStore(
    useShallow(({ kept, waitingFor, waitingSteps, settling, keptAt }) => ({ kept, waitingFor, waitingSteps, settling, keptAt })),
  );
  const trouble = useServerStore((state) => state.trouble);
  const away = trouble !== null && (sent === 'waiting' || sent === 'kept');
  const kept = sent === 'kept' && settling > 0 ? 'sending' : sent === 'kept' && away ? 'away' : sent;
  const isSaving = useGoesOn(kept === 'sending', SOON_SAVED_MILLISECONDS) || (kept === 'sending' && keptAt === null);
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(timer);
  }, []);
  const waiting = settling > 0 ? `Storing ${plural(settling, 'change')}` : `${plural(waitingSteps, 'change')} safe in this browser`;
  const noAnswer = trouble ? `no answer for ${secondsSince(trouble.sinceMilliseconds, now)} s` : 'the server does not answer';
  const words =
    kept === 'kept' || (kept === 'sending' && !isSaving)
      ? `Saved ${keptAt ? agoWords(keptAt, Math.max(now, keptAt.getTime())) : ''}`
      : kept === 'sending'
        ? 'Saving …'
        : kept === 'away'
          ? `All saved; ${noAnswer}`
          : `${waiting}; ${waitingFor ? 'they wait' : noAnswer}`;
  const title = isSaving
    ? `Saving ${plural(waitingSteps + settling, 'change')}`
    : kept === 'waiting'
      ? waitingFor
        ? `${waitingFor} Your drawings are safe in this browser and will be sent when the right server is back. Press to try now.`
        : `Saved in this browser; the server has not answered${trouble ? ` for ${secondsSince(trouble.sinceMilliseconds, now)} s` : ''}. Your drawings are safe here and will be sent when it does. Press to try now.`
      : words;
  const hint = kept === 'kept' ? `${title}: press for the past, every change and what was (Alt 7)` : title;
  const shown = (
    <span
      data-testid="kept"
      data-state={kept}
      className={`block text-right text-xs leading-4 tabular-nums ${kept === 'waiting' || kept === 'away' ? 'font-semibold text-rust' : 'truncate text-soft'}`}
      title={hint}
    >
      {words}
    </span>
  );
  return (
    <>
      {kept !== 'waiting' && kept !== 'away' ? (
        <button type="button" className="min-w-0 rounded hover:underline" onClick={onPress} aria-label={`${words}. Show the past`}>
          {shown}
        </button>
      ) : (
        <button type="button" className="min-w-0 rounded" onClick={() => serverRetryer.wake()} aria-label={`${words}. Try now`}>
          {shown}
        </button>
      )}
      {/* Told once each time it becomes so, without the seconds that go by. */}
      <output className="sr-only">{TOLD[kept]}</output>
    </>
  );
}
