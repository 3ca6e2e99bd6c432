import type { Act } from '@/features/acts/act';
import { bringActs } from '@/features/acts/bringFiles';
import { chartActs } from '@/features/acts/chartActs';
import { clockActs } from '@/features/acts/clockActs';
import { copyActs } from '@/features/acts/copyActs';
import { drawActs } from '@/features/acts/drawActs';
import { flipActs } from '@/features/acts/flipActs';
import { frameActs } from '@/features/acts/frameActs';
import { useKeyStore, withKey } from '@/features/acts/keyStore';
import { levelActs } from '@/features/acts/levelActs';
import { nameActs } from '@/features/acts/nameActs';
import { paperActs } from '@/features/acts/paperActs';
import { patternActs } from '@/features/acts/patternActs';
import { sheetActs } from '@/features/acts/sheetActs';
import { shotActs } from '@/features/acts/shotActs';
import { soundActs } from '@/features/acts/soundActs';
import { timingActs } from '@/features/acts/timingActs';
import { undoActs } from '@/features/acts/undoActs';

/** Every act that needs nothing but the open project, in the order the command finder shows them. */
export const everyAct: readonly Act[] = [
  ...undoActs,
  ...clockActs,
  ...sheetActs,
  ...timingActs,
  ...patternActs,
  ...chartActs,
  ...frameActs,
  ...copyActs,
  ...levelActs,
  ...bringActs,
  ...soundActs,
  ...shotActs,
  ...drawActs,
  ...paperActs,
  ...flipActs,
  {
    id: 'keys',
    group: 'Stages',
    words: () => 'Keys: look them up and change them …',
    keys: ['Mod+.'],
    run: () => useKeyStore.setState({ isOpen: true }),
  },
  ...nameActs,
];

/** The act of that name. Throws when there is none: names are ours. */
export function actCalled(id: string): Act {
  const act = everyAct.find((candidate) => candidate.id === id);
  if (!act) throw new Error(`There is no act called ${id}.`);
  return act;
}

/** Words with the first key of the act of that name behind them, for a hint: `Play (Space)`. */
export const hint = (words: string, id: string): string => withKey(words, actCalled(id));
