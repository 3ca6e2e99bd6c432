import { create } from 'zustand';
import { type Command, keyText, meet, type NamedCommand } from '@/features/commands/command';
import { fetchKeys, putKeys } from '@/features/sync/api';
import { toast } from '@/ui/toast';

/** Keys a person has given to commands, by the command's name, and whether the window to change them is open. */
export const useKeyStore = create<{ readonly changed: Readonly<Record<string, readonly string[]>>; readonly isOpen: boolean }>(() => ({
  changed: {},
  isOpen: false,
}));

/** The keys a command answers to: those it was given, else those it came with. */
export const keysOf = (command: Pick<NamedCommand, 'id' | 'keys'>): readonly string[] =>
  useKeyStore.getState().changed[command.id] ?? command.keys;

/** Words with the command's first key behind them, for a hint: `Play (Space)`. */
export function withKey(words: string, command: Command): string {
  const [key] = keysOf(command);
  return key ? `${words} (${keyText(key)})` : words;
}

/** The command a key belongs to already that could be in reach at the same time; undefined when it is free. */
export const commandOnKey = (commands: readonly Command[], key: string, except: Command): Command | undefined =>
  commands.find((command) => command.id !== except.id && meet(command, except) && keysOf(command).includes(key));

const sameKeys = (a: readonly string[], b: readonly string[]) => a.length === b.length && a.every((key, index) => key === b[index]);

function settle(changed: Readonly<Record<string, readonly string[]>>): void {
  useKeyStore.setState({ changed });
  putKeys(changed).catch(() =>
    toast.error('The server doesn’t answer: the new shortcuts work until this page is closed, and are not saved.'),
  );
}

/** Gives a command other keys; a key that another command had is taken from it. */
export function giveKeys(commands: readonly Command[], command: Command, keys: readonly string[]): void {
  const changed = { ...useKeyStore.getState().changed };
  const set = (which: Command, to: readonly string[]) => {
    if (sameKeys(to, which.keys)) delete changed[which.id];
    else changed[which.id] = to;
  };
  for (const other of commands) {
    const left = keysOf(other).filter((key) => !keys.includes(key));
    if (other.id !== command.id && meet(other, command) && left.length < keysOf(other).length) set(other, left);
  }
  set(command, keys);
  settle(changed);
}

/** Gives every command the keys it came with. */
export const resetKeys = (): void => settle({});

/** Takes up what was kept on an earlier visit. */
export async function loadKeys(): Promise<void> {
  await fetchKeys().then(
    (changed) => useKeyStore.setState({ changed }),
    // The project's own opening tells when the server doesn't answer.
    () => undefined,
  );
}
