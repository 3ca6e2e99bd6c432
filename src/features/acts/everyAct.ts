import type { Act } from '@/features/acts/act';
import { chartActs } from '@/features/acts/chartActs';
import { clockActs } from '@/features/acts/clockActs';
import { copyActs } from '@/features/acts/copyActs';
import { drawActs } from '@/features/acts/drawActs';
import { frameActs } from '@/features/acts/frameActs';
import { levelActs } from '@/features/acts/levelActs';
import { patternActs } from '@/features/acts/patternActs';
import { sheetActs } from '@/features/acts/sheetActs';
import { shotActs } from '@/features/acts/shotActs';
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
  ...shotActs,
  ...drawActs,
];

/** The act of that name. Throws when there is none: names are ours. */
export function actCalled(id: string): Act {
  const act = everyAct.find((candidate) => candidate.id === id);
  if (!act) throw new Error(`There is no act called ${id}.`);
  return act;
}
