import { z } from 'zod';
import { type MomentName, pastChangesSchema, pastSchema } from '@/contracts/past';
import type { Step } from '@/core/edit/step';
import { ask, fetchDocumentAt, read, server } from '@/features/sync/api';

/* What the past of a project is asked for. */

const inverseSchema = z.object({
  inverse: z.custom<Step | null>((value) => value === null || (typeof value === 'object' && value !== null && 'type' in value)),
});

/** A project's sittings and named moments. */
export const fetchPast = async (projectId: string) => read(await ask(`/api/projects/${projectId}/past`, { cache: 'no-store' }), pastSchema);

/** Changes from one revision to another, both inclusive. */
export const fetchPastChanges = async (projectId: string, from: number, to: number) =>
  (await read(await ask(`/api/projects/${projectId}/past?from=${from}&to=${to}`, { cache: 'no-store' }), pastChangesSchema)).changes;

/** What undid a change where it was made; null when that was never kept. */
export const fetchInverse = async (projectId: string, revision: number): Promise<Step | null> =>
  (await read(await ask(`/api/projects/${projectId}/past?undoing=${revision}`, { cache: 'no-store' }), inverseSchema)).inverse;

/** Gives a moment a name, or takes it away. */
export const putMomentName = async (projectId: string, name: MomentName): Promise<void> => {
  const options = { method: 'PUT', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(name) };
  await read(await ask(`/api/projects/${projectId}/past`, options), z.object({ named: z.literal(true) }));
};

/** Makes a project of what another was at a revision. Resolves with its id. */
export const projectOfMoment = async (projectId: string, revision: number): Promise<string> =>
  (await read(await ask(`/api/projects/${projectId}/duplicate?at=${revision}`, { method: 'POST' }), z.object({ id: z.string() }))).id;

/** The document as it was at a revision. Throws Refused when it can't be worked out. */
export async function fetchMoment(projectId: string, revision: number) {
  const found = await fetchDocumentAt(projectId, revision);
  if (!found) throw new Error(`The project as it was at revision ${revision} can’t be worked out any more.`);
  return found.project;
}

/** Steps that were accepted after a revision. */
export async function stepsAfter(projectId: string, revision: number): Promise<readonly Step[]> {
  const since = await server.changesSince(projectId, revision);
  if (since.kind !== 'changes') throw new Error('The server has another past of this project than this window.');
  return since.changes.map(({ step }) => step);
}
