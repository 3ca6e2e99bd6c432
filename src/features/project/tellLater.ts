'use client';
import { startTransition } from 'react';

/*
 * What may come to the screen a moment later comes together: React goes over the whole page for each part that is told by itself,
 * and the browser paints it each time.
 */

/** What is due so soon after something that is due now comes with it. */
const TOGETHER_MILLISECONDS = 10;

type Telling = { readonly dueAtMilliseconds: number; readonly tell: () => void };

const waiting = new Set<Telling>();
let timer: ReturnType<typeof setTimeout> | undefined;
let timerAtMilliseconds = Number.POSITIVE_INFINITY;

/** Asks for the timer where none comes in time. One that comes too soon is put off then: to change it for each of many tellings takes longer. */
function ask(atMilliseconds: number): void {
  if (timerAtMilliseconds <= atMilliseconds) return;
  clearTimeout(timer);
  timerAtMilliseconds = atMilliseconds;
  timer = setTimeout(tellDue, Math.max(0, Math.ceil(atMilliseconds - performance.now())));
}

function tellDue(): void {
  timerAtMilliseconds = Number.POSITIVE_INFINITY;
  const now = performance.now();
  const all = [...waiting];
  if (all.some(({ dueAtMilliseconds }) => dueAtMilliseconds <= now)) {
    const due = all.filter(({ dueAtMilliseconds }) => dueAtMilliseconds <= now + TOGETHER_MILLISECONDS);
    for (const telling of due) waiting.delete(telling);
    // A key that is pressed while it is drawn goes before.
    startTransition(() => {
      for (const { tell } of due) tell();
    });
  }
  if (waiting.size > 0) ask(Math.min(...[...waiting].map(({ dueAtMilliseconds }) => dueAtMilliseconds)));
}

/** Sets what is shown in so many milliseconds, together with what else is due then; returns what takes it back. */
export function tellLater(tell: () => void, milliseconds: number): () => void {
  const telling = { dueAtMilliseconds: performance.now() + milliseconds, tell };
  waiting.add(telling);
  ask(telling.dueAtMilliseconds);
  return () => waiting.delete(telling);
}
