'use client';
import { useEffect } from 'react';
import { type Act, keyOf } from '@/features/acts/act';

const TYPING = 'input, textarea, select, [contenteditable="true"]';
const OWN_ARROWS = '[role="slider"], [role="radiogroup"], [role="menu"], [role="dialog"]';
const PRESSABLE = 'button, a, [role="option"]';

/** Whether the focused element answers to this key itself. */
function belongsToTarget(event: KeyboardEvent): boolean {
  const target = event.target instanceof Element ? event.target : null;
  if (!target) return false;
  if (target.closest('[role="dialog"]')) return true;
  if (target.closest(TYPING) && !(target instanceof HTMLInputElement && target.type === 'range')) return true;
  if (event.key.startsWith('Arrow') || event.key === 'Home' || event.key === 'End') return target.closest(OWN_ARROWS) !== null;
  return (event.key === ' ' || event.key === 'Enter') && target.closest(PRESSABLE) !== null;
}

/** Runs the act whose keys are pressed, unless what has the focus uses the key itself. */
export function useKeys(acts: readonly Act[]): void {
  useEffect(() => {
    const onKeyDown = (event: KeyboardEvent) => {
      if (event.defaultPrevented || event.isComposing) return;
      const key = keyOf(event);
      const act = acts.find((candidate) => candidate.keys.includes(key));
      if (!act || belongsToTarget(event) || act.hindrance?.()) return;
      event.preventDefault();
      act.run();
    };
    window.addEventListener('keydown', onKeyDown);
    return () => window.removeEventListener('keydown', onKeyDown);
  }, [acts]);
}
