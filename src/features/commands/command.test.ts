import { describe, expect, it } from 'vitest';
import { keyOf, keyText } from '@/features/commands/command';
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
  ])('%o is %s', (pressed, key) => expect(press(pressed)).toBe(key));

  it.each([
    ['Shift+ArrowDown', 'Shift ↓'],
    ['Mod+Shift+Z', 'Ctrl Shift Z'],
    ['+', '+'],
    ['Delete', 'Del'],
  ])('%s is shown as %s', (key, text) => expect(keyText(key)).toBe(text));

  it('belong to one command each', () => {
    const keys = everyCommand.flatMap((command) => command.keys);
    expect(keys.filter((key, index) => keys.indexOf(key) !== index)).toEqual([]);
  });

  it('belong to commands with names of their own', () => {
    expect(new Set(everyCommand.map((command) => command.id)).size).toBe(everyCommand.length);
    for (const command of everyCommand) expect(command.words().length).toBeGreaterThan(3);
  });
});
