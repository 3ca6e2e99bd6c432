import { FolderBroken, FolderInUse, getDatabase, isAway, NoFileLocks } from '@/server/store/database';
import { upgradeDocuments } from '@/server/store/loadDocument';

/** How long requests under way have to end once the server is told to stop. */
const GRACE_MILLISECONDS = 3000;

/**
 * Told to stop, the server waits for every connection to end, and a browser may hold one open for minutes
 * without asking for anything. What is acknowledged is written by then, so after a moment the process ends.
 */
export function endWhenTold(): void {
  for (const signal of ['SIGTERM', 'SIGINT'] as const)
    process.once(signal, () => setTimeout(() => process.exit(0), GRACE_MILLISECONDS).unref());
}

/** Opens the database and brings what is stored in it to today's form; when it can't be opened, says why and ends the process, since nothing could be kept. */
export async function openAtStart(): Promise<void> {
  try {
    const database = await getDatabase();
    for (const project of await upgradeDocuments(database))
      console.error(`A project could not be brought to today’s form and stays as it is: ${project}.`);
  } catch (error) {
    if (error instanceof FolderInUse || error instanceof FolderBroken || error instanceof NoFileLocks) console.error(error.message);
    else if (isAway(error)) console.error('The PostgreSQL server of DATABASE_URL does not answer, so Lime Tick stops: start that first.');
    else console.error('The database could not be opened, so the server stops.', error);
    process.exit(1);
  }
}
