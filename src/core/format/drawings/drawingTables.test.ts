import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Level, Project, Shot } from '@/core/document/model';
import { applyStep } from '@/core/edit/table';
import { type DrawingTable, readDrawingTables, writeDrawingTables } from '@/core/format/drawings/drawingTables';
import { mustBeDone } from '@/core/outcome';
import { ids, levelOf, projectOf, shotOf } from '@/core/testing/sheets';
import { anyStep, START } from '@/core/testing/steps';

const folderIn =
  ({ shots }: Project) =>
  (shot: Shot, level: Level | null) =>
    level ? `${shots.indexOf(shot)}/${shot.levels.indexOf(level)}` : `${shots.indexOf(shot)}`;
const tablesOf = (project: Project) => writeDrawingTables(project, folderIn(project), ({ picture }) => `${picture?.slice(0, 8)}.png`);
const read = (tables: Readonly<Record<DrawingTable, string>>) => readDrawingTables(tables, ids());

/** What the tables carry of a project. */
const carried = (
  { title, rate, size, firstFrameNumber, shots }: Project,
  fileOf: (id: string, picture: string | null) => string | null,
) => ({
  ...{ title: title.trim(), rate, size, firstFrameNumber },
  shots: shots.map(({ code, name, frames, levels }) => ({
    ...{ code: code.trim(), name: name.trim(), frames },
    levels: levels.map((level) => ({
      ...{ name: level.name.trim(), kind: level.kind },
      drawings: level.drawings.map(({ id, number, role, picture }) => ({ number, role, file: fileOf(id, picture) })),
      exposures: level.exposures.map((run) => [level.drawings.findIndex(({ id }) => id === run.drawing), run.frames]),
    })),
  })),
});

const sock = levelOf('Sock', '1*2 2*2 .*3 1', { pictures: 'a' });
const project = projectOf(
  shotOf(
    [
      levelOf('=Yard', '1', { kind: 'still' }),
      { ...sock, drawings: sock.drawings.map((each, index) => ({ ...each, role: index === 0 ? 'key' : 'breakdown' })) },
    ],
    12,
  ),
);

describe('drawings and how long each is held, as tables', () => {
  it('are plain rows (worked by hand)', () => {
    expect(tablesOf(project)).toEqual({
      'film.csv': 'title,frames a second,width,height,first frame\r\nTest,24/1,1280,720,1\r\n',
      'levels.csv': "folder,shot,shot name,shot frames,level,kind\r\n0/0,010,,12,'=Yard,still\r\n0/1,010,,12,Sock,animated\r\n",
      'drawings.csv': 'folder,drawing,role,file\r\n0/0,1,in-between,\r\n0/1,1,key,aaaaaaaa.png\r\n0/1,2,breakdown,\r\n',
      'exposures.csv': 'folder,first frame,frames,drawing\r\n0/1,1,2,1\r\n0/1,3,2,2\r\n0/1,5,3,.\r\n0/1,8,1,1\r\n',
    });
  });

  it('come back as they were, whatever the project', () => {
    fc.assert(
      fc.property(fc.array(anyStep, { maxLength: 20 }), (steps) => {
        let random = START;
        for (const step of steps) {
          const next = applyStep(random, step);
          if (next.ok) random = next.value;
        }
        const { project: back, fileOf } = mustBeDone(read(tablesOf(random)));
        expect(carried(back, (id) => fileOf.get(id) ?? null)).toEqual(
          carried(random, (_id, picture) => (picture ? `${picture.slice(0, 8)}.png` : null)),
        );
        expect(back.reel.items).toHaveLength(random.shots.length);
      }),
      { numRuns: 100 },
    );
  });

  const changed = (table: DrawingTable, from: string | RegExp, to: string) => {
    const tables = tablesOf(project);
    const found = read({ ...tables, [table]: tables[table].replace(from, to) });
    return found.ok ? 'read' : found.reason;
  };
  it.each<[DrawingTable, string | RegExp, string, string]>([
    ['film.csv', '24/1', 'fast', 'film.csv, row 2 (frames a second): “fast” is not a rate'],
    ['film.csv', /\r\nTest.*/, '', 'film.csv has one row under its heads.'],
    ['film.csv', 'width', 'wide', 'film.csv has no column “width”.'],
    ['film.csv', '1280', '-2', 'film.csv, row 2 (width): “-2” is not a whole number of 1 or more.'],
    ['levels.csv', 'still', 'frozen', 'levels.csv, row 2 (kind): “frozen” is not animated, still or guide.'],
    ['levels.csv', '0/1', '0/0', 'levels.csv, row 3 (folder): 0/0 is there twice.'],
    ['levels.csv', '12,Sock', '13,Sock', 'levels.csv, row 3 (shot frames): 010 has 12 frames in another row.'],
    ['drawings.csv', 'key', 'extreme', 'drawings.csv, row 3 (role): “extreme” is not key, breakdown, in-between.'],
    ['drawings.csv', '0/1,2', '0/1,1', 'drawings.csv, row 4 (drawing): 1 is there twice.'],
    ['drawings.csv', '0/1,2', '0/9,2', 'drawings.csv, row 4 (folder): levels.csv has no level in “0/9”.'],
    ['exposures.csv', '0/1,3,2,2', '0/1,3,2,7', 'exposures.csv, row 3 (drawing): drawings.csv has no drawing 7 there.'],
    [
      'exposures.csv',
      '0/1,3,2,2',
      '0/1,4,2,2',
      'exposures.csv, row 3 (first frame): the exposure before it ends so that it begins on frame 3, not 4.',
    ],
    ['exposures.csv', '0/1,3,2,2', '0/1,3,0,2', 'exposures.csv, row 3 (frames): “0” is not a whole number of 1 or more.'],
  ])('that make no sense are refused, and where: %s', (table, from, to, reason) => expect(changed(table, from, to)).toContain(reason));

  it('written by a spreadsheet, with a mark at their beginning, are read', () => {
    const tables = tablesOf(project);
    expect(read({ ...tables, 'levels.csv': `\uFEFF${tables['levels.csv']}` }).ok).toBe(true);
  });
});
