import { type KeySettings, keySettingsSchema } from '@/contracts/settings';
import { getDatabase } from '@/server/store/database';
import { loadSetting, saveSetting } from '@/server/store/settings';

const KEYS = 'keys';

/** The keys that were changed; none before the first change. */
export async function keySettings(): Promise<KeySettings> {
  const kept = keySettingsSchema.safeParse(await loadSetting(await getDatabase(), KEYS));
  return kept.success ? kept.data : {};
}

/** Keeps the keys that were changed. */
export async function keepKeySettings(changed: KeySettings): Promise<KeySettings> {
  await saveSetting(await getDatabase(), KEYS, changed);
  return changed;
}
