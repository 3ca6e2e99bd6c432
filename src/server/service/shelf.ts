import type { ShelfEntry } from '@/contracts/project';
import { DOCUMENT_VERSION, type Project } from '@/core/document/model';
import { framesOfReel, shotsInOrder } from '@/core/reel/reel';
import { layerOf } from '@/core/render/stacks';
import { type Database, getDatabase } from '@/server/store/database';
import { coverLayers, firstShownFrames, listProjects, shelvedContents } from '@/server/store/shelf';

type Row = Awaited<ReturnType<typeof listProjects>>[number];
type Contents = Awaited<ReturnType<typeof shelvedContents>>[number];

/** What a card tells of a project's document. */
type Told = Pick<ShelfEntry, 'shots' | 'frames' | 'drawings' | 'drawn' | 'cover'>;

/** The reel's length and order, of what the shelf reads; a document that could not be brought to today's form has shots alone. */
function reelOf(row: Row, { reel, shotRows }: Contents): { readonly frames: number; readonly shotIds: readonly string[] } {
  const shotIds = shotRows.map(({ id }) => id);
  if (row.version !== DOCUMENT_VERSION) return { frames: shotRows.reduce((sum, { frames }) => sum + frames, 0), shotIds };
  const project = {
    rate: { num: row.rateNum, den: row.rateDen },
    reel,
    // Nothing but their lengths counts on the reel.
    shots: shotRows.map(({ id, frames }) => ({ id, frames, code: '', name: '', note: '', levels: [], notes: [], sounds: [] })),
  } as unknown as Project;
  return { frames: framesOfReel(project), shotIds: shotsInOrder(project).map(({ id }) => id) };
}

/** What the cards of projects tell of their documents, by project: the counts, and the picture of the first shot that has one: of a frame a third into it, where that is blank of the first that shows anything. */
async function readTold(database: Database, rows: readonly Row[]): Promise<ReadonlyMap<string, Told>> {
  const byId = new Map(rows.map((row) => [row.id, row]));
  const contents = await shelvedContents(database, [...byId.keys()]);
  const listed = contents.flatMap((of) => {
    const row = byId.get(of.id);
    return row ? [{ of, reel: reelOf(row, of) }] : [];
  });
  const wanted = listed.flatMap(({ of, reel }) => {
    const shotId = reel.shotIds.find((id) => of.drawnShotIds.has(id));
    const shot = of.shotRows.find(({ id }) => id === shotId);
    return shot ? [{ projectId: of.id, shotId: shot.id, frame: Math.floor(shot.frames / 3), frames: shot.frames }] : [];
  });
  const atThird = await coverLayers(database, wanted);
  // Drawn from its beginning, a shot may show nothing yet a third in.
  const blank = wanted.filter(({ projectId }) => !atThird.has(projectId));
  const framesOf = new Map(blank.map(({ projectId, frames }) => [projectId, frames]));
  const first = (await firstShownFrames(database, blank)).filter(({ projectId, frame }) => frame < (framesOf.get(projectId) ?? 0));
  const covers = new Map([...atThird, ...(await coverLayers(database, first))]);
  return new Map(
    listed.map(({ of: { id, shotRows, drawings, drawn }, reel: { frames } }) => {
      const cover = (covers.get(id) ?? []).map((level) => layerOf(level, level.picture));
      return [id, { shots: shotRows.length, frames, drawings, drawn, cover }];
    }),
  );
}

/*
 * A feature film has tens of thousands of drawings, and counting them takes a quarter of a second of the one thread there is. What
 * a card tells is the same as long as nothing was accepted, so it is kept with the revision it was read at. A step that comes
 * between reading a row and counting makes the row's revision too old, and then all is read again.
 */
type Kept = { readonly readAt: string; readonly told: Told };
const keptFor = new WeakMap<Database, ReadonlyMap<string, Kept>>();

const readAtOf = ({ revision, keptAt, version }: Row): string => `${revision} ${keptAt.getTime()} ${version}`;

/** Every project with its counts and its picture, last kept first. */
export async function shelf(): Promise<ShelfEntry[]> {
  const database = await getDatabase();
  const rows = await listProjects(database);
  const before = keptFor.get(database);
  const isKept = (row: Row) => before?.get(row.id)?.readAt === readAtOf(row);
  const fresh = await readTold(
    database,
    rows.filter((row) => !isKept(row)),
  );
  const kept = new Map<string, Kept>();
  const entries = rows.flatMap((row): ShelfEntry[] => {
    const told = isKept(row) ? before?.get(row.id)?.told : fresh.get(row.id);
    // One that was deleted in between is gone.
    if (!told) return [];
    kept.set(row.id, { readAt: readAtOf(row), told });
    return [
      {
        id: row.id,
        title: row.title,
        rate: { num: row.rateNum, den: row.rateDen },
        size: { width: row.widthPx, height: row.heightPx },
        keptAt: row.keptAt.toISOString(),
        putAwayAt: row.putAwayAt?.toISOString() ?? null,
        ...told,
      },
    ];
  });
  keptFor.set(database, kept);
  return entries;
}
