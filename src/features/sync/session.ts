import { toast } from 'sonner';
import { lockedLevelOf } from '@/core/edit/locked';
import type { Step } from '@/core/edit/step';
import { applyStep, invertStep } from '@/core/edit/table';
import { stepWords } from '@/core/edit/words';
import type { Project } from '@/core/sheet/document';
import { fetchProject, postSteps, Refused } from '@/features/sync/api';
import { loadHistory, rememberUndo, undoEntry } from '@/features/sync/history';
import { type MadeWith, Session } from '@/features/sync/keeping';
import { dropWaiting, loadWaiting, markSending, type NewPicture, picturesOfWaiting, putPicture } from '@/features/sync/outbox';
import { closeProjectStore, useProjectStore } from '@/features/sync/projectStore';
import type { WaitingStep } from '@/workers/client';

const MOST_UNDO = 1000;

let session: Session | null = null;

/** Sends what an earlier visit had already on its way, so that what was accepted is not made twice. */
async function settleInterrupted(projectId: string): Promise<WaitingStep[]> {
  const waiting = await loadWaiting(projectId);
  const first = waiting[0]?.sending;
  if (!first) return waiting;
  const batch = waiting.filter((entry) => entry.sending?.batchId === first.batchId);
  const answer = await postSteps(projectId, { ...first, steps: batch.map((entry) => entry.step) }, await picturesOfWaiting(batch));
  if (answer.kind === 'accepted') await dropWaiting(batch);
  else if (answer.kind === 'refused') {
    toast.error(`Not kept: ${answer.sentence}`);
    await dropWaiting(batch);
  } else await markSending(batch, null);
  return loadWaiting(projectId);
}

/** Opens a project, with whatever an earlier visit left unsent on top of it. */
export async function openSession(projectId: string): Promise<void> {
  closeSession();
  try {
    const waiting = await settleInterrupted(projectId);
    const opened = await fetchProject(projectId);
    const history = await loadHistory(projectId);
    session = new Session(opened, waiting);
    useProjectStore.setState({
      ...history,
      receipts: opened.receipts,
      keptAt: new Date(opened.keptAt),
      kept: waiting.length > 0 ? 'sending' : 'kept',
    });
    session.rebuild();
    session.send();
  } catch (error) {
    const failure =
      error instanceof Refused
        ? error.message
        : 'The server doesn’t answer. Start Lime Tick again and reload this page; what waits here is safe in this browser.';
    useProjectStore.setState({ failure });
  }
}

/** Closes the open project; what still waits stays in the browser's own store. */
export function closeSession(): void {
  session?.close();
  session = null;
  closeProjectStore();
}

/** Makes a step that undo can't take back by itself: for undo and redo alone. */
const makeQuietly = (step: Step, madeWith: MadeWith = {}): boolean => session?.make(step, madeWith) ?? false;

/** Whether a locked level keeps a step from being made, which is told. */
function isLocked(project: Project, step: Step): boolean {
  const locked = lockedLevelOf(project, step);
  if (locked) toast.message(`${locked.name} is locked: unlock it to change what is on it.`, { id: 'locked' });
  return locked !== undefined;
}

/** Makes a step: applied at once, undoable, kept as soon as the server answers. False when it was refused. */
export function make(step: Step, madeWith: MadeWith = {}): boolean {
  const { project } = useProjectStore.getState();
  if (project && isLocked(project, step)) return false;
  if (!project || !applyStep(project, step).ok) return makeQuietly(step, madeWith);
  const entry = undoEntry(invertStep(project, step), stepWords(step));
  if (!makeQuietly(step, madeWith)) return false;
  const { project: after, undo, redo } = useProjectStore.getState();
  if (after === project) return true;
  const tooMany = undo.slice(0, Math.max(0, undo.length + 1 - MOST_UNDO));
  rememberUndo(project.id, 'undo', entry, [...redo, ...tooMany]);
  useProjectStore.setState({ undo: [...undo.slice(tooMany.length), entry], redo: [] });
  return true;
}

/** Makes a step that names a new picture, once that picture is where every part of the program finds it. */
export async function makeWithPicture(step: Step, picture: NewPicture, draftOrder?: number): Promise<boolean> {
  await putPicture(picture);
  return make(step, { pictures: [picture.digest], ...(draftOrder === undefined ? {} : { draftOrder }) });
}

/** What was undone or done again: what it is called, and the step that did it. */
export type TakenBack = { readonly words: string; readonly step: Step };

function takeBack(from: 'undo' | 'redo', to: 'undo' | 'redo'): TakenBack | null {
  const { project, [from]: entries } = useProjectStore.getState();
  const entry = entries.at(-1);
  if (!project || !entry || isLocked(project, entry.step)) return null;
  const applies = applyStep(project, entry.step).ok;
  const back = applies ? undoEntry(invertStep(project, entry.step), entry.words) : null;
  useProjectStore.setState({ [from]: entries.slice(0, -1) });
  const made = makeQuietly(entry.step) && back !== null;
  rememberUndo(project.id, to, made ? back : null, [entry]);
  if (!made) return null;
  useProjectStore.setState((state) => ({ [to]: [...state[to], back] }));
  return { words: entry.words, step: entry.step };
}

/** Undoes the last act; null when there was none or it no longer applies. */
export const undo = (): TakenBack | null => takeBack('undo', 'redo');

/** Makes the last undone act again; null when there was none. */
export const redo = (): TakenBack | null => takeBack('redo', 'undo');

/** Ends when nothing waits any more; false when the server doesn't answer for `patienceMilliseconds`. */
export async function untilKept(patienceMilliseconds = 20_000): Promise<boolean> {
  const allKept = () => {
    const { waitingSteps, settling } = useProjectStore.getState();
    return waitingSteps === 0 && settling === 0;
  };
  if (allKept()) return true;
  return new Promise((resolve) => {
    const giveUp = setTimeout(() => finish(false), patienceMilliseconds);
    const unsubscribe = useProjectStore.subscribe(() => allKept() && finish(true));
    const finish = (kept: boolean) => {
      clearTimeout(giveUp);
      unsubscribe();
      resolve(kept);
    };
  });
}
