import Papa from 'papaparse';
import {
  type Drawing,
  type DrawingRole,
  drawingById,
  type Level,
  type LevelKind,
  newLevel,
  type Project,
  type Shot,
} from '@/core/document/model';
import { newProject } from '@/core/document/newProject';
import { armoured, bare } from '@/core/format/csv/armour';
import { done, type Outcome, refused } from '@/core/outcome';
import { roleWord } from '@/core/sheet/reading';
import { tidyRuns } from '@/core/sheet/runs';
import { countText } from '@/core/time/counts';
import { parseRate, rateFraction } from '@/core/time/rate';

/*
 * A project's drawings and how long each is held, in four small tables (RFC 4180) that anyone can read:
 *   film.csv       one row: title, frames a second (as a fraction), width, height, first frame
 *   levels.csv     a row a level, those of a shot from the lowest: folder, shot, shot name, shot frames, level, kind
 *   drawings.csv   a row a drawing: folder of its level, number, role, file (empty where it isn't drawn)
 *   exposures.csv  a row an exposure, in order: folder, first frame (from the film's first frame number), frames, drawing (. for blank)
 * A folder is the one the level's pictures lie in, within its shot's, and so tells levels and shots of one name apart. Charts, notes, sounds, finish and whatever
 * else the film has are not in them.
 */

/** The tables by their file names. */
export const DRAWING_TABLES = {
  'film.csv': ['title', 'frames a second', 'width', 'height', 'first frame'],
  'levels.csv': ['folder', 'shot', 'shot name', 'shot frames', 'level', 'kind'],
  'drawings.csv': ['folder', 'drawing', 'role', 'file'],
  'exposures.csv': ['folder', 'first frame', 'frames', 'drawing'],
} as const;
export type DrawingTable = keyof typeof DRAWING_TABLES;

const MOST_ROWS = 2_000_000;
const KINDS: readonly LevelKind[] = ['animated', 'still', 'guide'];
const ROLES = Object.entries(roleWord) as readonly [DrawingRole, string][];

type Cell = string | number;

const csv = (table: DrawingTable, rows: readonly (readonly Cell[])[]): string =>
  `${Papa.unparse([[...DRAWING_TABLES[table]], ...rows], { newline: '\r\n' })}\r\n`;

/** The folder of a level's pictures within its shot's, or of a shot that has no level. */
export type FolderOf = (shot: Shot, level: Level | null) => string;

/** The tables of a project whose pictures lie in the folders of their levels; `fileOf` is a drawing's file. */
export function writeDrawingTables(
  project: Project,
  folderOf: FolderOf,
  fileOf: (drawing: Drawing) => string,
): Readonly<Record<DrawingTable, string>> {
  const { title, rate, size, firstFrameNumber, shots } = project;
  const levels = shots.flatMap((shot) => shot.levels.map((level) => ({ level, folder: folderOf(shot, level) })));
  return {
    'film.csv': csv('film.csv', [[armoured(title), rateFraction(rate), size.width, size.height, firstFrameNumber]]),
    'levels.csv': csv(
      'levels.csv',
      shots.flatMap((shot) => {
        const ofShot = [armoured(shot.code), armoured(shot.name), shot.frames];
        if (shot.levels.length === 0) return [[folderOf(shot, null), ...ofShot, '', '']];
        return shot.levels.map((level) => [folderOf(shot, level), ...ofShot, armoured(level.name), level.kind]);
      }),
    ),
    'drawings.csv': csv(
      'drawings.csv',
      levels.flatMap(({ level, folder }) =>
        level.drawings.map((drawing) => [folder, drawing.number, roleWord[drawing.role], drawing.picture ? fileOf(drawing) : '']),
      ),
    ),
    'exposures.csv': csv(
      'exposures.csv',
      levels.flatMap(({ level, folder }) => {
        let frame = firstFrameNumber;
        return level.exposures.map((run) => {
          const row = [folder, frame, run.frames, drawingById(level, run.drawing)?.number ?? '.'];
          frame += run.frames;
          return row;
        });
      }),
    ),
  };
}

/** What is wrong with a table stops it; the message is for a person. */
class BadTable extends Error {}

type Row = {
  readonly cell: (head: string) => string;
  readonly whole: (head: string, least: number) => number;
  readonly bad: (head: string, words: string) => never;
};

function rowsOf(table: DrawingTable, text: string): readonly Row[] {
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { preview: MOST_ROWS + 2, skipEmptyLines: 'greedy' });
  const [heads = [], ...body] = data;
  if (body.length > MOST_ROWS) throw new BadTable(`${table} has more than ${countText(MOST_ROWS)} rows, which is the most.`);
  const places = new Map(heads.map((head, place) => [head.trim().toLowerCase(), place]));
  const missing = DRAWING_TABLES[table].find((head) => !places.has(head));
  if (missing !== undefined) throw new BadTable(`${table} has no column “${missing}”.`);
  return body.map((cells, index): Row => {
    const cell = (head: string) => bare(cells[places.get(head) as number] ?? '').trim();
    const bad = (head: string, words: string): never => {
      throw new BadTable(`${table}, row ${countText(index + 2)} (${head}): ${words}`);
    };
    const whole = (head: string, least: number): number => {
      const found = cell(head);
      return /^\d{1,9}$/.test(found) && Number(found) >= least
        ? Number(found)
        : bad(head, `“${found.slice(0, 24)}” is not a whole number of ${least} or more.`);
    };
    return { cell, whole, bad };
  });
}

