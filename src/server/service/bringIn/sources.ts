import type { LevelSource } from '@/contracts/bringIn';
import { type Answer, answered, noSuchProject, unprocessable } from '@/server/service/answer';
import { getDatabase } from '@/server/store/database';
import { insertSources, loadOriginal, loadSources, originalsAmong } from '@/server/store/originals';
import { projectExists } from '@/server/store/shelf';

/** Notes which files a level's pictures came from; refuses files that were never taken in. */
export async function noteSources(projectId: string, rows: readonly LevelSource[]): Promise<Answer<{ noted: number }>> {
  const database = await getDatabase();
  if (!(await projectExists(database, projectId))) return noSuchProject(projectId);
  const there = await originalsAmong(
    database,
    rows.map((row) => row.original),
  );
  const missing = rows.find((row) => !there.has(row.original));
  if (missing) return unprocessable(`The file ${missing.fileName} was never brought in: bring it in first.`);
  await insertSources(database, projectId, rows);
  return answered({ noted: rows.length });
}

/** Files a project's pictures came from. */
export async function sourcesOf(projectId: string): Promise<Answer<{ sources: readonly LevelSource[] }>> {
  const database = await getDatabase();
  if (!(await projectExists(database, projectId))) return noSuchProject(projectId);
  return answered({ sources: await loadSources(database, projectId) });
}

/** A file as it was brought in, part by part; null when there is none. */
export const originalFile = async (digest: string) => loadOriginal(await getDatabase(), digest);
