import { create } from 'zustand';

const KEY = 'lime-tick-tour';

/** The card of the tour that is shown, from 0; null when it was left, or never begun. */
export const useTourStore = create<{ readonly card: number | null }>(() => ({ card: null }));

const keep = (card: number | null): void => {
  localStorage.setItem(KEY, card === null ? 'left' : String(card));
  useTourStore.setState({ card });
};

/** Has somebody who never saw the tour begin it when the demo opens. */
export function beginTourOnce(): void {
  if (localStorage.getItem(KEY) === null) keep(0);
}

/** Takes the tour up where it was on an earlier visit. */
export function recallTour(cards: number): void {
  const kept = localStorage.getItem(KEY) ?? '';
  useTourStore.setState({ card: /^\d{1,2}$/.test(kept) && Number(kept) < cards ? Number(kept) : null });
}

/** Begins the tour anew. */
export const startTour = (): void => keep(0);
export const goToCard = (card: number): void => keep(card);
export const leaveTour = (): void => keep(null);
