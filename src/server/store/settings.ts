import { eq } from 'drizzle-orm';
import { settings } from '@/server/db/schema';
import type { DatabaseOrTransaction } from '@/server/store/database';

/** A setting by its name; null when it was never settled. */
export async function loadSetting(database: DatabaseOrTransaction, name: string): Promise<unknown> {
  const [row] = await database.select({ value: settings.value }).from(settings).where(eq(settings.name, name));
  return row?.value ?? null;
}

/** Keeps a setting. */
export async function saveSetting(database: DatabaseOrTransaction, name: string, value: unknown): Promise<void> {
  await database.insert(settings).values({ name, value }).onConflictDoUpdate({ target: settings.name, set: { value } });
}
