import { create } from 'zustand';
import type { Destination } from '@/core/check/destinations';
import { fetchDestinations } from '@/features/sync/api';

/** Destinations a person has made, as they are kept on the server; none until they are known. */
export const useOwnDestinations = create<{ readonly own: readonly Destination[] }>(() => ({ own: [] }));

/** Has others know the destinations there are by now. */
export const setOwnDestinations = (own: readonly Destination[]): void => useOwnDestinations.setState({ own });

let asked = false;

/** Asks for them once; without the server there are those that come with the program. */
export function askOwnDestinations(): void {
  if (asked) return;
  asked = true;
  fetchDestinations().then(
    ({ destinations }) => setOwnDestinations(destinations),
    () => {
      asked = false;
    },
  );
}
