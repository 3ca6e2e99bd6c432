import { describe, expect, it } from 'vitest';
import type { Shot } from '@/core/document/model';
import { applyStep, invertStep } from '@/core/edit/table';
import { tableDifferences } from '@/core/edit/tableDifferences';
import { type TableChoices, takeTable } from '@/core/edit/tableEdits';
import { readSheetCsv, writeSheetCsv } from '@/core/format/csv/sheetCsv';
import { mustBeDone } from '@/core/outcome';
import { notationOf } from '@/core/sheet/notation';
import { contextOn, levelOf, projectOf, shotOf } from '@/core/testing/sheets';

const shot: Shot = {
  ...shotOf([levelOf('Peg', '1*6'), levelOf('Sock', '1*2 2*2 3*2 4*2')], 8),
  notes: [
    { frame: 0, kind: 'note', words: 'sways' },
    { frame: 4, kind: 'accent', words: 'plop' },
  ],
};
const ADDING: TableChoices = { missingDrawings: 'plan', unknownColumns: 'add', length: 'follows' };

/** The shot as somebody else would have it. */
const changed = (notation: string, change: Partial<Shot> = {}): string =>
  writeSheetCsv({ ...shot, levels: [shot.levels[0] as Shot['levels'][0], levelOf('Sock', notation)], ...change }, 1);
const tableOf = (csv: string) => mustBeDone(readSheetCsv(csv, 1));
const differences = (csv: string) => mustBeDone(tableDifferences(contextOn(shot), tableOf(csv), ADDING));
const wordsOf = (csv: string) => differences(csv).map(({ words }) => words);
const takenOf = (csv: string, isTaken: (words: string) => boolean): Shot => {
  const byId = new Map(differences(csv).map(({ id, words }) => [id, words]));
  const edit = takeTable(contextOn(shot), tableOf(csv), ADDING, (id) => isTaken(byId.get(id) ?? ''));
  return mustBeDone(applyStep(projectOf(shot), mustBeDone(edit).step)).shots[0] as Shot;
};
const sockOf = (each: Shot) => notationOf(each.levels.find(({ name }) => name === 'Sock') as Shot['levels'][0]);

describe('a sheet that comes back changed', () => {
  it.each<[string, string, readonly string[]]>([
    ['nothing', '1*2 2*2 3*2 4*2', []],
    ['a hold', '1*2 2*4 3*2', ['Sock: 2 from frame 3 is held 4 frames instead of 2', 'Sock: 4*2 from frame 7 is gone']],
    ['a drawing gone', '1*2 3*2 4*4', ['Sock: 2*2 from frame 3 is gone', 'Sock: 4 from frame 7 is held 4 frames instead of 2']],
    ['one more', '1*2 2*2 1*1 3*2 4', ['Sock: 1 is new on frame 5', 'Sock: 4 from frame 7 is held 1 frame instead of 2']],
    ['another', '1*2 2*2 4*2 4*2', ['Sock: 3*2 from frame 5 is gone', 'Sock: 4 from frame 7 is held 4 frames instead of 2']],
    ['a new drawing', '1*2 9*2 3*2 4*2', ['Sock: 2*2 from frame 3 becomes 9*2; 9 is planned']],
    ['a blank', '1*2 .*2 3*2 4*2', ['Sock: 2*2 from frame 3 becomes .*2']],
  ])('is told as the edits it would take: %s', (_what, notation, words) => expect(wordsOf(changed(notation))).toEqual(words));

  it('is told by its length, roles, notes and new levels', () => {
    const sock = levelOf('Sock', '1*2 2*2 3*2 4*2');
    const csv = changed('1', {
      frames: 10,
      levels: [
        shot.levels[0] as Shot['levels'][0],
        { ...sock, drawings: sock.drawings.map((drawing) => (drawing.number === '3' ? { ...drawing, role: 'key' } : drawing)) },
        levelOf('Smoke', '1*2 2*2'),
      ],
      notes: [
        { frame: 0, kind: 'note', words: 'sways twice' },
        { frame: 6, kind: 'word', words: 'oh' },
      ],
    });
    expect(wordsOf(csv)).toEqual([
      'Shot 010 has 10 frames instead of 8',
      'Smoke is a new level of 4 frames, with 2 planned drawings',
      'Sock 3: key instead of in-between',
      'The note “sways” on frame 1 becomes “sways twice”',
      'The accent “plop” on frame 5 is gone',
      'The word “oh” on frame 7 is new',
    ]);
  });

  it('is taken one by one: what is left stays as it is, and what follows a hold moves with it', () => {
    const csv = changed('1*2 2*4 9*1 3*2 4*2', { frames: 11, notes: [] });
    expect(wordsOf(csv)).toHaveLength(5);
    expect(sockOf(takenOf(csv, (words) => words.includes('is held')))).toBe('1*2 2*4 3*2 4*2');
    const planned = takenOf(csv, (words) => words.includes('9 is planned'));
    expect(sockOf(planned)).toBe('1*2 2*2 9 3*2 4*2');
    expect([planned.frames, planned.notes]).toEqual([8, shot.notes]);
    const unplanned = takenOf(csv, (words) => !words.includes('9 is planned'));
    expect(unplanned.levels[1]?.drawings.map(({ number }) => number)).toEqual(['1', '2', '3', '4']);
    expect([unplanned.frames, unplanned.notes]).toEqual([11, []]);
    const all = takenOf(csv, () => true);
    expect(writeSheetCsv(all, 1)).toBe(csv);
  });

  it('with nothing of it taken changes nothing; what is taken is one step that undoes', () => {
    const csv = changed('1*2 2*4 3*2 4*2', { notes: [] });
    const none = takeTable(contextOn(shot), tableOf(csv), ADDING, () => false);
    expect(none.ok ? '' : none.reason).toContain('Nothing changes');
    const project = projectOf(shot);
    const { step } = mustBeDone(takeTable(contextOn(shot), tableOf(csv), ADDING, (id) => id.startsWith('note')));
    const done = mustBeDone(applyStep(project, step));
    expect(done.shots[0]?.notes).toEqual([]);
    expect(mustBeDone(applyStep(done, invertStep(project, step)))).toEqual(project);
  });

  it('puts a new level where it stands among those that are taken', () => {
    const [peg, sock] = shot.levels as [Shot['levels'][0], Shot['levels'][0]];
    const csv = writeSheetCsv({ ...shot, levels: [levelOf('Low', '1*2'), peg, levelOf('Mid', '1*2'), sock, levelOf('Top', '1*2')] }, 1);
    const names = (isTaken: (words: string) => boolean) => takenOf(csv, isTaken).levels.map(({ name }) => name);
    expect(names(() => true)).toEqual(['Low', 'Peg', 'Mid', 'Sock', 'Top']);
    expect(names((words) => words.startsWith('Low'))).toEqual(['Low', 'Peg', 'Sock']);
    expect(names((words) => words.startsWith('Mid'))).toEqual(['Peg', 'Mid', 'Sock']);
    expect(names((words) => words.startsWith('Top') || words.startsWith('Low'))).toEqual(['Low', 'Peg', 'Sock', 'Top']);
  });
});
