import { z } from 'zod';
import { readerOf } from '@/contracts/versions';

/** How backups are made by themselves: every so many hours, so many kept, in a folder of one's own or beside the database (null). */
export const backupSettingsSchema = z.object({
  version: z.literal(1).default(1),
  isOn: z.boolean(),
  everyHours: z.number().int().min(1, 'A backup is made every hour at most.').max(168, 'A backup is made once a week at least.'),
  kept: z.number().int().min(1, 'At least one backup is kept.').max(100, 'At most 100 backups are kept.'),
  folder: z.string().min(1).max(1024, 'The folder’s name is too long.').nullable(),
});
export type BackupSettings = z.output<typeof backupSettingsSchema>;

/** Reads settings as they were written by any version. */
export const backupSettingsReader = readerOf('How backups are made', backupSettingsSchema);
