import type { Sending } from '@/contracts/project';
import type { Project } from '@/core/document/model';
import { rebasedWhole } from '@/core/edit/rebase';
import type { Step } from '@/core/edit/step';
import { applyStep } from '@/core/edit/table';
import type { DatabaseOrTransaction } from '@/server/store/database';
import { type JournalEntry, stepsSince } from '@/server/store/journal';
import { inversesFromTo } from '@/server/store/past';

/*
 * Where many work on one film, somebody has nearly always been faster. A sending that is refused for that comes again, others being
 * faster meanwhile, so that with every person more each waits for all of them more than once. What belongs somewhere still is
 * therefore taken there at once, mapped as the window would map it; what a person must see goes back to the window.
 */

/** From so many steps on the window works out what became of its own. */
const MOST_STEPS_BETWEEN = 200;

/** What came between a sending and the document as it is, and the sending's steps as they are to be made there. */
export type MappedSending = { readonly between: readonly JournalEntry[]; readonly steps: readonly Step[] };

/** A sending that others were faster than, mapped to the document as it is at `revision`; null where the window must see to it. */
export async function mappedSending(
  tx: DatabaseOrTransaction,
  projectId: string,
  document: Project,
  revision: number,
  { mapsOver, baseRevision, steps, stepIds }: Sending,
): Promise<MappedSending | null> {
  if (!mapsOver || revision - baseRevision > MOST_STEPS_BETWEEN) return null;
  const between = await stepsSince(tx, projectId, baseRevision);
  // Its answer was lost: some of it is there already.
  if (between.some(({ stepId }) => stepId !== null && stepIds.includes(stepId))) return null;
  let base = document;
  for (const inverse of await inversesFromTo(tx, projectId, baseRevision, revision)) {
    const before = inverse && applyStep(base, inverse);
    if (!before?.ok) return null;
    base = before.value;
  }
  const mapped = rebasedWhole(
    base,
    between.map(({ step }) => step),
    steps,
  );
  return mapped && { between, steps: mapped };
}
