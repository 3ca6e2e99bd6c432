import { describe, expect, it } from 'vitest';
import type { Shot } from '@/core/document/model';
import { applyStep, invertStep } from '@/core/edit/table';
import { type TableChoices, takeTable } from '@/core/edit/tableEdits';
import { mustBeDone } from '@/core/outcome';
import type { SheetTable, WrittenColumn } from '@/core/sheet/sheetTable';
import { columnAfter, contextOn, levelOf, projectOf, shotOf } from '@/core/testing/sheets';

const shot = shotOf([levelOf('Clip', '1*4', { kind: 'guide' }), levelOf('Sock', '1*2 2*2')], 4, '020');
const column = (name: string, runs: WrittenColumn['runs'], place = 2): WrittenColumn => ({
  name,
  isGuide: false,
  place,
  runs,
});
const table = (columns: readonly WrittenColumn[], frames = 4): SheetTable => ({ frames, columns, notes: null });
const CHOICES: TableChoices = { missingDrawings: 'refuse', unknownColumns: 'refuse', length: 'follows' };
const take = (written: SheetTable, choices: Partial<TableChoices> = {}) => takeTable(contextOn(shot), written, { ...CHOICES, ...choices });
const shotAfter = (edit: ReturnType<typeof take>) => mustBeDone(applyStep(projectOf(shot), mustBeDone(edit).step)).shots[0] as Shot;

describe('a written sheet', () => {
  const swapped = column('Sock', [
    { number: '2', role: 'key', frames: 1 },
    { number: '1', role: null, frames: 3 },
  ]);

  it('becomes the column of the level it names, with roles, as one step that undoes', () => {
    const edit = take(table([swapped]));
    expect(columnAfter(shot, edit)).toBe('2 1*3');
    expect(shotAfter(edit).levels[1]?.drawings.map((drawing) => drawing.role)).toEqual(['inbetween', 'key']);
    const project = projectOf(shot);
    const { step } = mustBeDone(edit);
    expect(mustBeDone(applyStep(mustBeDone(applyStep(project, step)), invertStep(project, step)))).toEqual(project);
  });

  it('leaves levels without a column, and notes without columns, as they are', () => {
    const after = shotAfter(take(table([swapped])));
    expect(after.levels[0]).toBe(shot.levels[0]);
    expect(after.notes).toBe(shot.notes);
  });

  it.each([
    ['follows', 6, 'the shot goes from 4 to 6 frames'],
    ['stays', 4, 'Take 1 column of 6 frames'],
  ] as const)('lets the shot’s length follow or stay: %s', (length, frames, says) => {
    const edit = take(table([swapped], 6), { length });
    expect(shotAfter(edit).frames).toBe(frames);
    expect(mustBeDone(edit).says).toContain(says);
  });

  it('plans drawings and adds levels only when so chosen', () => {
    const more = table([
      column('Sock', [{ number: '9', role: 'key', frames: 4 }]),
      column('Peg', [{ number: '1', role: null, frames: 4 }], 3),
    ]);
    expect(columnAfter(shot, take(more))).toContain('Row 2, column 2: Sock has no drawing 9');
    expect(columnAfter(shot, take(more, { missingDrawings: 'plan' }))).toContain('Row 1, column 3: shot 020 has no level “Peg”');
    const after = shotAfter(take(more, { missingDrawings: 'plan', unknownColumns: 'add' }));
    expect(after.levels.map((level) => level.name)).toEqual(['Clip', 'Peg', 'Sock']);
    // The first column is in front of all others, the next right behind it.
    const first = shotAfter(
      take(
        table([column('Peg', [{ number: '1', role: null, frames: 4 }], 2), column('Line', [{ number: '1', role: null, frames: 4 }], 3)]),
        { missingDrawings: 'plan', unknownColumns: 'add' },
      ),
    );
    expect(first.levels.map((level) => level.name)).toEqual(['Clip', 'Sock', 'Line', 'Peg']);
    expect(after.levels[2]?.drawings.at(-1)).toMatchObject({ number: '9', role: 'key', picture: null });
  });

  it('tells a guide from a level of the same name', () => {
    expect(columnAfter(shot, take(table([{ ...column('Clip', [{ number: '1', role: null, frames: 4 }]), isGuide: false }])))).toContain(
      'has no level “Clip”',
    );
  });

  it('refuses what changes nothing', () => {
    const same = table([
      column('Sock', [
        { number: '1', role: null, frames: 2 },
        { number: '2', role: null, frames: 2 },
      ]),
    ]);
    expect(columnAfter(shot, take(same))).toContain('Nothing changes');
  });
});
