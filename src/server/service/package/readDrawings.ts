import { randomUUID } from 'node:crypto';
import { checkWholeProject } from '@/contracts/packageFile';
import type { Digest, Project, Size } from '@/core/document/model';
import { sameSize, sizeText } from '@/core/document/size';
import { DRAWING_TABLES, type DrawingTable, readDrawingTables } from '@/core/format/drawings/drawingTables';
import { done, type Outcome, refused } from '@/core/outcome';
import { ahead } from '@/server/service/bringIn/inTurns';
import { MOST_PICTURE_BYTES, type OpenZip, PICTURES_AHEAD, sha256Of } from '@/server/service/package/readPackage';
import { readPicture } from '@/server/service/readPicture';

/* Reads a package of drawings alone: tables that say which file is which drawing, and the files, whose digests are worked out here. */

const MOST_TABLE_BYTES = 256 * 1024 * 1024;
const TABLES = Object.keys(DRAWING_TABLES) as DrawingTable[];

/** A project whose pictures are files in a ZIP: the file of each picture by its digest, and what is known of them. */
export type DrawingsProject = {
  readonly project: Project;
  readonly fileOf: ReadonlyMap<Digest, string>;
  readonly known: ReadonlyMap<Digest, { readonly sha256: string; readonly size: Size }>;
};

/** Whether a ZIP is such a package, and none of a whole project. */
export const isDrawings = ({ files }: OpenZip): boolean => files.has('film.csv') && !files.has('project.json');

/** The tables as texts. */
async function tablesOf(zip: OpenZip): Promise<Outcome<Readonly<Record<DrawingTable, string>>>> {
  const texts: Partial<Record<DrawingTable, string>> = {};
  for (const table of TABLES) {
    const bytes = await zip.bytes(table, MOST_TABLE_BYTES);
    if (!bytes.ok) return bytes;
    texts[table] = new TextDecoder().decode(bytes.value);
  }
  return done(texts as Record<DrawingTable, string>);
}

/** Reads all of it, telling how many pictures are done; refused where a table or a picture makes no sense. */
export async function* readDrawings(zip: OpenZip): AsyncGenerator<{ done: number; all: number }, Outcome<DrawingsProject>> {
  const texts = await tablesOf(zip);
  if (!texts.ok) return texts;
  const read = readDrawingTables(texts.value, randomUUID);
  if (!read.ok) return read;
  const { project, fileOf: fileOfDrawing } = read.value;
  const names = [...new Set(fileOfDrawing.values())];
  const digestOf = new Map<string, Digest>();
  const fileOf = new Map<Digest, string>();
  const known = new Map<Digest, { sha256: string; size: Size }>();
  const readOne = async (name: string): Promise<Outcome<{ name: string; digest: Digest; size: Size; sha256: string }>> => {
    const bytes = await zip.bytes(name, MOST_PICTURE_BYTES);
    if (!bytes.ok) return bytes;
    const picture = await readPicture(bytes.value, null, 'packed');
    if (!picture.ok) return refused(`${name} in it: ${picture.reason}`);
    const { digest, size } = picture.value;
    return done({ name, digest, size, sha256: sha256Of(bytes.value) });
  };
  for await (const one of ahead(names, PICTURES_AHEAD, readOne)) {
    if (!one.ok) return one;
    const { name, digest, size, sha256 } = one.value;
    if (!sameSize(size, project.size)) return refused(`${name} in it is ${sizeText(size)}; film.csv says ${sizeText(project.size)}.`);
    digestOf.set(name, digest);
    fileOf.set(digest, name);
    known.set(digest, { sha256, size });
    yield { done: digestOf.size, all: names.length };
  }
  const shots = project.shots.map((shot) => ({
    ...shot,
    levels: shot.levels.map((level) => ({
      ...level,
      drawings: level.drawings.map((drawing) => ({ ...drawing, picture: digestOf.get(fileOfDrawing.get(drawing.id) ?? '') ?? null })),
    })),
  }));
  const whole = checkWholeProject({ ...project, shots });
  return whole.ok ? done({ project: whole.value, fileOf, known }) : whole;
}
