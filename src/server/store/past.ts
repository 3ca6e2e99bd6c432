import { and, asc, desc, eq, gt, gte, lte, sql } from 'drizzle-orm';
import { DOCUMENT_VERSION, type Project } from '@/core/document/model';
import type { StoredValue } from '@/core/document/upgrade/stored';
import { upgradeDocument } from '@/core/document/upgrade/upgrade';
import type { MadeBy } from '@/core/edit/madeBy';
import type { Step } from '@/core/edit/step';
import { SITTING_PAUSE_MINUTES, type Sitting } from '@/core/past/sittings';
import { journal, snapshots } from '@/server/db/schema';
import type { DatabaseOrTransaction } from '@/server/store/database';
import { stepOf } from '@/server/store/journal';

/** A project's changes as sittings, the last one first: a long pause parts two. */
export async function loadSittings(database: DatabaseOrTransaction, projectId: string, most: number): Promise<Sitting[]> {
  const { rows } = (await database.execute(sql`
    with paused as (
      select revision, made_at,
        (made_at - lag(made_at) over (order by revision) > ${`${SITTING_PAUSE_MINUTES} minutes`}::interval)::int as begins
      from journal where project_id = ${projectId}
    ), numbered as (select revision, made_at, sum(coalesce(begins, 0)) over (order by revision) as sitting from paused)
    select min(revision) as "fromRevision", max(revision) as "toRevision", count(*)::int as changes,
      extract(epoch from min(made_at))::float8 * 1000 as "startedAt", extract(epoch from max(made_at))::float8 * 1000 as "endedAt"
    from numbered group by sitting order by 1 desc limit ${most}`)) as unknown as { rows: Sitting[] };
  return rows;
}

/** A change with what undoes it, when it was taken, and by whom it was made. */
export type TakenChange = {
  readonly revision: number;
  readonly step: Step;
  readonly madeBy: MadeBy | null;
  readonly madeAt: Date;
};

/** Changes from one revision to another, both inclusive, oldest first, at most `most`. */
export async function changesBetween(
  database: DatabaseOrTransaction,
  projectId: string,
  from: number,
  to: number,
  most: number,
): Promise<TakenChange[]> {
  const rows = await database
    .select({
      revision: journal.revision,
      version: journal.version,
      step: journal.step,
      madeBy: journal.madeBy,
      madeAt: journal.madeAt,
    })
    .from(journal)
    .where(and(eq(journal.projectId, projectId), gte(journal.revision, from), lte(journal.revision, to)))
    .orderBy(desc(journal.revision))
    .limit(most);
  return rows.reverse().map(({ version, step, ...row }) => ({ ...row, step: stepOf(step, version) }));
}

/** Steps after one revision up to another, oldest first. */
export async function stepsFromTo(database: DatabaseOrTransaction, projectId: string, after: number, to: number): Promise<Step[]> {
  const rows = await database
    .select({ version: journal.version, step: journal.step })
    .from(journal)
    .where(and(eq(journal.projectId, projectId), gt(journal.revision, after), lte(journal.revision, to)))
    .orderBy(asc(journal.revision));
  return rows.map(({ version, step }) => stepOf(step, version));
}

/** What undoes the steps after one revision up to another, the last one's first; null for one that was accepted before undoing was kept. */
export async function inversesFromTo(
  database: DatabaseOrTransaction,
  projectId: string,
  after: number,
  to: number,
): Promise<(Step | null)[]> {
  const rows = await database
    .select({ version: journal.version, inverse: journal.inverse })
    .from(journal)
    .where(and(eq(journal.projectId, projectId), gt(journal.revision, after), lte(journal.revision, to)))
    .orderBy(desc(journal.revision));
  return rows.map(({ version, inverse }) => inverse && stepOf(inverse, version));
}

/** The revisions of which the whole document is kept, nearest to one from below and from above. */
export async function snapshotsAround(
  database: DatabaseOrTransaction,
  projectId: string,
  revision: number,
): Promise<{ readonly below: number | null; readonly above: number | null }> {
  const nearest = async (condition: ReturnType<typeof lte>, order: ReturnType<typeof desc>) => {
    const [row] = await database
      .select({ revision: snapshots.revision })
      .from(snapshots)
      .where(and(eq(snapshots.projectId, projectId), condition))
      .orderBy(order)
      .limit(1);
    return row?.revision ?? null;
  };
  return {
    below: await nearest(lte(snapshots.revision, revision), desc(snapshots.revision)),
    above: await nearest(gte(snapshots.revision, revision), asc(snapshots.revision)),
  };
}

/** The whole document that is kept of a revision, in today's form; null when there is none. */
export async function loadSnapshot(database: DatabaseOrTransaction, projectId: string, revision: number): Promise<Project | null> {
  const [row] = await database
    .select({ version: snapshots.version, document: snapshots.document })
    .from(snapshots)
    .where(and(eq(snapshots.projectId, projectId), eq(snapshots.revision, revision)));
  return row ? (upgradeDocument(row.document as StoredValue, row.version) as unknown as Project) : null;
}

/** Keeps the whole document of a revision. */
export async function insertSnapshot(
  database: DatabaseOrTransaction,
  projectId: string,
  revision: number,
  project: Project,
): Promise<void> {
  await database.insert(snapshots).values({ projectId, revision, version: DOCUMENT_VERSION, document: project }).onConflictDoNothing();
}

/** The last revision of which the whole document is kept; 0 when there is none. */
export async function lastSnapshot(database: DatabaseOrTransaction, projectId: string): Promise<number> {
  const [row] = await database
    .select({ revision: snapshots.revision })
    .from(snapshots)
    .where(eq(snapshots.projectId, projectId))
    .orderBy(desc(snapshots.revision))
    .limit(1);
  return row?.revision ?? 0;
}
