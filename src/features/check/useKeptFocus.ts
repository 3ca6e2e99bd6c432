import { type MouseEvent, type RefObject, useEffect, useRef } from 'react';

const CARD = '[data-finding]';

/**
 * Whoever fixes by keyboard alone goes on where they were: a card that goes with the focus in it gives it to the one
 * that takes its place, or to the one before, and the last of all to the list. `list` changes when cards do.
 */
export function useKeptFocus(container: RefObject<HTMLElement | null>, list: unknown): (event: MouseEvent) => void {
  const place = useRef<number | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: cards come and go with the list
  useEffect(() => {
    const element = container.current;
    if (!element || place.current === null || document.activeElement !== document.body) return;
    const cards = element.querySelectorAll(CARD);
    const next = cards[Math.min(place.current, cards.length - 1)]?.querySelector('button') ?? element;
    place.current = null;
    next.focus();
  }, [container, list]);
  return (event) => {
    const card = event.target instanceof Element ? event.target.closest(CARD) : null;
    // A press with a pointer says how often it was pressed; a key says nothing.
    place.current = card && event.detail === 0 ? [...(container.current?.querySelectorAll(CARD) ?? [])].indexOf(card) : null;
  };
}
