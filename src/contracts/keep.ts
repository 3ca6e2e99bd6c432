import { z } from 'zod';
import { backupSettingsSchema } from '@/contracts/backups';
import { idSchema, titleSchema } from '@/contracts/document';

/** A change of a project as the shelf makes it: another title, or put away and back. */
export const shelfChangeSchema = z.union([z.object({ title: titleSchema }).strict(), z.object({ isPutAway: z.boolean() }).strict()]);
export type ShelfChange = z.output<typeof shelfChangeSchema>;

/** Deleting for good says which project is meant by its title, so that none is deleted under another's name. */
export const deletionSchema = z.object({ title: z.string() });

/** What goes when a project is deleted for good. */
export const holdingsSchema = z.object({
  title: z.string(),
  shots: z.number(),
  drawings: z.number(),
  recordings: z.number(),
  receipts: z.number(),
  changes: z.number(),
  moments: z.number(),
  bytes: z.number(),
  ownBytes: z.number(),
});
export type ProjectHoldings = z.output<typeof holdingsSchema>;

/** What a sweep would free, or freed. */
export const freedSchema = z.object({ pictures: z.number(), originals: z.number(), bytes: z.number() });
export type FreedStore = z.output<typeof freedSchema>;

const backupSchema = z.object({ madeAt: z.string(), folder: z.string(), projects: z.number(), sizeBytes: z.number() });

/** How full the store is, and when it was backed up last; null where the database's own server keeps backups, or there is none yet. */
export const storeBriefSchema = z.object({
  sizeBytes: z.number(),
  freeBytes: z.number().nullable(),
  keepsBackups: z.boolean(),
  lastBackupAt: z.string().nullable(),
});
export type StoreBrief = z.output<typeof storeBriefSchema>;

/** How the store is: where it lies, how full it is, what is backed up, and what went wrong. */
export const storeStateSchema = z.object({
  place: z.string(),
  database: z.object({ kind: z.enum(['embedded', 'server']), version: z.string(), sizeBytes: z.number() }),
  disk: z.object({ freeBytes: z.number(), totalBytes: z.number() }).nullable(),
  versions: z.object({ program: z.string(), document: z.number(), node: z.string(), system: z.string() }),
  startedAt: z.string(),
  memoryBytes: z.number(),
  projects: z.array(z.object({ id: idSchema, title: z.string(), bytes: z.number(), watchers: z.number() })),
  /** Null where the database's own server keeps backups. */
  backups: z.object({ settings: backupSettingsSchema, folder: z.string(), isMaking: z.boolean(), made: z.array(backupSchema) }).nullable(),
  encoder: z.string(),
  troubles: z.array(z.object({ id: z.string(), at: z.string(), words: z.string(), reason: z.string().nullable() })),
});
export type StoreState = z.output<typeof storeStateSchema>;
