import { FolderInUse, getDatabase } from '@/server/store/database';

/** Opens the database; when it can't be opened, says why and ends the process, since nothing could be kept. */
export async function openAtStart(): Promise<void> {
  try {
    await getDatabase();
  } catch (error) {
    if (error instanceof FolderInUse) console.error(error.message);
    else console.error('The database could not be opened, so the server stops.', error);
    process.exit(1);
  }
}
