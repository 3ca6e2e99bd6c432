import { type DatabaseOrTransaction, getDatabase } from '@/server/db/client';

export { isAway } from '@/server/db/away';
export { type Database, type DatabaseOrTransaction, getDatabase, isOnServer } from '@/server/db/client';
export { FolderBroken } from '@/server/db/embedded';
export { FolderInUse, NoFileLocks } from '@/server/db/folderLock';

/** Reads as of one moment: what is accepted meanwhile is seen in whole or not at all. */
export const readAtOnce = async <T>(read: (tx: DatabaseOrTransaction) => Promise<T>): Promise<T> =>
  (await getDatabase()).transaction(read, { isolationLevel: 'repeatable read', accessMode: 'read only' });
