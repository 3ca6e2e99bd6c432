import type { ExternalToast, toast as Notices } from 'sonner';

/*
 * Short notices in a corner. What shows them comes once the page is calm, or with the first notice: nothing of it is needed before
 * a page can be used. Until it is there notices wait, in their order.
 */

type Shower = typeof Notices;
type Kind = 'message' | 'success' | 'error' | 'warning' | 'loading';

let isWanted = false;
let onWanted: () => void = () => undefined;
let shower: Shower | null = null;
let waiting: { readonly words: string | null; readonly act: (shower: Shower) => void }[] = [];

function soon(act: (shower: Shower) => void, words: string | null = null): void {
  if (shower) {
    act(shower);
    return;
  }
  waiting.push({ words, act });
  isWanted = true;
  onWanted();
}

const saying = (kind: Kind) => (words: string, options?: ExternalToast) => soon((notices) => void notices[kind](words, options), words);

export const toast = {
  message: saying('message'),
  success: saying('success'),
  error: saying('error'),
  warning: saying('warning'),
  loading: saying('loading'),
  /** Takes a notice away by its id. */
  dismiss: (id: string | number): void => soon((notices) => void notices.dismiss(id)),
};

/** Has `act` done as soon as a notice waits to be shown. */
export function whenNoticeWaits(act: () => void): void {
  onWanted = act;
  if (isWanted) act();
}

/** What shows notices is on the page: all that wait are shown. */
export function noticesAreShownBy(shows: Shower): void {
  shower = shows;
  const all = waiting;
  waiting = [];
  for (const { act } of all) act(shows);
}

/** What the notices say that wait to be shown, in their order. */
export const wordsWaiting = (): readonly string[] => waiting.flatMap(({ words }) => words ?? []);