/** A level while its rows are read. */
type OpenLevel = {
  readonly level: Level;
  readonly drawings: Drawing[];
  readonly exposures: { drawing: string | null; frames: number }[];
  readonly byNumber: Map<string, Drawing>;
  endFrame: number;
};

/** What tables say: the project with no drawing drawn yet, and the file of each that is, by its id. */
export type ReadDrawings = { readonly project: Project; readonly fileOf: ReadonlyMap<string, string> };

function readAll(texts: Readonly<Record<DrawingTable, string>>, newId: () => string): ReadDrawings {
  const [film, ...more] = rowsOf('film.csv', texts['film.csv']);
  if (!film || more.length > 0) throw new BadTable('film.csv has one row under its heads.');
  const rate = parseRate(film.cell('frames a second'));
  if (!rate.ok) return film.bad('frames a second', rate.reason);
  const firstFrameNumber = film.whole('first frame', 0);
  const opened = new Map<string, OpenLevel>();
  const shots = new Map<string, { shot: Shot; levels: OpenLevel[] }>();
  for (const row of rowsOf('levels.csv', texts['levels.csv'])) {
    const [folder, code, kind, name] = [row.cell('folder'), row.cell('shot'), row.cell('kind'), row.cell('level')];
    if (folder === '' || opened.has(folder)) row.bad('folder', folder === '' ? 'a level needs a folder.' : `${folder} is there twice.`);
    const frames = row.whole('shot frames', 1);
    // Levels in one folder belong to one shot; where they lie in none, those of one code do.
    const key = folder.includes('/') ? folder.slice(0, folder.lastIndexOf('/')) : code;
    const shot = shots.get(key) ?? {
      shot: { id: newId(), code, name: row.cell('shot name'), note: '', frames, levels: [], notes: [], sounds: [] },
      levels: [],
    };
    shots.set(key, shot);
    if (shot.shot.frames !== frames) row.bad('shot frames', `${code} has ${shot.shot.frames} frames in another row.`);
    // A shot without levels has a row, too.
    if (name === '' && kind === '') continue;
    const found = KINDS.find((each) => each === kind) ?? row.bad('kind', `“${kind}” is not animated, still or guide.`);
    const level: OpenLevel = {
      ...{ level: newLevel(newId(), name, found), drawings: [], exposures: [], byNumber: new Map(), endFrame: firstFrameNumber },
    };
    opened.set(folder, level);
    shot.levels.push(level);
  }
  const levelOf = (row: Row): OpenLevel =>
    opened.get(row.cell('folder')) ?? row.bad('folder', `levels.csv has no level in “${row.cell('folder')}”.`);
  const fileOf = new Map<string, string>();
  for (const row of rowsOf('drawings.csv', texts['drawings.csv'])) {
    const level = levelOf(row);
    const [number, role, file] = [row.cell('drawing'), row.cell('role'), row.cell('file')];
    const [known] =
      ROLES.find(([, word]) => word === role) ?? row.bad('role', `“${role}” is not ${ROLES.map(([, word]) => word).join(', ')}.`);
    if (level.byNumber.has(number)) row.bad('drawing', `${number} is there twice.`);
    const drawing: Drawing = { id: newId(), number, role: known, picture: null };
    level.drawings.push(drawing);
    level.byNumber.set(number, drawing);
    if (file !== '') fileOf.set(drawing.id, file);
  }
  for (const row of rowsOf('exposures.csv', texts['exposures.csv'])) {
    const level = levelOf(row);
    const [first, frames, number] = [row.whole('first frame', 0), row.whole('frames', 1), row.cell('drawing')];
    if (first !== level.endFrame)
      row.bad('first frame', `the exposure before it ends so that it begins on frame ${level.endFrame}, not ${first}.`);
    const drawing =
      number === '.' ? null : (level.byNumber.get(number)?.id ?? row.bad('drawing', `drawings.csv has no drawing ${number} there.`));
    level.exposures.push({ drawing, frames });
    level.endFrame += frames;
  }
  const whole = [...shots.values()].map(
    ({ shot, levels }): Shot => ({
      ...shot,
      levels: levels.map(({ level, drawings, exposures }) => ({ ...level, drawings, exposures: tidyRuns(exposures) })),
    }),
  );
  const size = { width: film.whole('width', 1), height: film.whole('height', 1) };
  const title = film.cell('title');
  return { project: newProject({ id: newId(), title, rate: rate.value, size, firstFrameNumber, shots: whole }), fileOf };
}

/** Reads such tables; ids are new. Refused where one makes no sense, with its row and column. */
export function readDrawingTables(texts: Readonly<Record<DrawingTable, string>>, newId: () => string): Outcome<ReadDrawings> {
  try {
    return done(readAll(texts, newId));
  } catch (error) {
    if (error instanceof BadTable) return refused(error.message);
    throw error;
  }
}
