import { toast } from 'sonner';
import { create } from 'zustand';
import { type Act, keyText } from '@/features/commands/command';
import { fetchKeys, putKeys } from '@/features/sync/api';

/** Keys a person has given to acts, by the act's name, and whether the window to change them is open. */
export const useKeyStore = create<{ readonly changed: Readonly<Record<string, readonly string[]>>; readonly isOpen: boolean }>(() => ({
  changed: {},
  isOpen: false,
}));

/** The keys an act answers to: those it was given, else those it came with. */
export const keysOf = (act: Act): readonly string[] => useKeyStore.getState().changed[act.id] ?? act.keys;

/** Words with the act's first key behind them, for a hint: `Play (Space)`. */
export function withKey(words: string, act: Act): string {
  const [key] = keysOf(act);
  return key ? `${words} (${keyText(key)})` : words;
}

/** The act that answers to a key already; undefined when it is free. */
export const actOnKey = (acts: readonly Act[], key: string, except: Act): Act | undefined =>
  acts.find((act) => act.id !== except.id && keysOf(act).includes(key));

const sameKeys = (a: readonly string[], b: readonly string[]) => a.length === b.length && a.every((key, index) => key === b[index]);

function settle(changed: Readonly<Record<string, readonly string[]>>): void {
  useKeyStore.setState({ changed });
  putKeys(changed).catch(() => toast.error('The server doesn’t answer: the keys hold until this page is closed, and are not kept.'));
}

/** Gives an act other keys; a key that another act had is taken from it. */
export function giveKeys(acts: readonly Act[], act: Act, keys: readonly string[]): void {
  const changed = { ...useKeyStore.getState().changed };
  const set = (which: Act, to: readonly string[]) => {
    if (sameKeys(to, which.keys)) delete changed[which.id];
    else changed[which.id] = to;
  };
  for (const other of acts) {
    const left = keysOf(other).filter((key) => !keys.includes(key));
    if (other.id !== act.id && left.length < keysOf(other).length) set(other, left);
  }
  set(act, keys);
  settle(changed);
}

/** Gives every act the keys it came with. */
export const resetKeys = (): void => settle({});

/** Takes up what was kept on an earlier visit. */
export async function loadKeys(): Promise<void> {
  await fetchKeys().then(
    (changed) => useKeyStore.setState({ changed }),
    // The project's own opening tells when the server doesn't answer.
    () => undefined,
  );
}
