import { rebase } from '@/core/edit/rebase';
import type { Step } from '@/core/edit/step';
import { stepWords } from '@/core/edit/words';
import type { Outcome } from '@/core/outcome';
import { fetchInverse, fetchMoment, stepsAfter } from '@/features/sync/pastApi';
import { reasonOf } from '@/features/sync/reasonOf';
import { make, undo, untilKept } from '@/features/sync/session';
import { toast } from '@/ui/toast';

/** Makes a step that brings something of the past into today's document, and says so; it can be undone as any other. */
export function takeOut(step: Outcome<Step>): void {
  if (!step.ok) {
    toast.error(step.reason);
    return;
  }
  if (make(step.value)) toast.success(`${stepWords(step.value)}: done.`, { action: { label: 'Undo', onClick: () => void undo() } });
}

/**
 * Undoes one change of the past, whoever made it and whenever: what undid it then, brought to where it belongs by what came
 * since. What can't be brought there is said, and nothing is changed.
 */
export async function undoChange(projectId: string, revision: number): Promise<void> {
  try {
    if (!(await untilKept())) throw new Error('The server does not answer, so not everything is saved yet. Nothing was changed.');
    const inverse = await fetchInverse(projectId, revision);
    if (!inverse) throw new Error('What would undo this change was never kept.');
    const [base, since] = await Promise.all([fetchMoment(projectId, revision), stepsAfter(projectId, revision)]);
    const [outcome] = rebase(base, since, [inverse]).mine;
    if (!outcome || outcome.kind === 'conflict')
      throw new Error(`It can’t be undone by itself any more: ${outcome?.reason ?? 'what came since changed the same.'}`);
    if (outcome.step === null) toast.success('It is undone already: nothing was to be done.');
    else takeOut({ ok: true, value: outcome.step });
  } catch (error) {
    toast.error(reasonOf(error, 'The server does not answer. Nothing was changed.'));
  }
}
