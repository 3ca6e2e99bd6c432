import { and, asc, eq, gt, max } from 'drizzle-orm';
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

/** Steps accepted after a revision, oldest first. */
export async function stepsSince(tx: DatabaseOrTransaction, projectId: string, revision: number): Promise<Step[]> {
  const rows = await tx
    .select({ step: journal.step })
    .from(journal)
    .where(and(eq(journal.projectId, projectId), gt(journal.revision, revision)))
    .orderBy(asc(journal.revision));
  return rows.map((row) => row.step);
}

/** Appends steps as the revisions after `revision`; the answer is the last one. */
export async function appendSteps(
  tx: DatabaseOrTransaction,
  projectId: string,
  revision: number,
  batchId: string,
  steps: readonly Step[],
): Promise<number> {
  const rows = steps.map((step, index) => ({ projectId, revision: revision + 1 + index, batchId, step }));
  await tx.insert(journal).values(rows);
  const newRevision = revision + steps.length;
  await tx.update(projects).set({ revision: newRevision, keptAt: new Date() }).where(eq(projects.id, projectId));
  return newRevision;
}
