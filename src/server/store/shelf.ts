import { and, asc, desc, eq, getTableColumns, inArray, isNotNull, ne, sql } from 'drizzle-orm';
import type { BlendMode } from '@/core/document/blendModes';
import type { Digest } from '@/core/document/model';
import { drawings, exposures, levels, projects, receipts, shots } from '@/server/db/schema';
import type { Database, DatabaseOrTransaction } from '@/server/store/database';

/** Values under the project they are of. */
function byProject<Row extends { readonly projectId: string }>(rows: readonly Row[]): ReadonlyMap<string, readonly Row[]> {
  const groups = new Map<string, Row[]>();
  for (const row of rows) {
    const group = groups.get(row.projectId);
    if (group) group.push(row);
    else groups.set(row.projectId, [row]);
  }
  return groups;
}

/** The shelf's row of every project, last kept first. A document's contents change only together with its `revision`, `keptAt` or `version`. */
export async function listProjects(database: Database) {
  const { id, title, version, revision, rateNum, rateDen, widthPx, heightPx, keptAt, putAwayAt } = getTableColumns(projects);
  const shown = { id, title, version, revision, rateNum, rateDen, widthPx, heightPx, keptAt, putAwayAt };
  return await database.select(shown).from(projects).orderBy(desc(projects.keptAt));
}

/**
 * What the shelf reads of the documents of projects: the reel, the shots, the counts and which shots have anything drawn. So many
 * statements however many projects there are, and none of them reads a document.
 */
export async function shelvedContents(database: Database, projectIds: readonly string[]) {
  if (projectIds.length === 0) return [];
  const ids = [...projectIds];
  const reels = await database.select({ id: projects.id, reel: projects.reel }).from(projects).where(inArray(projects.id, ids));
  const shotRows = byProject(
    await database
      .select({ projectId: shots.projectId, id: shots.id, frames: shots.frames })
      .from(shots)
      .where(inArray(shots.projectId, ids))
      .orderBy(asc(shots.position)),
  );
  // Counted by level first: there are many drawings, and few levels to be looked up for them.
  const counted = database
    .select({
      projectId: drawings.projectId,
      levelId: drawings.levelId,
      drawings: sql<number>`count(*)`.as('all_drawings'),
      drawn: sql<number>`count(${drawings.picture})`.as('drawn_drawings'),
    })
    .from(drawings)
    .where(inArray(drawings.projectId, ids))
    .groupBy(drawings.projectId, drawings.levelId)
    .as('counted');
  const isWork = ne(levels.kind, 'guide');
  const work = byProject(
    await database
      .select({
        projectId: levels.projectId,
        shotId: levels.shotId,
        drawings: sql<number>`coalesce(sum(${counted.drawings}) filter (where ${isWork}), 0)::int`,
        drawn: sql<number>`coalesce(sum(${counted.drawn}) filter (where ${isWork}), 0)::int`,
        pictures: sql<number>`sum(${counted.drawn})::int`,
      })
      .from(counted)
      .innerJoin(levels, and(eq(levels.projectId, counted.projectId), eq(levels.id, counted.levelId)))
      .groupBy(levels.projectId, levels.shotId),
  );
  return reels.map(({ id, reel }) => {
    const ofShots = work.get(id) ?? [];
    return {
      id,
      reel,
      shotRows: shotRows.get(id) ?? [],
      drawings: ofShots.reduce((sum, shot) => sum + shot.drawings, 0),
      drawn: ofShots.reduce((sum, shot) => sum + shot.drawn, 0),
      drawnShotIds: new Set(ofShots.filter(({ pictures }) => pictures > 0).map(({ shotId }) => shotId)),
    };
  });
}

/** A frame of a shot, from 0, of which a picture stands for its project. */
export type CoverFrame = { readonly projectId: string; readonly shotId: string; readonly frame: number };

