import type { StoredValue } from '@/core/document/upgrade/stored';

/**
 * Documents of form 1 had no reel: the film was the list of shots. Each becomes an item that shows the whole of it and has
 * its id, in the order of the list. What is now `firstFrameNumber` was called `startFrame`.
 */
export function documentFromV1({ startFrame, ...old }: StoredValue): StoredValue {
  const shots = Array.isArray(old.shots) ? (old.shots as readonly { readonly id: string }[]) : [];
  return { ...old, firstFrameNumber: startFrame, reel: { items: shots.map(({ id }) => ({ id, kind: 'shot', shotId: id })) } };
}

/** Steps of form 1 moved shots in their list, which was the reel; and an added shot lay on the reel where it stood in the list. */
export function stepFromV1(old: StoredValue): StoredValue {
  switch (old.type) {
    case 'addShot': {
      const { id } = old.shot as { readonly id: string };
      return { ...old, items: [{ item: { id, kind: 'shot', shotId: id }, index: old.index }] };
    }
    case 'moveShot':
      return { type: 'moveItem', itemId: old.shotId, index: old.index };
    case 'setFormat': {
      const { startFrame, ...rest } = old;
      return startFrame === undefined ? rest : { ...rest, firstFrameNumber: startFrame };
    }
    case 'together':
      return { ...old, steps: (old.steps as readonly StoredValue[]).map(stepFromV1) };
    default:
      return old;
  }
}
