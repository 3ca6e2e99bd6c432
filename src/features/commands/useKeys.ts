'use client';
import { useEffect } from 'react';
import { type Command, keyOf } from '@/features/commands/command';
import { commandForKey, hindranceOf } from '@/features/commands/here';
import { toast } from '@/ui/toast';

const TYPING = 'input, textarea, select, [contenteditable="true"]';
const OWN_ARROWS = '[role="slider"], [role="separator"], [role="radiogroup"], [role="menu"], [role="dialog"]';
const PRESSABLE = 'button, summary, [role="option"], [role="separator"]';

/** Whether the focused element answers to this key itself. */
function belongsToTarget(event: KeyboardEvent): boolean {
  const target = event.target instanceof Element ? event.target : null;
  if (!target) return false;
  if (target.closest('[role="dialog"]')) return true;
  // Nobody types with a function key.
  if (/^F\d+$/.test(event.key)) return false;
  if (target.closest(TYPING) && !(target instanceof HTMLInputElement && target.type === 'range')) return true;
  if (event.key.startsWith('Arrow') || event.key === 'Home' || event.key === 'End') return target.closest(OWN_ARROWS) !== null;
  return (event.key === ' ' || event.key === 'Enter') && target.closest(event.key === ' ' ? PRESSABLE : `${PRESSABLE}, a`) !== null;
}

/** Whether the browser may do something with the key itself, as zooming the page where there is no paper to be zoomed. */
const isBrowsers = (event: KeyboardEvent): boolean => event.ctrlKey || event.metaKey || /^F\d+$/.test(event.key);

/** A key that does nothing now says why, as the finder and the menus do. */
const sayWhyNot = (command: Command, hindrance: string): void =>
  toast.message(`${command.words().replace(/ …$/, '')}: ${hindrance.replace(/\.$/, '')}.`, { id: 'not-now' });

/**
 * After a press with mouse or pen the keys belong to the sheet again: else Space would press that button
 * once more instead of playing. Whoever works by keyboard alone keeps the focus where it is.
 */
function letGoAfterPointer(event: MouseEvent): void {
  const button = event.target instanceof Element ? event.target.closest('button:not([aria-haspopup])') : null;
  if (event.detail > 0 && button instanceof HTMLElement && !button.closest('[role="dialog"]')) button.blur();
}

/** Runs the command whose keys are pressed, unless what has the focus uses the key itself. */
export function useKeys(commands: readonly Command[]): void {
  useEffect(() => {
    const held = new Map<string, Command>();
    const onKeyDown = (event: KeyboardEvent) => {
      if (event.defaultPrevented || event.isComposing) return;
      const command = commandForKey(commands, keyOf(event));
      if (!command || belongsToTarget(event)) return;
      const hindrance = hindranceOf(command);
      if (hindrance) {
        if (!event.repeat && !isBrowsers(event)) sayWhyNot(command, hindrance);
        return;
      }
      event.preventDefault();
      if (command.release) {
        if (event.repeat) return;
        held.set(event.code, command);
      }
      command.run();
    };
    const letGo = (code: string) => {
      held.get(code)?.release?.();
      held.delete(code);
    };
    const onKeyUp = (event: KeyboardEvent) => letGo(event.code);
    // A key that is let go of in another window never says so here.
    const onBlur = () => {
      for (const code of [...held.keys()]) letGo(code);
    };
    window.addEventListener('keydown', onKeyDown);
    window.addEventListener('click', letGoAfterPointer);
    window.addEventListener('keyup', onKeyUp);
    window.addEventListener('blur', onBlur);
    return () => {
      window.removeEventListener('keydown', onKeyDown);
      window.removeEventListener('click', letGoAfterPointer);
      window.removeEventListener('keyup', onKeyUp);
      window.removeEventListener('blur', onBlur);
      onBlur();
    };
  }, [commands]);
}
