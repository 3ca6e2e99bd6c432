import type { HandChange } from '@/contracts/people';
import { type Answer, answered, noSuchProject } from '@/server/service/answer';
import { tell } from '@/server/service/notices';
import { getDatabase } from '@/server/store/database';
import { revisionOf } from '@/server/store/journal';
import { giveBack, loadHands, takeInHand } from '@/server/store/people';

/** Takes a shot in hand or gives it back. One that another has is taken over only when that is said. */
export async function changeHand(projectId: string, { shotId, person, act }: HandChange): Promise<Answer<{ changed: true }>> {
  return (await getDatabase()).transaction(async (tx): Promise<Answer<{ changed: true }>> => {
    if ((await revisionOf(tx, projectId)) === null) return noSuchProject(projectId);
    if (act === 'give-back') await giveBack(tx, projectId, shotId, person.id);
    else {
      const row = { shotId, personId: person.id, name: person.name, colour: person.colour };
      if (!(await takeInHand(tx, projectId, row, act === 'take-over'))) {
        const holder = (await loadHands(tx, projectId)).find((hand) => hand.shotId === shotId);
        return {
          ok: false,
          status: 409,
          error: `${holder?.name ?? 'Somebody else'} has this shot in hand since ${holder?.takenAt.toISOString().slice(11, 16) ?? 'a while'} UTC.`,
        };
      }
    }
    await tell(tx, { kind: 'hands', projectId });
    return answered({ changed: true });
  });
}
