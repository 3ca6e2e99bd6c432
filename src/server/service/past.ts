import { MOST_PAST_CHANGES, type MomentName, type Past } from '@/contracts/past';
import type { Project } from '@/core/document/model';
import type { Step } from '@/core/edit/step';
import { applyStep } from '@/core/edit/table';
import { stepWords } from '@/core/edit/words';
import type { PastChange } from '@/core/past/sittings';
import { log } from '@/server/log';
import { type Answer, answered, noSuchProject, notFound } from '@/server/service/answer';
import { documentAt } from '@/server/service/documents';
import { type DatabaseOrTransaction, getDatabase, readAtOnce } from '@/server/store/database';
import { revisionOf } from '@/server/store/journal';
import { namedMoments, nameMoment } from '@/server/store/keep';
import {
  changesBetween,
  insertSnapshot,
  inversesFromTo,
  lastSnapshot,
  loadSittings,
  loadSnapshot,
  snapshotsAround,
  stepsFromTo,
} from '@/server/store/past';

const MOST_SITTINGS = 1000;

/** A project's past: its sittings, and the moments that have a name. */
export const past = (projectId: string): Promise<Answer<Past>> =>
  readAtOnce(async (tx) => {
    const revision = await revisionOf(tx, projectId);
    if (revision === null) return noSuchProject(projectId);
    const named = await namedMoments(tx, projectId);
    return answered({
      revision,
      sittings: await loadSittings(tx, projectId, MOST_SITTINGS),
      named: named.map(({ revision: at, name }) => ({ revision: at, name })),
    });
  });

/** The shot a step is on; null for one on several, or on none. */
function shotOf(step: Step): string | null {
  if (step.type === 'together') {
    const shots = new Set(step.steps.map(shotOf));
    return shots.size === 1 ? ([...shots][0] ?? null) : null;
  }
  return 'shotId' in step ? step.shotId : null;
}

/** Changes from one revision to another, both inclusive: the last `MOST_PAST_CHANGES` of them. */
export async function pastChanges(projectId: string, from: number, to: number): Promise<Answer<{ changes: readonly PastChange[] }>> {
  const database = await getDatabase();
  if ((await revisionOf(database, projectId)) === null) return noSuchProject(projectId);
  const changes = await changesBetween(database, projectId, from, to, MOST_PAST_CHANGES);
  return answered({
    changes: changes.map(({ revision, step, madeBy, madeAt }) => ({
      revision,
      at: madeAt.getTime(),
      windowId: madeBy?.windowId ?? null,
      who: madeBy?.words ?? '',
      words: stepWords(step),
      shotId: shotOf(step),
    })),
  });
}

/** What undid a change where it was made; null when that was never kept. */
export async function inverseOf(projectId: string, revision: number): Promise<Answer<{ inverse: Step | null }>> {
  const [inverse] = await inversesFromTo(await getDatabase(), projectId, revision - 1, revision);
  return inverse === undefined ? notFound('There is no such change here.') : answered({ inverse });
}

/** Gives a moment a name, or takes it away. */
export async function nameOfMoment(projectId: string, { revision, name }: MomentName): Promise<Answer<{ named: true }>> {
  const database = await getDatabase();
  const last = await revisionOf(database, projectId);
  if (last === null) return noSuchProject(projectId);
  if (revision > last) return notFound(`There is no revision ${revision} yet.`);
  await nameMoment(database, projectId, revision, name);
  return answered({ named: true });
}

/*
 * The document of a revision is worked out from the nearest one that is known: today's, or one that was kept whole. Earlier ones
 * are come to by what undoes each step, later ones by the steps. One is kept whole every so many steps, more rarely the larger
 * it is, so that what is kept doesn't outgrow what it is kept of.
 */

/** How many steps lie between two documents that are kept whole, at least. */
const KEPT_EVERY = 500;
/** Steps that are as large as so many drawings and exposures. */
const PARTS_A_STEP = 4;

