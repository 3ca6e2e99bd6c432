import { formatISO } from 'date-fns';

/** Today, as names of files say it. */
export const today = (): string => formatISO(new Date(), { representation: 'date' });
