import { z } from 'zod';
import type { BackupSettings } from '@/contracts/backups';
import { backupSettingsSchema } from '@/contracts/backups';
import { freedSchema, holdingsSchema, type ShelfChange, storeBriefSchema, storeStateSchema } from '@/contracts/keep';
import { ask, read } from '@/features/sync/api';

/* What the shelf and the page of the store ask of the server. */

const asJson = (method: 'POST' | 'PUT' | 'PATCH' | 'DELETE', body: unknown): RequestInit => ({
  method,
  headers: { 'Content-Type': 'application/json' },
  body: JSON.stringify(body),
});

const changedSchema = z.object({ changed: z.literal(true) });

/** Renames a project, puts it away, or back. */
export const changeOnShelf = async (projectId: string, change: ShelfChange): Promise<void> => {
  await read(await ask(`/api/projects/${projectId}`, asJson('PATCH', change)), changedSchema);
};

/** Makes another project of what one is now. Resolves with its id. */
export const duplicateProject = async (projectId: string): Promise<string> =>
  (await read(await ask(`/api/projects/${projectId}/duplicate`, { method: 'POST' }), z.object({ id: z.string() }))).id;

/** What would go with a project. */
export const fetchHoldings = async (projectId: string) =>
  read(await ask(`/api/projects/${projectId}/holdings`, { cache: 'no-store' }), holdingsSchema);

/** Deletes a project for good, by the title it was seen under. */
export const deleteForGood = async (projectId: string, title: string): Promise<void> => {
  await read(await ask(`/api/projects/${projectId}`, asJson('DELETE', { title })), z.object({ deleted: z.literal(true) }));
};

/** How the store is. */
export const fetchStore = async () => read(await ask('/api/store', { cache: 'no-store' }), storeStateSchema);

/** How full the store is, and when it was backed up last. */
export const fetchStoreBrief = async () => read(await ask('/api/store/brief', { cache: 'no-store' }), storeBriefSchema);

/** What could be freed. */
export const fetchFreeable = async () => read(await ask('/api/store/free', { cache: 'no-store' }), freedSchema);

/** Frees it. */
export const freeStore = async () => read(await ask('/api/store/free', { method: 'POST' }), freedSchema);

/** Makes a backup now. */
export const backUpNow = async () =>
  read(
    await ask('/api/store/backups', { method: 'POST', signal: AbortSignal.timeout(BACKUP_MILLISECONDS) }),
    z.object({ madeAt: z.string() }),
  );

/** A large store on a slow disk takes minutes to copy and to read back. */
const BACKUP_MILLISECONDS = 30 * 60 * 1000;

/** Settles how backups are made. */
export const settleBackups = async (settings: BackupSettings) =>
  read(await ask('/api/store/backups', asJson('PUT', settings)), backupSettingsSchema);
