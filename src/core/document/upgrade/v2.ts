import type { StoredValue } from '@/core/document/upgrade/stored';

type Stored = { readonly [key: string]: unknown };
const listOf = (value: unknown): readonly Stored[] => (Array.isArray(value) ? (value as readonly Stored[]) : []);

const soundFromV2 = (sound: Stored): Stored => ({ ...sound, fadeInFrames: 0, fadeOutFrames: 0 });
/** A shot of a document of form 2. */
export const shotFromV2 = (shot: Stored): Stored => ({ ...shot, sounds: listOf(shot.sounds).map(soundFromV2) });
const itemFromV2 = (item: Stored): Stored => ({ ...item, trim: null });

/** On the reel of form 2 lay whole shots only, and no sounds of its own; and no sound had a fade. */
export function documentFromV2(old: StoredValue): StoredValue {
  const { items } = old.reel as { readonly items: unknown };
  return { ...old, shots: listOf(old.shots).map(shotFromV2), reel: { items: listOf(items).map(itemFromV2), sounds: [] } };
}

/** Steps of form 2 spoke of whole shots and of sounds without fades. */
export function stepFromV2(old: StoredValue): StoredValue {
  switch (old.type) {
    case 'addShot':
      return {
        ...old,
        shot: shotFromV2(old.shot as Stored),
        items: listOf(old.items).map((each) => ({ ...each, item: itemFromV2(each.item as Stored) })),
      };
    case 'addSound':
      return { ...old, sound: soundFromV2(old.sound as Stored) };
    case 'setTiming':
      return { ...old, items: [], reelSounds: [] };
    case 'together':
      return { ...old, steps: (old.steps as readonly StoredValue[]).map(stepFromV2) };
    default:
      return old;
  }
}
