import type { Command, Place } from '@/features/commands/command';
import { keysOf, useKeyStore } from '@/features/commands/keyStore';
import { useViewStore } from '@/features/project/viewStore';

const ELSEWHERE: Readonly<Record<Place, string>> = {
  sheet: 'only on Plan, Draw and Check',
  reel: 'only on Assemble',
};

/** Whether what a command works on is in sight. */
function isHere({ place }: Command): boolean {
  const { onReel, sheetInSight } = useViewStore.getState();
  return place === undefined || (place === 'reel' ? onReel : sheetInSight);
}

/** Why a command can't be done here and now; null when it can. */
export const hindranceOf = (command: Command): string | null =>
  command.place && !isHere(command) ? ELSEWHERE[command.place] : (command.hindrance?.() ?? null);

/** The command a key stands for here; one the person gave it to comes before one that came with it. */
export function commandForKey(commands: readonly Command[], key: string): Command | undefined {
  const having = commands.filter((command) => isHere(command) && keysOf(command).includes(key));
  return having.find(({ id }) => useKeyStore.getState().changed[id]) ?? having[0];
}
