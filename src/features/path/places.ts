import type { Command, NamedCommand } from '@/features/commands/command';
import { STAGE_NAMES, STAGES, type Stage } from '@/features/path/stages';

type PlaceId = `stage-${Stage}` | 'counting-desk' | 'past' | 'shelf' | 'help' | 'find';
type Place = NamedCommand & { readonly id: PlaceId };

/** The key of the command that finds all others. */
export const FIND_KEY = 'Mod+K';

const place = (id: PlaceId, words: string, ...keys: readonly string[]): Place => ({ id, words: () => words, keys });

/** The stages, what stands beside them, the help, and what finds all other commands: each by its name and its keys. */
export const PLACES: readonly Place[] = [
  ...STAGES.map((stage, index) => place(`stage-${stage}`, `Go to ${STAGE_NAMES[stage]}`, `Alt+${index + 1}`)),
  place('counting-desk', 'Go to the counting desk', 'Alt+6'),
  place('past', 'Go to the past', 'Alt+7'),
  place('shelf', 'Go to the shelf', 'Alt+0'),
  place('help', 'Help', 'F1', 'Shift+?'),
  place('find', 'Find a command', FIND_KEY),
];

/** Commands that lead to the places there is a way to from here. */
export const placeCommands = (ways: Partial<Readonly<Record<PlaceId, () => void>>>): readonly Command[] =>
  PLACES.flatMap((named) => {
    const run = ways[named.id];
    return run ? [{ ...named, group: 'Stages', run }] : [];
  });
