import { eq } from 'drizzle-orm';
import { settings } from '@/server/db/schema';
import type { DatabaseOrTransaction } from '@/server/store/database';

/** A setting by its name, and the form it is written in; null when it was never set. */
export async function loadSetting(database: DatabaseOrTransaction, name: string): Promise<{ version: number; value: object } | null> {
  const [row] = await database.select().from(settings).where(eq(settings.name, name));
  return row ? { version: row.version, value: typeof row.value === 'object' && row.value !== null ? row.value : {} } : null;
}

/** Saves a setting in a form. */
export async function saveSetting(database: DatabaseOrTransaction, name: string, version: number, value: object): Promise<void> {
  await database.insert(settings).values({ name, version, value }).onConflictDoUpdate({ target: settings.name, set: { version, value } });
}
