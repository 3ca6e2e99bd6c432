import { afterEach, describe, expect, it, vi } from 'vitest';
import type { Command } from '@/features/commands/command';
import { commandOnKey, giveKeys, keysOf, resetKeys, useKeyStore, withKey } from '@/features/commands/keyStore';

const put = vi.hoisted(() => vi.fn(async () => ({})));
vi.mock('@/features/sync/api', () => ({ putKeys: put, fetchKeys: async () => ({}) }));

const command = (id: string, ...keys: string[]): Command => ({ id, group: 'Test', words: () => id, keys, run: () => undefined });
const play = command('play', 'Space');
const brush = command('brush', 'D', 'Shift+D');
const fill = command('fill', 'F');
const commands = [play, brush, fill];

afterEach(() => useKeyStore.setState({ changed: {} }));

describe('keys', () => {
  it('are those a command came with until it is given others', () => {
    expect(keysOf(brush)).toEqual(['D', 'Shift+D']);
    giveKeys(commands, brush, ['B']);
    expect(keysOf(brush)).toEqual(['B']);
    expect(withKey('Draw', brush)).toBe('Draw (B)');
    expect(put).toHaveBeenLastCalledWith({ brush: ['B'] });
  });

  it('are taken from the command that had them, and no other', () => {
    expect(commandOnKey(commands, 'D', fill)).toBe(brush);
    giveKeys(commands, fill, ['F', 'D']);
    expect([keysOf(play), keysOf(brush), keysOf(fill)]).toEqual([['Space'], ['Shift+D'], ['F', 'D']]);
    expect(commandOnKey(commands, 'D', fill)).toBeUndefined();
  });

  it('are forgotten when they are again those a command came with', () => {
    giveKeys(commands, brush, ['B']);
    giveKeys(commands, brush, ['D', 'Shift+D']);
    expect(useKeyStore.getState().changed).toEqual({});
    giveKeys(commands, play, []);
    expect(withKey('Play', play)).toBe('Play');
    resetKeys();
    expect(keysOf(play)).toEqual(['Space']);
  });
});
