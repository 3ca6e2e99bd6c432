import type { ShotId } from '@/core/document/model';
import { usePeople } from '@/features/sync/people';

/** Who else has a shot in hand, by name; null when nobody else does. */
export const useOthersHand = (shotId: ShotId | undefined): string | null =>
  usePeople(({ hands, me }) => hands.find((hand) => hand.shotId === shotId && hand.person.id !== me?.id)?.person.name ?? null);
