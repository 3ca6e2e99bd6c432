import { getDatabase } from '@/server/db/client';
import type { DatabaseOrTransaction } from '@/server/db/database';

export { isAway } from '@/server/db/away';
export { closeDatabase, getDatabase, getOpenDatabase, isOnServer, placeOfData, TablesForbidden } from '@/server/db/client';
export { NoCopy } from '@/server/db/copies';
export type { Database, DatabaseOrTransaction } from '@/server/db/database';
export { FolderBroken } from '@/server/db/embedded';
export { FolderInUse, FolderUnwritable, NoFileLocks } from '@/server/db/folderLock';
export { hasNoRoom } from '@/server/db/noRoom';
export { NotLetIn } from '@/server/db/notLetIn';

/** Reads as of one moment: what is accepted meanwhile is seen in whole or not at all. */
export const readAtOnce = async <T>(read: (tx: DatabaseOrTransaction) => Promise<T>): Promise<T> =>
  (await getDatabase()).transaction(read, { isolationLevel: 'repeatable read', accessMode: 'read only' });
