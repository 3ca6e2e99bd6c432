/** What a command may belong to: the sheet, or the reel. */
export type Place = 'sheet' | 'reel';

/** Commands of one place. */
export const partOf = (place: Place, commands: readonly Command[]): readonly Command[] =>
  commands.map((command) => ({ ...command, place }));

/** Whether two commands can be in reach at the same time: those can't share a key. */
export const meet = (one: Command, other: Command): boolean => !one.place || !other.place || one.place === other.place;

/** Something the program can do, with its name and its keys: it is found in the command finder and answers to its keys. */
export type Command = {
  readonly id: string;
  readonly group: string;
  /** What it works on, where that must be in sight for it: keys of the sheet must not change a sheet nobody sees. */
  readonly place?: Place;
  /** What it does, in plain words; asked for when shown, since it may name what it will touch. */
  readonly words: () => string;
  /** Key combinations, as `Shift+ArrowDown`; `Mod` is Ctrl, or Cmd on a Mac. */
  readonly keys: readonly string[];
  /** Why it can't be done now; null when it can. */
  readonly hindrance?: () => string | null;
  readonly run: () => void;
  /** For a command that lasts while its key is held: what ends it. */
  readonly release?: () => void;
};

/** A command as it is told of: its name, its words, its keys. */
export type NamedCommand = Pick<Command, 'id' | 'words' | 'keys'>;

/** Keys that a Mac writes another character with while Alt is held, by the key they are on. */
const PUNCTUATION: Readonly<Record<string, string>> = {
  Minus: '-',
  Equal: '=',
  BracketLeft: '[',
  BracketRight: ']',
  Comma: ',',
  Period: '.',
};

/** The character a key has without Alt, where Alt made a sign of it, `@`, `∫`, or an accent that waits for its letter; undefined where it didn't. */
function withoutAlt({ altKey, key, code }: KeyboardEvent): string | undefined {
  if (!altKey || (key.length !== 1 && key !== 'Dead') || /^[a-z]$/i.test(key)) return undefined;
  const letter = /^Key([A-Z])$/.exec(code)?.[1];
  if (letter) return letter;
  return key >= ' ' && key <= '~' ? undefined : PUNCTUATION[code];
}

/** The key combination of an event, written as commands write theirs. */
export function keyOf(event: KeyboardEvent): string {
  const parts: string[] = [];
  if (event.ctrlKey || event.metaKey) parts.push('Mod');
  if (event.altKey) parts.push('Alt');
  if (event.shiftKey) parts.push('Shift');
  const digit = /^Digit(\d)$/.exec(event.code);
  const key =
    event.key === ' '
      ? 'Space'
      : digit?.[1] && (event.altKey || event.shiftKey)
        ? digit[1]
        : (withoutAlt(event) ?? (event.key.length === 1 ? event.key.toUpperCase() : event.key));
  return [...parts, key].join('+');
}

const SHOWN: Record<string, string> = { ArrowUp: '↑', ArrowDown: '↓', ArrowLeft: '←', ArrowRight: '→', Delete: 'Del', Mod: 'Ctrl' };
/** As it stands on keyboards made for macOS. */
const SHOWN_ON_MAC: Record<string, string> = { ...SHOWN, Mod: '⌘', Alt: '⌥', Shift: '⇧', Delete: '⌦', Backspace: '⌫' };

/** Whether this is a machine whose keyboard has ⌘. */
const isMac = (): boolean => typeof navigator !== 'undefined' && /Mac|iPhone|iPad/.test(navigator.platform || navigator.userAgent);

/** A key combination for people: `Shift ↓`, or `⇧ ↓` on macOS. */
export const keyText = (key: string, onMac = isMac()): string =>
  key
    .split(/\+(?!$)/)
    .map((part) => (onMac ? SHOWN_ON_MAC : SHOWN)[part] ?? part)
    .join(' ');