/** How many steps may come before another document of this size is kept whole. */
function stepsBetween(project: Project): number {
  let parts = 0;
  for (const { levels } of project.shots) for (const { drawings, exposures } of levels) parts += drawings.length + exposures.length;
  return Math.max(KEPT_EVERY, Math.ceil(parts / PARTS_A_STEP));
}

/** Keeps the document that `steps` more made whole, when enough have come since the last that was. A failure is told, and costs time alone. */
export async function keepSnapshot(projectId: string, revision: number, steps: number, project: Project): Promise<void> {
  try {
    // Looked for rarely: a step waits for nothing of this.
    if (Math.floor(revision / KEPT_EVERY) === Math.floor((revision - steps) / KEPT_EVERY)) return;
    const database = await getDatabase();
    if (revision - (await lastSnapshot(database, projectId)) < stepsBetween(project)) return;
    await insertSnapshot(database, projectId, revision, project);
  } catch (error) {
    log.warn({ err: error, projectId }, 'a document of the past could not be kept whole');
  }
}

type Known = { readonly revision: number; readonly project: Project };

/** The known document that is the fewest steps away. */
async function nearestKnown(tx: DatabaseOrTransaction, projectId: string, last: number, wanted: number): Promise<Known> {
  const { below, above } = await snapshotsAround(tx, projectId, wanted);
  const upper = above ?? last;
  const isBelow = below !== null && wanted - below < upper - wanted;
  const from = isBelow ? below : upper;
  const kept = from === last ? null : await loadSnapshot(tx, projectId, from);
  return kept ? { revision: from, project: kept } : { revision: last, project: await documentAt(tx, projectId, last) };
}

/** A document some steps on, or back; null when it can't be worked out. `passed` is told of those on the way. */
function walked(from: Known, steps: readonly (Step | null)[], by: 1 | -1, passed: (known: Known) => void): Project | null {
  let { project, revision } = from;
  for (const step of steps) {
    const next = step && applyStep(project, step);
    if (!next?.ok) return null;
    project = next.value;
    revision += by;
    passed({ revision, project });
  }
  return project;
}

const tooEarly = (wanted: number): Answer<never> => ({
  ok: false,
  status: 410,
  error: `The project as it was at revision ${wanted} can’t be worked out any more.`,
});

/**
 * The document as it was at a revision. 410 when steps of the first form came after, of which no undoing was kept; 409 for a
 * revision that hasn't come yet.
 */
export async function documentAtRevision(projectId: string, wanted: number): Promise<Answer<{ project: Project; revision: number }>> {
  const passed: Known[] = [];
  const answer = await readAtOnce(async (tx): Promise<Answer<{ project: Project; revision: number }>> => {
    const last = await revisionOf(tx, projectId);
    if (last === null) return noSuchProject(projectId);
    if (wanted > last)
      return { ok: false, status: 409, error: `The project is only at revision ${last} here.`, details: { kind: 'ahead', revision: last } };
    const from = await nearestKnown(tx, projectId, last, wanted);
    const keep = (known: Known) => {
      if (known.revision % KEPT_EVERY === 0) passed.push(known);
    };
    const project =
      from.revision > wanted
        ? walked(from, await inversesFromTo(tx, projectId, wanted, from.revision), -1, keep)
        : walked(from, await stepsFromTo(tx, projectId, from.revision, wanted), 1, keep);
    return project ? answered({ project, revision: wanted }) : tooEarly(wanted);
  });
  // Whoever opens one moment of a long past opens others: those on the way are kept, so that they are near.
  const [first] = passed;
  if (first) await keepPassed(projectId, passed, stepsBetween(first.project));
  return answer;
}

async function keepPassed(projectId: string, passed: readonly Known[], every: number): Promise<void> {
  const database = await getDatabase();
  let last: number | null = null;
  for (const { revision, project } of passed) {
    if (last !== null && Math.abs(revision - last) < every) continue;
    last = revision;
    await insertSnapshot(database, projectId, revision, project).catch((error: unknown) =>
      log.warn({ err: error, projectId }, 'a document of the past could not be kept whole'),
    );
  }
}
