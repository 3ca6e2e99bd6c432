import { type KeySettings, storedKeysReader } from '@/contracts/settings';
import { getDatabase } from '@/server/store/database';
import { loadSetting, saveSetting } from '@/server/store/settings';

const KEYS = 'keys';

/** The keys that were changed; none before the first change. */
export async function keySettings(): Promise<KeySettings> {
  const stored = await loadSetting(await getDatabase(), KEYS);
  const kept = stored && storedKeysReader.read({ ...stored.value, version: stored.version });
  return kept?.ok ? kept.value.keys : {};
}

/** Keeps the keys that were changed. */
export async function keepKeySettings(changed: KeySettings): Promise<KeySettings> {
  await saveSetting(await getDatabase(), KEYS, storedKeysReader.version, { keys: changed });
  return changed;
}