/** What levels that are seen show on such frames, the lowest first; a level that shows nothing there is left out. */
export async function coverLayers(
  database: Database,
  frames: readonly CoverFrame[],
): Promise<ReadonlyMap<string, readonly { readonly picture: Digest; readonly opacityPercent: number; readonly blend: BlendMode }[]>> {
  if (frames.length === 0) return new Map();
  const wanted = sql`jsonb_to_recordset(${JSON.stringify(frames)}::jsonb) as wanted("projectId" text, "shotId" text, "frame" int)`;
  // The exposure that covers a frame is the first whose end lies past it; its drawing is looked up once it is known.
  const shown = sql<string | null>`case when ${levels.kind} = 'still'
    then (select picture from drawings d where d.project_id = ${levels.projectId} and d.level_id = ${levels.id} order by d.position limit 1)
    else (select d.picture from drawings d where d.project_id = ${levels.projectId} and d.id = (
      select run.drawing_id from (select e.drawing_id, e.position, sum(e.frames) over (order by e.position) as until from exposures e
        where e.project_id = ${levels.projectId} and e.level_id = ${levels.id}) run
      where run.until > wanted."frame" order by run.position limit 1)) end`;
  const rows = await database
    .select({ projectId: levels.projectId, opacityPercent: levels.opacityPercent, blend: levels.blend, picture: shown })
    .from(levels)
    .innerJoin(wanted, sql`wanted."projectId" = ${levels.projectId} and wanted."shotId" = ${levels.shotId}`)
    .where(and(eq(levels.visible, true), ne(levels.kind, 'guide')))
    .orderBy(asc(levels.position));
  return byProject(rows.flatMap(({ picture, ...row }) => (picture === null ? [] : [{ ...row, picture }])));
}

/** The first frame of such shots on which a level that is seen shows a picture; none of a shot that shows none. */
export async function firstShownFrames(
  database: Database,
  wantedShots: readonly Omit<CoverFrame, 'frame'>[],
): Promise<readonly CoverFrame[]> {
  if (wantedShots.length === 0) return [];
  const wanted = sql`jsonb_to_recordset(${JSON.stringify(wantedShots)}::jsonb) as wanted("projectId" text, "shotId" text)`;
  const placed = database
    .select({
      projectId: exposures.projectId,
      shotId: levels.shotId,
      drawingId: exposures.drawingId,
      startFrame:
        sql<number>`(sum(${exposures.frames}) over (partition by ${levels.projectId}, ${levels.id} order by ${exposures.position}) - ${exposures.frames})`.as(
          'start_frame',
        ),
    })
    .from(exposures)
    .innerJoin(levels, and(eq(levels.projectId, exposures.projectId), eq(levels.id, exposures.levelId)))
    .innerJoin(wanted, sql`wanted."projectId" = ${levels.projectId} and wanted."shotId" = ${levels.shotId}`)
    .where(and(eq(levels.visible, true), eq(levels.kind, 'animated')))
    .as('placed');
  return await database
    .select({ projectId: placed.projectId, shotId: placed.shotId, frame: sql<number>`min(${placed.startFrame})::int` })
    .from(placed)
    .innerJoin(drawings, and(eq(drawings.projectId, placed.projectId), eq(drawings.id, placed.drawingId)))
    .where(isNotNull(drawings.picture))
    .groupBy(placed.projectId, placed.shotId);
}

/** When a project was last kept; null when there is no such project. */
export async function keptAtOf(database: DatabaseOrTransaction, projectId: string): Promise<Date | null> {
  const [row] = await database.select({ keptAt: projects.keptAt }).from(projects).where(eq(projects.id, projectId));
  return row?.keptAt ?? null;
}

/** The form a project's document is written in; 1 when there is no such project. */
export async function documentVersionOf(database: DatabaseOrTransaction, projectId: string): Promise<number> {
  const [row] = await database.select({ version: projects.version }).from(projects).where(eq(projects.id, projectId));
  return row?.version ?? 1;
}

/** Every project's id and title, by title. */
export const projectTitles = (database: Database): Promise<{ id: string; title: string }[]> =>
  database.select({ id: projects.id, title: projects.title }).from(projects).orderBy(asc(projects.title));

/** Whether a project of that id exists. */
export async function projectExists(database: Database, projectId: string): Promise<boolean> {
  return (await keptAtOf(database, projectId)) !== null;
}

/** Receipts of a project, newest first. */
export const loadReceipts = (database: DatabaseOrTransaction, projectId: string) =>
  database.select().from(receipts).where(eq(receipts.projectId, projectId)).orderBy(desc(receipts.madeAt));

/** Keeps a receipt with its project, unless there is one of that id; when and with which project that one is kept. */
export async function insertReceipt(
  database: Database,
  id: string,
  projectId: string,
  version: number,
  body: unknown,
  madeAt = new Date(),
): Promise<{ madeAt: Date; projectId: string } | null> {
  await database.insert(receipts).values({ id, projectId, version, body, madeAt }).onConflictDoNothing();
  const [row] = await database.select({ madeAt: receipts.madeAt, projectId: receipts.projectId }).from(receipts).where(eq(receipts.id, id));
  return row ?? null;
}
