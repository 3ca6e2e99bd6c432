export { type Database, type DatabaseOrTransaction, getDatabase } from '@/server/db/client';
export { FolderInUse } from '@/server/db/folderLock';
