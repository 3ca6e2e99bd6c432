import { playerCommands } from '@/features/clock/playerCommands';
import type { Command } from '@/features/commands/command';
import { everyCommand } from '@/features/commands/everyCommand';
import { formatCommands } from '@/features/format/formatCommands';
import { sheetFileCommands } from '@/features/sheet/sheetFileCommands';

/** All that can be done in an open project, but for going to places: what its keys and the finder reach, and what the help names everywhere. */
export const projectCommands: readonly Command[] = [...everyCommand, ...formatCommands, ...sheetFileCommands, ...playerCommands];
