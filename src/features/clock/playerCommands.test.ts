import { describe, expect, it } from 'vitest';
import { playerActs, speedWords } from '@/features/clock/playerCommands';
import { everyAct } from '@/features/commands/everyCommand';

describe('keys of the player', () => {
  it('are no other act’s', () => {
    const taken = new Set(everyAct.flatMap((act) => act.keys));
    expect(playerActs.flatMap((act) => act.keys.filter((key) => taken.has(key)))).toEqual([]);
  });

  it('of all acts are each one act’s', () => {
    const keys = [...everyAct, ...playerActs].flatMap((act) => act.keys);
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
