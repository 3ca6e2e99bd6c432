import { bringCommands } from '@/features/commands/bringFiles';
import { chartCommands } from '@/features/commands/chartCommands';
import { clockCommands } from '@/features/commands/clockCommands';
import type { Command } from '@/features/commands/command';
import { copyCommands } from '@/features/commands/copyCommands';
import { drawCommands } from '@/features/commands/drawCommands';
import { flipCommands } from '@/features/commands/flipCommands';
import { frameCommands } from '@/features/commands/frameCommands';
import { useKeyStore, withKey } from '@/features/commands/keyStore';
import { levelCommands } from '@/features/commands/levelCommands';
import { lookCommands } from '@/features/commands/lookCommands';
import { nameCommands } from '@/features/commands/nameCommands';
import { paperCommands } from '@/features/commands/paperCommands';
import { patternCommands } from '@/features/commands/patternCommands';
import { planCommands } from '@/features/commands/planCommands';
import { reelCommands } from '@/features/commands/reelCommands';
import { sheetCommands } from '@/features/commands/sheetCommands';
import { shotCommands } from '@/features/commands/shotCommands';
import { soundCommands } from '@/features/commands/soundCommands';
import { timingCommands } from '@/features/commands/timingCommands';
import { undoCommands } from '@/features/commands/undoCommands';

/** Every command that needs nothing but the open project, in the order the command finder shows them. */
export const everyCommand: readonly Command[] = [
  ...undoCommands,
  ...clockCommands,
  ...planCommands,
  ...sheetCommands,
  ...timingCommands,
  ...patternCommands,
  ...chartCommands,
  ...frameCommands,
  ...copyCommands,
  ...levelCommands,
  ...bringCommands,
  ...soundCommands,
  ...shotCommands,
  ...reelCommands,
  ...drawCommands,
  ...paperCommands,
  ...flipCommands,
  {
    id: 'keys',
    group: 'Stages',
    words: () => 'Shortcuts …',
    keys: ['Mod+.'],
    run: () => useKeyStore.setState({ isOpen: true }),
  },
  ...nameCommands,
  ...lookCommands,
];

/** The command of that name. Throws when there is none: names are ours. */
export function commandCalled(id: string): Command {
  const command = everyCommand.find((candidate) => candidate.id === id);
  if (!command) throw new Error(`There is no command called ${id}.`);
  return command;
}

/** Words with the first key of the command of that name behind them, for a hint: `Play (Space)`. */
export const hint = (words: string, id: string): string => withKey(words, commandCalled(id));
