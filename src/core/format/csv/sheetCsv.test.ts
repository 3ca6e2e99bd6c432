import fc from 'fast-check';
import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import { type DrawingRole, NOTE_KINDS, type Shot } from '@/core/document/model';
import { applyStep } from '@/core/edit/table';
import { type TableChoices, takeTable } from '@/core/edit/tableEdits';
import { readSheetCsv, writeSheetCsv } from '@/core/format/csv/sheetCsv';
import { mustBeDone } from '@/core/outcome';
import { sheetColumns } from '@/core/sheet/columns';
import { notationOf } from '@/core/sheet/notation';
import { record } from '@/core/testing/record';
import { contextOn, levelOf, projectOf, shotOf } from '@/core/testing/sheets';

const roles: Readonly<Record<string, DrawingRole>> = { 'Sock-1': 'key', 'Sock-2': 'breakdown' };
const sock = levelOf('Sock', '1*2 .*1 2*2 12a', { extra: ['9'] });
const shot: Shot = {
  ...shotOf(
    [
      levelOf('Yard', '1', { kind: 'still' }),
      levelOf('Clip', '1*3', { kind: 'guide' }),
      { ...sock, drawings: sock.drawings.map((drawing) => ({ ...drawing, role: roles[drawing.id] ?? 'inbetween' })) },
    ],
    5,
    '020',
  ),
  notes: [
    { frame: 0, kind: 'note', words: 'sways, “twice”' },
    { frame: 2, kind: 'accent', words: '=plop' },
  ],
};
const REFUSING: TableChoices = { missingDrawings: 'refuse', unknownColumns: 'refuse', length: 'follows' };
const ADDING: TableChoices = { missingDrawings: 'plan', unknownColumns: 'add', length: 'follows' };

const taken = (on: Shot, text: string, choices = REFUSING, startFrame = 1) => {
  const table = readSheetCsv(text, startFrame);
  if (!table.ok) return `(${table.reason})`;
  const edit = takeTable(contextOn(on), table.value, choices);
  return edit.ok ? (mustBeDone(applyStep(projectOf(on), edit.value.step)).shots[0] as Shot) : `(${edit.reason})`;
};

