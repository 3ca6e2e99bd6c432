import { useSyncExternalStore } from 'react';

const never = () => () => undefined;

/** Whether this is the person's own browser, which knows their language and zone, and no server writing a page. */
export const useIsHere = (): boolean =>
  useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
