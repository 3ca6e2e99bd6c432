import { afterEach, describe, expect, it, vi } from 'vitest';
import { type Command, partOf } from '@/features/commands/command';
import { everyCommand } from '@/features/commands/everyCommand';
import { commandForKey, hindranceOf } from '@/features/commands/here';
import { commandOnKey, giveKeys, useKeyStore } from '@/features/commands/keyStore';
import { useViewStore } from '@/features/project/viewStore';

vi.mock('@/features/sync/api', () => ({ putKeys: async () => ({}), fetchKeys: async () => ({}) }));

const onStage = (place: 'sheet' | 'reel' | null) => useViewStore.setState({ sheetInSight: place === 'sheet', onReel: place === 'reel' });
const command = (id: string, ...keys: string[]): Command => ({ id, group: 'Test', words: () => id, keys, run: () => undefined });
const [remove, leaveOut] = [...partOf('sheet', [command('remove', 'Delete')]), ...partOf('reel', [command('leave-out', 'Delete')])] as [
  Command,
  Command,
];
const play = command('play', 'Space');
const commands = [play, remove, leaveOut];

afterEach(() => {
  useKeyStore.setState({ changed: {} });
  onStage(null);
});

describe('a key', () => {
  it.each([
    ['sheet', 'remove', 'play'],
    ['reel', 'leave-out', 'play'],
    [null, undefined, 'play'],
  ] as const)('on the %s is that of what is in sight', (place, onDelete, onSpace) => {
    onStage(place);
    expect(commandForKey(commands, 'Delete')?.id).toBe(onDelete);
    expect(commandForKey(commands, 'Space')?.id).toBe(onSpace);
  });

  it('of the sheet and one of the reel may be the same; it is taken from neither by the other', () => {
    expect(commandOnKey(commands, 'Delete', leaveOut)).toBeUndefined();
    giveKeys(commands, remove, ['Delete', 'J']);
    expect(useKeyStore.getState().changed).toEqual({ remove: ['Delete', 'J'] });
    giveKeys(commands, play, ['Delete']);
    expect(useKeyStore.getState().changed).toEqual({ play: ['Delete'], remove: ['J'], 'leave-out': [] });
  });

  it('that a person gave to a command is that command’s, though another came with it since', () => {
    onStage('reel');
    const loop = command('loop', 'L');
    useKeyStore.setState({ changed: { loop: ['Delete'] } });
    expect(commandForKey([...commands, loop], 'Delete')).toBe(loop);
  });
});

describe('where no sheet is in sight', () => {
  it.each(['reel', null] as const)('nothing on it can be done (%s)', (place) => {
    onStage(place);
    const ofSheet = everyCommand.filter((each) => each.place === 'sheet');
    expect(ofSheet.length).toBeGreaterThan(60);
    expect(ofSheet.filter((each) => hindranceOf(each) !== 'only on Plan, Draw and Check')).toEqual([]);
    expect(ofSheet.filter((each) => each.keys.some((key) => commandForKey(everyCommand, key)?.place === 'sheet'))).toEqual([]);
  });

  it('the reel’s own are had on Assemble alone', () => {
    const ofReel = everyCommand.filter((each) => each.place === 'reel');
    expect(ofReel.length).toBeGreaterThan(20);
    onStage('sheet');
    expect(ofReel.filter((each) => hindranceOf(each) !== 'only on Assemble')).toEqual([]);
    onStage('reel');
    expect(ofReel.filter((each) => hindranceOf(each) === 'only on Assemble')).toEqual([]);
  });
});
