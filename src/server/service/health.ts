import { getDatabase, hasNoRoom, isAway } from '@/server/store/database';

/** Ends once the database is open and its tables are up to date. */
export async function getDatabaseReady(): Promise<void> {
  await getDatabase();
}

/** Whether something failed because the database can't be reached just now, or because there is no room left where it lies. */
export const databaseIsAway = isAway;
export const diskIsFull = hasNoRoom;
