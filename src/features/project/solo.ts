import { create } from 'zustand';
import type { SoundId } from '@/core/document/sound';
import type { ReelSound } from '@/core/reel/sounds';
import { whenClosed } from '@/features/sync/projectStore';

/** Sounds that are heard alone while listening; none of it is part of the document, and all sounds are handed over. */
export const useSoloStore = create<{ readonly soundIds: ReadonlySet<SoundId> }>(() => ({ soundIds: new Set() }));
whenClosed(() => useSoloStore.setState({ soundIds: new Set() }));

/** Hears a sound alone, beside others that are; or no longer. */
export function toggleSolo(soundId: SoundId): void {
  const soundIds = new Set(useSoloStore.getState().soundIds);
  if (!soundIds.delete(soundId)) soundIds.add(soundId);
  useSoloStore.setState({ soundIds });
}

/** The sounds that are listened to now: those heard alone, or all when none is. */
export function heardNow(sounds: readonly ReelSound[]): readonly ReelSound[] {
  const { soundIds } = useSoloStore.getState();
  const alone = sounds.filter(({ whole }) => soundIds.has(whole.id));
  return alone.length > 0 ? alone : sounds;
}
