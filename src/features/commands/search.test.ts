import { beforeAll, describe, expect, it } from 'vitest';
import { everyCommand } from '@/features/commands/everyCommand';
import { chosenBySearch, findCommands } from '@/features/commands/search';
import { formatCommands } from '@/features/format/formatCommands';
import { useViewStore } from '@/features/project/viewStore';

const ACTS = [
  ...everyCommand,
  ...formatCommands,
  { id: 'stage-hand-over', group: 'Stages', words: () => 'Go to Hand over', keys: [], run: () => undefined },
].map((command) => ({ ...command, hindrance: () => null }));

beforeAll(() => useViewStore.setState({ sheetInSight: true, onReel: true }));

const chosen = (search: string) => chosenBySearch(findCommands(ACTS, search), search)?.id ?? null;
const found = (search: string) => findCommands(ACTS, search).map(({ command }) => command.id);

describe('the finder', () => {
  it.each([
    ['save', 'save-now'],
    ['fps', 'rate'],
    ['export', 'stage-hand-over'],
    ['render', 'stage-hand-over'],
    ['import', 'bring-in'],
    ['rename', 'rename-project'],
    ['rename layer', 'rename-level'],
    ['volume', 'sounds'],
    ['shortcuts', 'keys'],
    ['preferences', 'keys'],
    ['light table', 'onion'],
    ['new drawing', 'new-drawing'],
    ['eras', 'eraser'],
    ['remove exposure', 'remove-exposure'],
    ['delete drawing', 'delete-drawing'],
    ['leave the item out', 'reel-leave-out'],
  ])('“%s” and Enter run %s', (search, id) => expect(chosen(search)).toBe(id));

  it.each(['', ' ', 'x', 'qqq', 'rem', 'dele', 'delete', 'remove', 'remo', 'cle', 'sv', 'ex'])('“%s” and Enter run nothing', (search) =>
    expect(chosen(search)).toBeNull(),
  );

  it('“remove” and “delete” find what takes an item off the reel', () => {
    expect(found('remove')).toContain('reel-leave-out');
    expect(found('delete')).toContain('reel-leave-out');
  });

  it('“layer” finds what is called a level, and no letters scattered over words find anything', () => {
    expect(found('layer')).toEqual(expect.arrayContaining(['level-animated', 'level-remove', 'rename-level']));
    expect(found('dwrg')).toEqual([]);
    expect(found('nfps')).toEqual([]);
  });

  it('finds every command by its own words', () => {
    for (const command of ACTS) expect(found(command.words()), command.id).toContain(command.id);
  });

  it('never chooses what can’t be done now', () => {
    const hindered = ACTS.map((command) => (command.id === 'save-now' ? { ...command, hindrance: () => 'not now' } : command));
    expect(chosenBySearch(findCommands(hindered, 'save'), 'save')).toBeNull();
  });
});
