import { afterEach, describe, expect, it, vi } from 'vitest';
import type { Act } from '@/features/commands/command';
import { actOnKey, giveKeys, keysOf, resetKeys, useKeyStore, withKey } from '@/features/commands/keyStore';

const put = vi.hoisted(() => vi.fn(async () => ({})));
vi.mock('@/features/sync/api', () => ({ putKeys: put, fetchKeys: async () => ({}) }));

const act = (id: string, ...keys: string[]): Act => ({ id, group: 'Test', words: () => id, keys, run: () => undefined });
const play = act('play', 'Space');
const brush = act('brush', 'D', 'Shift+D');
const fill = act('fill', 'F');
const acts = [play, brush, fill];

afterEach(() => useKeyStore.setState({ changed: {} }));

describe('keys', () => {
  it('are those an act came with until it is given others', () => {
    expect(keysOf(brush)).toEqual(['D', 'Shift+D']);
    giveKeys(acts, brush, ['B']);
    expect(keysOf(brush)).toEqual(['B']);
    expect(withKey('Draw', brush)).toBe('Draw (B)');
    expect(put).toHaveBeenLastCalledWith({ brush: ['B'] });
  });

  it('are taken from the act that had them, and no other', () => {
    expect(actOnKey(acts, 'D', fill)).toBe(brush);
    giveKeys(acts, fill, ['F', 'D']);
    expect([keysOf(play), keysOf(brush), keysOf(fill)]).toEqual([['Space'], ['Shift+D'], ['F', 'D']]);
    expect(actOnKey(acts, 'D', fill)).toBeUndefined();
  });

  it('are forgotten when they are again those an act came with', () => {
    giveKeys(acts, brush, ['B']);
    giveKeys(acts, brush, ['D', 'Shift+D']);
    expect(useKeyStore.getState().changed).toEqual({});
    giveKeys(acts, play, []);
    expect(withKey('Play', play)).toBe('Play');
    resetKeys();
    expect(keysOf(play)).toEqual(['Space']);
  });
});
