import type { Project } from '@/core/document/model';
import { applyStep } from '@/core/edit/table';
import type { DatabaseOrTransaction } from '@/server/store/database';
import { createdAtOf } from '@/server/store/journal';
import { loadDocument } from '@/server/store/loadDocument';
import { stepsFromTo } from '@/server/store/past';

type Remembered = { readonly project: Project; readonly revision: number; readonly createdAt: string };

/** Documents as of their revision, so that a step need not read its whole project again. */
const lastDocuments = new Map<string, Remembered>();
const MOST_REMEMBERED = 8;
/** From so many steps on, which others made, the rows are read again. */
const MOST_STEPS_BEHIND = 200;

function keep(projectId: string, document: Remembered): void {
  lastDocuments.delete(projectId);
  lastDocuments.set(projectId, document);
  const oldest = lastDocuments.keys().next().value;
  if (lastDocuments.size > MOST_REMEMBERED && oldest !== undefined) lastDocuments.delete(oldest);
}

/** Keeps the document that a step on one at hand has made. */
export function remember(projectId: string, { project, revision }: { project: Project; revision: number }): void {
  const known = lastDocuments.get(projectId);
  if (known) keep(projectId, { project, revision, createdAt: known.createdAt });
}

/** A document at hand with the steps that another process has accepted since; null when it can't be come to so. */
async function broughtUp(tx: DatabaseOrTransaction, projectId: string, known: Remembered, revision: number): Promise<Project | null> {
  const behind = revision - known.revision;
  if (behind < 0 || behind > MOST_STEPS_BEHIND) return null;
  const steps = await stepsFromTo(tx, projectId, known.revision, revision);
  if (steps.length !== behind) return null;
  let { project } = known;
  for (const step of steps) {
    const next = applyStep(project, step);
    if (!next.ok) return null;
    project = next.value;
  }
  return project;
}

/** The document of a project as of a revision it has now. Throws when the project is gone. */
export async function documentAt(tx: DatabaseOrTransaction, projectId: string, revision: number): Promise<Project> {
  // One of that id may have been deleted and another made since, by whichever process.
  const createdAt = await createdAtOf(tx, projectId);
  const known = lastDocuments.get(projectId);
  if (known && createdAt !== null && known.createdAt === createdAt) {
    if (known.revision === revision) return known.project;
    const project = await broughtUp(tx, projectId, known, revision);
    if (project) {
      keep(projectId, { project, revision, createdAt });
      return project;
    }
  }
  const loaded = await loadDocument(tx, projectId);
  if (!loaded || createdAt === null) throw new Error(`Project ${projectId} vanished while it was read.`);
  keep(projectId, { ...loaded, createdAt });
  return loaded.project;
}

/** Lets go of a document that is gone. */
export const forgetDocument = (projectId: string): void => void lastDocuments.delete(projectId);

/** Lets go of every document at hand: the rows are read again. */
export const forgetDocuments = (): void => lastDocuments.clear();
