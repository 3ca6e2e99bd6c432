import { randomUUID } from 'node:crypto';
import type { ProjectHoldings, ShelfChange } from '@/contracts/keep';
import type { MadeBy } from '@/core/edit/madeBy';
import { type Answer, answered, noSuchProject, unprocessable } from '@/server/service/answer';
import { documentAt, forgetDocument } from '@/server/service/documents';
import { documentAtRevision } from '@/server/service/past';
import { acceptSteps } from '@/server/service/steps';
import { getDatabase, readAtOnce } from '@/server/store/database';
import { lockRevision, revisionOf } from '@/server/store/journal';
import { copySources, deleteProject, holdingsOf, setPutAway } from '@/server/store/keep';
import { insertDocument } from '@/server/store/saveDocument';
import { loadSetting, saveSetting } from '@/server/store/settings';

const SHELF: MadeBy = { windowId: 'shelf', words: 'the shelf' };
/** Somebody else’s step may come between reading a revision and making one on it. */
const MOST_TRIES = 10;

/** Gives a project another title, as a step like any other: windows that are open on it follow, and it can be undone. */
async function rename(projectId: string, title: string): Promise<Answer<{ changed: true }>> {
  for (let tries = 0; ; tries++) {
    const revision = await revisionOf(await getDatabase(), projectId);
    if (revision === null) return noSuchProject(projectId);
    const sending = { baseRevision: revision, batchId: randomUUID(), madeBy: SHELF, stepIds: [randomUUID()] };
    const made = await acceptSteps(projectId, { ...sending, steps: [{ type: 'renameProject', title }] }, []);
    if (made.ok) return answered({ changed: true });
    if (made.status !== 409 || tries >= MOST_TRIES) return made;
  }
}

/** Renames a project, puts it away from the shelf, or back. */
export async function changeOnShelf(projectId: string, change: ShelfChange): Promise<Answer<{ changed: true }>> {
  if ('title' in change) return rename(projectId, change.title);
  const isThere = await setPutAway(await getDatabase(), projectId, change.isPutAway ? new Date() : null);
  return isThere ? answered({ changed: true }) : noSuchProject(projectId);
}

const LONGEST_TITLE = 120;
const copyTitle = (title: string, more: string): string => `${title.slice(0, LONGEST_TITLE - more.length)}${more}`;

/** Makes another project of what one is, or was at a revision; its past, its receipts and its named moments stay with the first. */
export async function duplicate(projectId: string, atRevision: number | null = null): Promise<Answer<{ id: string }>> {
  const database = await getDatabase();
  const wanted = atRevision ?? (await revisionOf(database, projectId));
  if (wanted === null) return noSuchProject(projectId);
  const read = await documentAtRevision(projectId, wanted);
  if (!read.ok) return read;
  const { project } = read.value;
  const title = atRevision === null ? copyTitle(project.title, ' (copy)') : copyTitle(project.title, ` (as at ${atRevision})`);
  const id = randomUUID();
  await database.transaction(async (tx) => {
    await insertDocument(tx, { ...project, id, title });
    await copySources(tx, projectId, id);
    const recipes = await loadSetting(tx, `recipes ${projectId}`);
    if (recipes) await saveSetting(tx, `recipes ${id}`, recipes.version, recipes.value);
  });
  return answered({ id });
}

/** What a project holds, and what of it goes with it. */
export const holdings = (projectId: string): Promise<Answer<ProjectHoldings>> =>
  readAtOnce(async (tx) => {
    const revision = await revisionOf(tx, projectId);
    if (revision === null) return noSuchProject(projectId);
    const { title } = await documentAt(tx, projectId, revision);
    return answered({ title, ...(await holdingsOf(tx, projectId)) });
  });

/** Deletes a project for good, if it still has the title it was seen under. */
export async function deleteForGood(projectId: string, title: string): Promise<Answer<{ deleted: true }>> {
  const answer = await (await getDatabase()).transaction(async (tx): Promise<Answer<{ deleted: true }>> => {
    const revision = await lockRevision(tx, projectId);
    if (revision === null) return noSuchProject(projectId);
    const named = await documentAt(tx, projectId, revision);
    if (named.title !== title)
      return unprocessable(`This project is called “${named.title}” by now, not “${title}”: nothing was deleted. Look again.`);
    await deleteProject(tx, projectId);
    return answered({ deleted: true });
  });
  if (answer.ok) forgetDocument(projectId);
  return answer;
}
