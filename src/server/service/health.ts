import { getDatabase } from '@/server/store/database';

/** Ends once the database is open and its tables are up to date. */
export async function getDatabaseReady(): Promise<void> {
  await getDatabase();
}
