import { describe, expect, it } from 'vitest';
import { playerCommands, speedWords } from '@/features/clock/playerCommands';
import { everyCommand } from '@/features/commands/everyCommand';

describe('keys of the player', () => {
  it('are no other command’s', () => {
    const taken = new Set(everyCommand.flatMap((command) => command.keys));
    expect(playerCommands.flatMap((command) => command.keys.filter((key) => taken.has(key)))).toEqual([]);
  });

  it('are each one command’s', () => {
    const keys = playerCommands.flatMap((command) => command.keys);
    expect(keys.filter((key, index) => keys.indexOf(key) !== index)).toEqual([]);
  });
});

describe('speeds', () => {
  it.each([
    [1, 4, '¼'],
    [1, 2, '½'],
    [1, 1, '1'],
    [2, 1, '2'],
  ])('%i/%i is said %s', (num, den, words) => expect(speedWords({ num, den })).toBe(words));
});
