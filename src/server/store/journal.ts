import { and, asc, desc, eq, gt, max } from 'drizzle-orm';
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
const stepOf = (step: Step, version: number): Step => (version === STEP_VERSION ? step : (upgradeStep(step, version) as Step));

/** Steps accepted after a revision, oldest first, in today's form. */
export async function stepsSince(tx: DatabaseOrTransaction, projectId: string, revision: number): Promise<JournalEntry[]> {
  const rows = await tx
    .select({ revision: journal.revision, version: journal.version, step: journal.step, stepId: journal.stepId, madeBy: journal.madeBy })
    .from(journal)
    .where(and(eq(journal.projectId, projectId), gt(journal.revision, revision)))
    .orderBy(asc(journal.revision));
  return rows.map(({ version, step, ...row }) => ({ ...row, step: stepOf(step, version) }));
}

/** What undoes the steps accepted after a revision, the last one's first; null for one that was accepted before undoing was kept. */
export async function inversesSince(tx: DatabaseOrTransaction, projectId: string, revision: number): Promise<(Step | null)[]> {
  const rows = await tx
    .select({ version: journal.version, inverse: journal.inverse })
    .from(journal)
    .where(and(eq(journal.projectId, projectId), gt(journal.revision, revision)))
    .orderBy(desc(journal.revision));
  return rows.map(({ version, inverse }) => inverse && stepOf(inverse, version));
}

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
