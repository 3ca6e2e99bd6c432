'use client';
import { startTransition } from 'react';

/*
 * What may come to the screen a moment later comes together: React goes over the whole page for each part that is told by itself,
 * and the browser paints it each time. While keys are pressed one after another it waits for them to rest, though only so long.
 */

/** What is due so soon after something that is due now comes with it. */
const TOGETHER_MILLISECONDS = 10;
/** So long after the last key keys rest: somebody who steps on and on presses one sooner. */
const REST_MILLISECONDS = 120;
/** So long at most keys keep waiting what may come later, unless it says otherwise. */
const MOST_WAIT_MILLISECONDS = 1500;

type Telling = { readonly dueAtMilliseconds: number; readonly latestAtMilliseconds: number; readonly tell: () => void };

const waiting = new Set<Telling>();
let timer: ReturnType<typeof setTimeout> | undefined;
let timerAtMilliseconds = Number.POSITIVE_INFINITY;
let restAtMilliseconds = Number.NEGATIVE_INFINITY;

/** Notes that a key was pressed just now. */
export function keyWasPressed(): void {
  restAtMilliseconds = performance.now() + REST_MILLISECONDS;
}

if (typeof window !== 'undefined') window.addEventListener('keydown', keyWasPressed, { capture: true, passive: true });

/** When something comes as things are: once it is due and keys rest, or when it can wait no more. */
const comesAt = ({ dueAtMilliseconds, latestAtMilliseconds }: Telling): number =>
  Math.max(dueAtMilliseconds, Math.min(restAtMilliseconds, latestAtMilliseconds));

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
  if (all.some((telling) => comesAt(telling) <= now)) {
    const due = all.filter((telling) => comesAt(telling) <= now + TOGETHER_MILLISECONDS);
    for (const telling of due) waiting.delete(telling);
    // A key that is pressed while it is drawn goes before.
    startTransition(() => {
      for (const { tell } of due) tell();
    });
  }
  if (waiting.size > 0) ask(Math.min(...[...waiting].map(comesAt)));
}

/**
 * Sets what is shown in so many milliseconds, together with what else is due then, and no later than `mostMilliseconds` from now
 * however many keys are pressed; returns what takes it back.
 */
export function tellLater(tell: () => void, milliseconds: number, mostMilliseconds = milliseconds + MOST_WAIT_MILLISECONDS): () => void {
  const now = performance.now();
  const telling = { dueAtMilliseconds: now + milliseconds, latestAtMilliseconds: now + mostMilliseconds, tell };
  waiting.add(telling);
  ask(comesAt(telling));
  return () => waiting.delete(telling);
}
