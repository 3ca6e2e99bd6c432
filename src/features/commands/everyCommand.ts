import { bringActs } from '@/features/commands/bringFiles';
import { chartActs } from '@/features/commands/chartCommands';
import { clockActs } from '@/features/commands/clockCommands';
import type { Act } from '@/features/commands/command';
import { copyActs } from '@/features/commands/copyCommands';
import { drawActs } from '@/features/commands/drawCommands';
import { flipActs } from '@/features/commands/flipCommands';
import { frameActs } from '@/features/commands/frameCommands';
import { useKeyStore, withKey } from '@/features/commands/keyStore';
import { levelActs } from '@/features/commands/levelCommands';
import { nameActs } from '@/features/commands/nameCommands';
import { paperActs } from '@/features/commands/paperCommands';
import { patternActs } from '@/features/commands/patternCommands';
import { sheetActs } from '@/features/commands/sheetCommands';
import { shotActs } from '@/features/commands/shotCommands';
import { soundActs } from '@/features/commands/soundCommands';
import { timingActs } from '@/features/commands/timingCommands';
import { undoActs } from '@/features/commands/undoCommands';

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
