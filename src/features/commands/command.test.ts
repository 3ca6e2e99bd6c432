import { describe, expect, it } from 'vitest';
import { BROWSER_KEYS } from '@/features/commands/browserKeys';
import { keyOf, keyText, meet } from '@/features/commands/command';
import { everyCommand } from '@/features/commands/everyCommand';

type KeyPress = { key: string; code?: string; ctrlKey?: boolean; metaKey?: boolean; altKey?: boolean; shiftKey?: boolean };
const press = (pressed: KeyPress) =>
  keyOf({ code: '', ctrlKey: false, metaKey: false, altKey: false, shiftKey: false, ...pressed } as KeyboardEvent);

describe('keys', () => {
  it.each([
    [{ key: 'n', code: 'KeyN' }, 'N'],
    [{ key: ' ', code: 'Space' }, 'Space'],
    [{ key: 'ArrowDown', shiftKey: true }, 'Shift+ArrowDown'],
    [{ key: 'z', ctrlKey: true }, 'Mod+Z'],
    [{ key: 'Z', metaKey: true, shiftKey: true }, 'Mod+Shift+Z'],
    [{ key: '™', code: 'Digit2', altKey: true }, 'Alt+2'],
    [{ key: '∫', code: 'KeyB', altKey: true }, 'Alt+B'],
    [{ key: 'Í', code: 'KeyS', altKey: true, shiftKey: true }, 'Alt+Shift+S'],
    [{ key: '“', code: 'BracketLeft', altKey: true }, 'Alt+['],
    [{ key: 'b', code: 'KeyN', altKey: true }, 'Alt+B'],
    [{ key: '2', code: 'Digit2' }, '2'],
    [{ key: '"', code: 'Digit2', shiftKey: true }, 'Shift+2'],
    [{ key: '+', code: 'BracketRight' }, '+'],
    // Option and L on a German macOS keyboard is @, Option and 5 is [; on a French one Option and the key of Q is æ.
    [{ key: '@', code: 'KeyL', altKey: true }, 'Alt+L'],
    [{ key: '[', code: 'Digit5', altKey: true }, 'Alt+5'],
    [{ key: 'æ', code: 'KeyQ', altKey: true }, 'Alt+Q'],
    // On a French keyboard the key of Q is A, on a German one that of Y is Z: what is printed on it counts.
    [{ key: 'a', code: 'KeyQ', ctrlKey: true }, 'Mod+A'],
    [{ key: 'z', code: 'KeyY', ctrlKey: true }, 'Mod+Z'],
  ])('%o is %s', (pressed, key) => expect(press(pressed)).toBe(key));

  it.each([
    ['Shift+ArrowDown', 'Shift ↓'],
    ['Mod+Shift+Z', 'Ctrl Shift Z'],
    ['+', '+'],
    ['Delete', 'Del'],
  ])('%s is shown as %s', (key, text) => expect(keyText(key)).toBe(text));

  it.each([
    ['Shift+ArrowDown', '⇧ ↓'],
    ['Mod+Shift+Z', '⌘ ⇧ Z'],
    ['Alt+PageDown', '⌥ PageDown'],
  ])('%s is shown as %s on macOS', (key, text) => expect(keyText(key, true)).toBe(text));

  it('are none that browsers keep for themselves', () => {
    const kept = everyCommand.flatMap((command) => command.keys.filter((key) => BROWSER_KEYS[key] !== undefined));
    expect(kept).toEqual([]);
  });

  it('belong to one command each where both are in reach', () => {
    const shared = everyCommand.flatMap((one, index) =>
      everyCommand.slice(index + 1).flatMap((other) => (meet(one, other) ? one.keys.filter((key) => other.keys.includes(key)) : [])),
    );
    expect(shared).toEqual([]);
    expect(everyCommand.filter(({ keys }) => new Set(keys).size < keys.length)).toEqual([]);
  });

  it('belong to commands with names of their own', () => {
    expect(new Set(everyCommand.map((command) => command.id)).size).toBe(everyCommand.length);
    for (const command of everyCommand) expect(command.words().length).toBeGreaterThan(3);
  });
});
