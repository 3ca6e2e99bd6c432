import { asc, desc, eq, sql } from 'drizzle-orm';
import { drawings, levels, projects, receipts, shots } from '@/server/db/schema';
import type { Database, DatabaseOrTransaction } from '@/server/store/database';

/** Rows for the shelf: every project with its counts and its first drawn pictures of the first shot, lowest level first. */
export async function listProjects(database: Database) {
  const rows = await database.select().from(projects).orderBy(desc(projects.keptAt));
  return Promise.all(
    rows.map(async (row) => {
      const shotRows = await database
        .select({ id: shots.id, frames: shots.frames })
        .from(shots)
        .where(eq(shots.projectId, row.id))
        .orderBy(asc(shots.position));
      const [work] = await database
        .select({ drawings: sql<number>`count(*)::int`, drawn: sql<number>`count(${drawings.picture})::int` })
        .from(drawings)
        .innerJoin(
          levels,
          sql`${levels.projectId} = ${drawings.projectId} and ${levels.id} = ${drawings.levelId} and ${levels.kind} <> 'guide'`,
        )
        .where(eq(drawings.projectId, row.id));
      return { row, shotRows, drawings: work?.drawings ?? 0, drawn: work?.drawn ?? 0 };
    }),
  );
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
