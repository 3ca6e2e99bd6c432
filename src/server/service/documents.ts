import type { Project } from '@/core/document/model';
import type { DatabaseOrTransaction } from '@/server/store/database';
import { loadDocument } from '@/server/store/loadDocument';

/** Documents as of their revision, so that a step need not read its whole project again. */
const lastDocuments = new Map<string, { project: Project; revision: number }>();
const MOST_REMEMBERED = 8;

/** Keeps a document as of its revision at hand. */
export function remember(projectId: string, document: { project: Project; revision: number }): void {
  lastDocuments.delete(projectId);
  lastDocuments.set(projectId, document);
  const oldest = lastDocuments.keys().next().value;
  if (lastDocuments.size > MOST_REMEMBERED && oldest !== undefined) lastDocuments.delete(oldest);
}

/** The document of a project as of a revision it has now. Throws when the project is gone. */
export async function documentAt(tx: DatabaseOrTransaction, projectId: string, revision: number): Promise<Project> {
  const known = lastDocuments.get(projectId);
  if (known?.revision === revision) return known.project;
  const loaded = await loadDocument(tx, projectId);
  if (!loaded) throw new Error(`Project ${projectId} vanished while it was read.`);
  remember(projectId, loaded);
  return loaded.project;
}

/** Lets go of a document that is gone. */
export const forgetDocument = (projectId: string): void => void lastDocuments.delete(projectId);

/** Lets go of every document at hand: the rows are read again. */
export const forgetDocuments = (): void => lastDocuments.clear();
