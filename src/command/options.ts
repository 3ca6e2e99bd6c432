import type { Rate } from '@/core/time/rate';

/** How the command ends: all agrees, something disagrees, something could not be read. */
export const EXIT = { agrees: 0, disagrees: 1, unreadable: 2 } as const;

/** What was asked of the command. */
export type CountOptions = { readonly against: string | null; readonly rate: Rate | null; readonly json: boolean };

/** Where the command writes: results, and everything else. */
export type Output = {
  readonly print: (line: string) => void;
  readonly complain: (line: string) => void;
  /** Shows how far it is, in place of what was shown before; null takes it away. Not there where nobody watches. */
  readonly tell?: (words: string | null) => void;
};