describe('the sheet as CSV', () => {
  it('is a row a frame and a column a level (worked by hand)', () => {
    expect(writeSheetCsv(shot, 1)).toBe(
      [
        'frame,Sock,Clip (guide),notes,words,accents',
        '1,1 key,1,"sways, “twice”",,',
        '2,1,1,,,',
        "3,.,1,,,'=plop",
        '4,2 breakdown,.,,,',
        '5,2,.,,,',
        '6 past end,12a,.,,,',
        '',
      ].join('\r\n'),
    );
  });

  it('quotes as RFC 4180 says', () => {
    const quoting = { ...shot, notes: [{ frame: 1, kind: 'note' as const, words: 'says "no",\nthen goes' }] };
    expect(writeSheetCsv(quoting, 1)).toContain('2,1,1,"says ""no"",\nthen goes",,\r\n');
  });

  it('comes back as the very same sheet', () => {
    expect(taken(shot, writeSheetCsv(shot, 1))).toBe('(Nothing changes: the sheet says the same already.)');
    expect(taken(shot, writeSheetCsv(shot, 1001), REFUSING, 1001)).toContain('Nothing changes');
  });

  it('is taken with what was changed in it', () => {
    const changed = writeSheetCsv(shot, 1).replace('2,1,1,,,', '2,2,1,,lets go,').replace('4,2 breakdown', '4,12a key');
    const after = taken(shot, changed) as Shot;
    expect(notationOf(after.levels[2] as Shot['levels'][number])).toBe('1 2 . 12a 2 12a');
    expect(after.notes).toContainEqual({ frame: 1, kind: 'word', words: 'lets go' });
    expect(after.levels[2]?.drawings.find((drawing) => drawing.number === '12a')?.role).toBe('key');
  });

  it('reads empty cells as holds, other delimiters and line ends', () => {
    const after = taken(shotOf([levelOf('Sock', '', { extra: ['1', '2'] })], 4), '\uFEFFframe;Sock\n1;1\n2;\n3;.\n4;2\n5;\n') as Shot;
    expect(notationOf(after.levels[0] as Shot['levels'][number])).toBe('1*2 . 2*2');
    expect(after.frames).toBe(5);
  });

  it('builds a sheet from nothing when so chosen', () => {
    const after = taken(shotOf([], 1), writeSheetCsv(shot, 1), ADDING) as Shot;
    expect(writeSheetCsv(after, 1)).toBe(writeSheetCsv(shot, 1));
    expect(after.levels.map((level) => [level.name, level.kind])).toEqual([
      ['Clip', 'guide'],
      ['Sock', 'animated'],
    ]);
  });

  it.each([
    ['empty cells at the end of rows left out', 'frame,Sock\r\n1,1\r\n2\r\n3,2\r\n4'],
    ['a line that says what parts the columns', 'sep=;\r\nframe;Sock\r\n1;1\r\n2;\r\n3;2\r\n4;'],
    ['spaces of any kind around its name', 'frame,\u00a0Sock \r\n1,1\r\n2,1\r\n3,2\r\n4,2'],
    ['empty cells more than heads', 'frame,Sock\r\n1,1,,\r\n2,1,,\r\n3,2\r\n4,2,'],
  ])('is read with %s', (_what, text) => {
    const table = readSheetCsv(text, 1);
    expect(table.ok && table.value.columns[0]?.runs.map(({ number, frames }) => [number, frames])).toEqual([
      ['1', 2],
      ['2', 2],
    ]);
    expect(taken(shotOf([levelOf('Sock', '1*2 3*2', { extra: ['2'] })], 4), text)).not.toContain('no level');
  });

  it('leaves the roles of drawings as they are when it writes none', () => {
    const keyed = shotOf(
      [
        {
          ...levelOf('Sock', '1*2 2*2'),
          drawings: levelOf('Sock', '1*2 2*2').drawings.map((drawing) => ({ ...drawing, role: 'key' as const })),
        },
      ],
      4,
    );
    const table = mustBeDone(readSheetCsv('frame,Sock\r\n1,2\r\n2,2\r\n3,1\r\n4,1', 1));
    const edit = mustBeDone(takeTable(contextOn(keyed), table, { missingDrawings: 'refuse', unknownColumns: 'refuse', length: 'follows' }));
    const after = mustBeDone(applyStep(projectOf(keyed), edit.step)).shots[0];
    expect(after?.levels[0]?.drawings.map((drawing) => drawing.role)).toEqual(['key', 'key']);
  });

  it.each(['A (guide)', 'A (level)', ' A', 'A\u00a0b ', 'A  b'])('keeps a level called “%s”, beside a guide of the same name', (name) => {
    const named = shotOf(
      [
        { ...levelOf('x', '1*2'), name },
        { ...levelOf('y', '1 2', { kind: 'guide' }), name },
      ],
      2,
    );
    const table = mustBeDone(readSheetCsv(writeSheetCsv(named, 1), 1));
    expect(table.columns.map((column) => [column.name, column.isGuide]).toSorted()).toEqual(
      [
        [name, false],
        [name, true],
      ].toSorted(),
    );
  });

  it.each([
    ['', 'Row 1: a sheet begins with a row of heads'],
    ['time,Sock\r\n1,1', 'Row 1: a sheet begins'],
    ['frame,Sock', 'Row 2: there is no frame'],
    ['frame,Sock\r\n1,1,2', 'Row 2 has 3 columns, the heads have 2'],
    ['frame,Sock\r\n1,1\r\n3,1', 'Row 3, column 1 (frame): “3” where frame 2 should be'],
    ['frame,Sock\r\n1 past end,1', 'Every row is past the end'],
    ['frame,Sock\r\n1,1\r\n2 past end,1\r\n3,1', 'Row 4, column 1 (frame): frame 3 comes after one past the end'],
    ['frame,Sock\r\n1,§5', 'Row 2, column 2 (Sock): “§5” is not a drawing'],
    ['frame,Sock\r\n1,77', 'Row 2, column 2: Sock has no drawing 77'],
    ['frame,Sock,Socks\r\n1,1,1', 'Row 1, column 3: shot 020 has no level “Socks”'],
    ['frame,Sock, \r\n1,1,1', 'Row 1, column 3: a column has no name'],
    ['frame,Sock\r\n1,"1', 'Row 2: a quotation mark is not closed'],
    [`frame,Sock\r\n${Array.from({ length: 100_001 }, (_, index) => `${index + 1},1`).join('\r\n')}`, 'more than 100,000 rows'],
  ])('refuses what is no such table, naming the place (%#)', (text, reason) => expect(taken(shot, text)).toContain(reason));

  it('goes out and back without loss, whatever the sheet', () => {
    const anyLevel = fc.tuple(
      fc.constantFrom('Sock', 'Line', 'frame', 'notes', '=A'),
      fc.array(fc.tuple(fc.nat(5), fc.integer({ min: 1, max: 4 }), fc.boolean()), { maxLength: 12 }),
    );
    const anyNote = record({
      frame: fc.nat(9),
      kind: fc.constantFrom(...NOTE_KINDS),
      words: fc
        .string({ minLength: 1 })
        .map((words) => words.trim())
        .filter((words) => words !== ''),
    });
    fc.assert(
      fc.property(
        fc.array(anyLevel, { maxLength: 4 }),
        fc.uniqueArray(anyNote, { selector: (note) => `${note.kind} ${note.frame}`, maxLength: 6 }),
        fc.integer({ min: 10, max: 30 }),
        fc.nat(1001),
        (parts, notes, frames, startFrame) => {
          const levels = parts.map(([name, runs], index) => {
            const level = levelOf(name, runs.map(([number, held]) => `${number === 0 ? '.' : number}*${held}`).join(' '));
            const keyed = new Set(runs.flatMap(([number, , key]) => (key ? String(number) : [])));
            return {
              ...level,
              id: `${index}`,
              drawings: level.drawings.map((drawing) => ({
                ...drawing,
                role: keyed.has(drawing.number) ? ('key' as const) : drawing.role,
              })),
            };
          });
          const before: Shot = { ...shotOf(levels, frames), notes: notes.toSorted((a, b) => a.frame - b.frame) };
          fc.pre(levels.length > 0);
          const text = writeSheetCsv(before, startFrame);
          expect(taken(before, text, REFUSING, startFrame)).toBe('(Nothing changes: the sheet says the same already.)');
          const anew = taken({ ...shotOf([], 1), id: before.id }, text, ADDING, startFrame) as Shot;
          expect(writeSheetCsv(anew, startFrame)).toBe(text);
          expect(Papa.parse(text.trimEnd()).data).toHaveLength(
            Math.max(frames, ...sheetColumns(before).map((level) => level.exposures.reduce((sum, run) => sum + run.frames, 0))) + 1,
          );
        },
      ),
      { numRuns: 150 },
    );
  });
});
