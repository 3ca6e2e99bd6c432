import { and, asc, count, eq, gt, lte, max, sql } from 'drizzle-orm';
import { STEP_VERSION, upgradeStep } from '@/core/document/upgrade/upgrade';
import type { MadeBy } from '@/core/edit/madeBy';
import type { Step } from '@/core/edit/step';
import { journal, projects } from '@/server/db/schema';
import type { DatabaseOrTransaction } from '@/server/store/database';

/** A project's revision, its row held until the transaction ends, so that steps come one after another; null when there is no such project. */
export async function lockRevision(tx: DatabaseOrTransaction, projectId: string): Promise<number | null> {
  const [row] = await tx.select({ revision: projects.revision }).from(projects).where(eq(projects.id, projectId)).for('update');
  return row?.revision ?? null;
}

/** A project's revision; null when there is no such project. */
export async function revisionOf(database: DatabaseOrTransaction, projectId: string): Promise<number | null> {
  const [row] = await database.select({ revision: projects.revision }).from(projects).where(eq(projects.id, projectId));
  return row?.revision ?? null;
}

/** When a project was made, to the microsecond, by which two of one id are told apart; null when there is no such project. */
export async function createdAtOf(database: DatabaseOrTransaction, projectId: string): Promise<string | null> {
  const [row] = await database
    .select({ createdAt: sql<string>`${projects.createdAt}::text` })
    .from(projects)
    .where(eq(projects.id, projectId));
  return row?.createdAt ?? null;
}

/** The revision a sending made when it was accepted; null when it never was. */
export async function revisionOfBatch(tx: DatabaseOrTransaction, projectId: string, batchId: string): Promise<number | null> {
  const [row] = await tx
    .select({ revision: max(journal.revision) })
    .from(journal)
    .where(and(eq(journal.projectId, projectId), eq(journal.batchId, batchId)));
  return row?.revision ?? null;
}

/** A step as it was accepted. */
export type JournalEntry = {
  readonly revision: number;
  readonly step: Step;
  readonly stepId: string | null;
  readonly madeBy: MadeBy | null;
};

/** A step as it was stored, in today's form. */
export const stepOf = (step: Step, version: number): Step => (version === STEP_VERSION ? step : (upgradeStep(step, version) as Step));

/** Steps accepted after a revision, oldest first, in today's form. */
export async function stepsSince(tx: DatabaseOrTransaction, projectId: string, revision: number): Promise<JournalEntry[]> {
  const rows = await tx
    .select({ revision: journal.revision, version: journal.version, step: journal.step, stepId: journal.stepId, madeBy: journal.madeBy })
    .from(journal)
    .where(and(eq(journal.projectId, projectId), gt(journal.revision, revision)))
    .orderBy(asc(journal.revision));
  return rows.map(({ version, step, ...row }) => ({ ...row, step: stepOf(step, version) }));
}

/** A change as it is stored: in the form it was made in. */
export type StoredChange = Omit<typeof journal.$inferSelect, 'projectId'>;

/** Changes as they are stored after a revision (exclusive) to another (inclusive), oldest first, `most` at once. */
export async function storedChanges(
  database: DatabaseOrTransaction,
  projectId: string,
  after: number,
  to: number,
  most: number,
): Promise<readonly StoredChange[]> {
  const rows = await database
    .select()
    .from(journal)
    .where(and(eq(journal.projectId, projectId), gt(journal.revision, after), lte(journal.revision, to)))
    .orderBy(asc(journal.revision))
    .limit(most);
  return rows.map(({ projectId: _project, ...change }) => change);
}

/** How many changes a project has, and every digest that is written in them or in what undoes them. */
export async function changesNamed(
  tx: DatabaseOrTransaction,
  projectId: string,
): Promise<{ readonly entries: number; readonly digests: readonly string[] }> {
  const digests = new Set<string>();
  for (const column of [journal.step, journal.inverse]) {
    const found = sql<string>`(regexp_matches(${column}::text, '[0-9a-f]{64}', 'g'))[1]`;
    for (const { digest } of await tx.select({ digest: found }).from(journal).where(eq(journal.projectId, projectId))) digests.add(digest);
  }
  const [counted] = await tx.select({ entries: count() }).from(journal).where(eq(journal.projectId, projectId));
  return { entries: counted?.entries ?? 0, digests: [...digests] };
}

/** Keeps changes that were made elsewhere, up to a project's revision. */
export async function insertChanges(tx: DatabaseOrTransaction, projectId: string, changes: readonly StoredChange[]): Promise<void> {
  if (changes.length > 0) await tx.insert(journal).values(changes.map((change) => ({ projectId, ...change })));
}

/** Has a project count on from a revision. */
export const setRevision = (tx: DatabaseOrTransaction, projectId: string, revision: number): Promise<unknown> =>
  tx.update(projects).set({ revision }).where(eq(projects.id, projectId));

/** A step with what undoes it where it was made. */
export type MadeStep = { readonly step: Step; readonly stepId: string | null; readonly inverse: Step };

/** How many rows are written at once: more have more values than a statement takes. */
const ROWS_AT_ONCE = 1000;

/** Appends steps as the revisions after `revision`. Resolves with the last of them. */
export async function appendSteps(
  tx: DatabaseOrTransaction,
  projectId: string,
  revision: number,
  batch: { readonly batchId: string; readonly madeBy: MadeBy | null },
  steps: readonly MadeStep[],
): Promise<number> {
  const rows = steps.map(({ step, stepId, inverse }, index) => ({
    projectId,
    revision: revision + 1 + index,
    ...batch,
    version: STEP_VERSION,
    step,
    stepId,
    inverse,
  }));
  for (let start = 0; start < rows.length; start += ROWS_AT_ONCE) await tx.insert(journal).values(rows.slice(start, start + ROWS_AT_ONCE));
  const newRevision = revision + steps.length;
  await tx.update(projects).set({ revision: newRevision, keptAt: new Date() }).where(eq(projects.id, projectId));
  return newRevision;
}
