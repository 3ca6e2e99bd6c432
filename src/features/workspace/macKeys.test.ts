import { describe, expect, it } from 'vitest';
import { playerCommands } from '@/features/clock/playerCommands';
import { keyOf } from '@/features/commands/command';
import { everyCommand } from '@/features/commands/everyCommand';
import { formatCommands } from '@/features/format/formatCommands';
import { sheetFileCommands } from '@/features/sheet/sheetFileCommands';

/*
 * Every shortcut as a keyboard made for macOS sends it. What Option makes of a key is from the US layout of macOS and from the German
 * one (from memory); an accent that waits for its letter comes as `Dead`.
 */

type Layout = {
  readonly name: string;
  readonly option: Readonly<Record<string, string>>;
  readonly codes: Readonly<Record<string, string>>;
};

const pairs = (keys: string, signs: readonly string[]) => Object.fromEntries([...keys].map((key, index) => [key, signs[index] ?? key]));
const spread = (signs: string) => signs.split(' ');

const LETTERS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ';
const LAYOUTS: readonly Layout[] = [
  {
    name: 'US',
    option: {
      ...pairs(LETTERS, spread('å ∫ ç ∂ Dead ƒ © ˙ Dead ∆ ˚ ¬ µ Dead ø π œ ® ß † Dead √ ∑ ≈ ¥ Ω')),
      ...pairs('-=[],.', spread('– ≠ “ ‘ ≤ ≥')),
      ...pairs('1234567890', spread('¡ ™ £ ¢ ∞ § ¶ • ª º')),
    },
    codes: {},
  },
  {
    name: 'German',
    option: {
      ...pairs(LETTERS, spread('å ∫ ç ∂ € ƒ © ª ⁄ º ∆ @ µ Dead ø π « ® ‚ † Dead √ ∑ ≈ Ω ¥')),
      ...pairs(',.-', spread('∞ … –')),
      ...pairs('1234567890', spread('¡ “ ¶ ¢ [ ] | { } ≠')),
    },
    codes: {},
  },
];

const CODES: Readonly<Record<string, string>> = {
  '-': 'Minus',
  '=': 'Equal',
  '[': 'BracketLeft',
  ']': 'BracketRight',
  ',': 'Comma',
  '.': 'Period',
  Space: 'Space',
};

/** The event a shortcut comes as. */
function pressed(shortcut: string, { option }: Layout): KeyboardEvent {
  const parts = shortcut.split(/\+(?!$)/);
  const key = parts.at(-1) ?? '';
  const [altKey, shiftKey, metaKey] = ['Alt', 'Shift', 'Mod'].map((part) => parts.slice(0, -1).includes(part)) as [
    boolean,
    boolean,
    boolean,
  ];
  const code = /^[A-Z]$/.test(key) ? `Key${key}` : /^\d$/.test(key) ? `Digit${key}` : (CODES[key] ?? key);
  const plain = key === 'Space' ? ' ' : shiftKey && !metaKey ? key : key.length === 1 ? key.toLowerCase() : key;
  return { key: (altKey && option[key]) || plain, code, altKey, shiftKey, metaKey, ctrlKey: false } as KeyboardEvent;
}

const commands = [...everyCommand, ...formatCommands, ...sheetFileCommands, ...playerCommands];
const shortcuts = commands.flatMap(({ id, keys }) => keys.map((key) => [key, id] as const));

describe.each(LAYOUTS.map((layout) => [layout.name, layout] as const))('on a %s keyboard made for macOS', (_name, layout) => {
  // German keyboards have no brackets and no equals sign on keys of their own: those shortcuts are given other keys there.
  const there = shortcuts.filter(([key]) => layout.name === 'US' || !/[[\]=]$/.test(key));

  it.each(there)('%s is heard as itself (%s)', (key) => {
    expect(keyOf(pressed(key, layout))).toBe(key);
  });

  it('there are as many as commands have', () => expect(there.length).toBeGreaterThan(100));
});
