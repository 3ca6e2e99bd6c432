import { type Aside, type HistoryEntry, historyReader } from '@/contracts/local';
import type { AcceptedStep } from '@/contracts/project';
import { sentenceOf } from '@/contracts/sentence';
import { stepSchema } from '@/contracts/step';
import type { Project } from '@/core/document/model';
import { lockedLevelOf } from '@/core/edit/locked';
import type { Step } from '@/core/edit/step';
import { applyStep, invertStep } from '@/core/edit/table';
import { checkStorable } from '@/core/edit/wellFormed';
import { stepWords } from '@/core/edit/words';
import { done, type Outcome, refused } from '@/core/outcome';
import { plural } from '@/core/time/counts';
import { type Base, type Orphan, orphansAmong, takeOver } from '@/features/sync/adopt';
import { fetchDocumentAt, fetchProject, Refused, server } from '@/features/sync/api';
import { projectAskedEarly } from '@/features/sync/earlyProject';
import { Engine } from '@/features/sync/engine';
import type { EngineView, MadeWith } from '@/features/sync/engineWorld';
import { inOrder, MOST_UNDO, type Stacks } from '@/features/sync/history';
import {
  dropDraft,
  dropWaiting,
  loadAside,
  loadChains,
  loadHistoryEntries,
  loadWaiting,
  localOutbox,
  type NewPicture,
  nextOrder,
  putPicture,
  writeAdoption,
  writeHistory,
} from '@/features/sync/outbox';
import { PAGE_WORLD, Pace } from '@/features/sync/pace';
import { hearPeople } from '@/features/sync/people';
import { Unreachable } from '@/features/sync/ports';
import { closeProjectStore, useProjectStore } from '@/features/sync/projectStore';
import { serverRetryer } from '@/features/sync/server';
import { showStoring } from '@/features/sync/settling';
import { aloneInBrowser, livingWindows, madeByThisWindow, personIn, WINDOW_ID, Windows } from '@/features/sync/windows';
import { toast } from '@/ui/toast';
import { STORE_BLOCKED } from '@/workers/client';

export type { MadeWith } from '@/features/sync/engineWorld';

type OpenSession = { readonly engine: Engine; readonly windows: Windows };
let open: OpenSession | null = null;
/** Which opening is under way: one that was closed meanwhile has no effect any more. */
let opening = 0;

function show(view: EngineView): void {
  const { project, sent, waitingSteps, storingSteps, stacks, savedAt } = view;
  useProjectStore.setState({
    project,
    waitingSteps,
    kept: sent.kind === 'all' ? 'kept' : sent.kind,
    waitingFor: sent.kind === 'waiting' ? sent.sentence : null,
    undo: stacks.undo,
    redo: stacks.redo,
    keptAt: new Date(savedAt),
  });
  showStoring(storingSteps);
}

function tellOthers(windows: Windows | undefined, changes: readonly AcceptedStep[]): void {
  const by = changes.at(-1)?.madeBy;
  const elsewhere = by && (personIn(by) ?? `A window in ${by.words}`);
  const who = !by ? 'Another window' : windows?.isHere(by.windowId) ? 'Another window of this browser' : elsewhere;
  const words = changes.slice(-3).map((change) => stepWords(change.step));
  toast.message(`${who} made ${plural(changes.length, 'change')}: ${words.join(', ')}.`, { id: 'others' });
}

function tellAside(aside: readonly Aside[]): void {
  useProjectStore.setState((state) => ({ aside: [...state.aside, ...aside] }));
  const [first] = aside;
  if (first)
    toast.error(`${plural(aside.length, 'change')} set aside: ${first.words}. ${first.reason} Nothing is lost: see “Set aside” above.`, {
      id: 'aside',
      duration: 12_000,
    });
}

/** What each orphan's steps were made on. Throws Unreachable when the server doesn't answer. */
async function basesOf(projectId: string, orphans: readonly Orphan[], here: { project: Project; revision: number }) {
  const bases = new Map<Orphan, Base>();
  for (const orphan of orphans) {
    const { baseRevision } = orphan;
    // Steps of the first form don't say what they were made on: they were sent on top of whatever was there.
    if (baseRevision === null || baseRevision === here.revision) bases.set(orphan, { project: here.project, changes: [] });
    else {
      const base = await fetchDocumentAt(projectId, baseRevision);
      const since = base && (await server.changesSince(projectId, baseRevision));
      const changes = since?.kind === 'changes' ? since.changes.filter((change) => change.revision <= here.revision) : null;
      bases.set(orphan, base && changes ? { project: base.project, changes } : null);
    }
  }
  return (orphan: Orphan): Base => bases.get(orphan) ?? null;
}

/** What windows that are gone have left of a project. */
async function orphansOf(projectId: string): Promise<readonly Orphan[]> {
  const alive = await livingWindows();
  const [waiting, history, chains] = await Promise.all([loadWaiting(projectId), loadHistoryEntries(projectId), loadChains(projectId)]);
  return orphansAmong(waiting, history, chains, alive);
}

/** Lets a server that can't be reached be told; a browser's store that can't be read keeps nothing from being opened. */
function unlessUnreachable(error: unknown): false {
  if (error instanceof Unreachable) throw error;
  return false;
}

/** What the browser's own store can't be asked: some browsers have none in private windows. */
const withoutStore =
  <T>(otherwise: T) =>
  (): T => {
    toast.warning('This browser keeps no copy of what you do: it is safe only once it is saved on the server.', { id: 'no-copy' });
    return otherwise;
  };

/**
 * Steps of the first form said which sending they had gone out with, and had no ids by which they could be known
 * again. That sending is sent once more as it was: what was accepted then is answered as it was, and not made twice. True when
 * there was such a sending.
 */
async function settleFirstForm(projectId: string): Promise<boolean> {
  const marked = (await loadWaiting(projectId)).filter((entry) => entry.windowId === '' && entry.sending !== null);
  const first = marked[0]?.sending;
  if (!first) return false;
  const batch = marked.filter((entry) => entry.sending?.batchId === first.batchId);
  const pictures = await localOutbox.pictures(batch.flatMap((entry) => entry.pictures));
  const steps = batch.map((entry) => entry.step);
  const answer = await server.send(projectId, { ...first, madeBy: null, steps, stepIds: [] }, pictures);
  if (answer.kind === 'accepted') await dropWaiting(batch);
  return true;
}

/** A project that was opened: what its window does, and what the page is to show with it. */
type OpenedSession = OpenSession & Pick<ReturnType<typeof useProjectStore.getState>, 'receipts' | 'aside'>;

/**
 * Opens a project, with whatever windows that are gone have left unsent on top of it. While `isWanted` says no, since another
 * project is opened by now, nothing of it is shown.
 */
async function openNow(projectId: string, isWanted: () => boolean): Promise<OpenedSession> {
  const early = projectAskedEarly(projectId);
  return aloneInBrowser(projectId, async () => {
    const isSettled = await settleFirstForm(projectId).catch(unlessUnreachable);
    const [first, left] = await Promise.all([
      isSettled || !early ? fetchProject(projectId) : early,
      orphansOf(projectId).catch(withoutStore<readonly Orphan[]>([])),
    ]);
    // What windows that are gone have sent since it was asked for early is in no earlier answer.
    const isOvertaken = early !== null && left.some((orphan) => (orphan.baseRevision ?? 0) > first.revision);
    const opened = isOvertaken ? await fetchProject(projectId) : first;
    if (isWanted()) for (const sentence of opened.unreadable) toast.warning(sentence, { duration: 12_000 });
    // What was made on a newer copy of the project waits for that copy.
    const newer = left.filter((orphan) => (orphan.baseRevision ?? 0) > opened.revision);
    const orphans = left.filter((orphan) => !newer.includes(orphan));
    const waitsForNewer = newer.reduce((sum, orphan) => sum + orphan.waiting.length, 0);
    if (waitsForNewer > 0 && isWanted())
      toast.error(
        `${plural(waitsForNewer, 'change')} in this browser were made on a newer copy of this project than this data folder holds. They stay here until that copy is back.`,
        { duration: 30_000 },
      );
    const here = { windowId: WINDOW_ID, project: opened.project, revision: opened.revision, mine: [], nextOrder };
    const taken = takeOver(orphans, await basesOf(projectId, orphans, opened), here, new Date());
    // Without room for it the steps are sent from where they are.
    await writeAdoption(taken.adoption).catch(() => undefined);
    const aside = await loadAside(projectId).catch(() => []);
    const pace = new Pace(PAGE_WORLD);
    let windows: Windows | undefined;
    let toldRevision = opened.revision;
    const engine = new Engine(
      {
        project: opened.project,
        revision: opened.revision,
        savedAt: Date.parse(opened.keptAt),
        waiting: taken.adoption.waiting,
        stacks: taken.stacks,
      },
      {
        server,
        outbox: localOutbox,
        retryer: serverRetryer,
        // Somebody may say who they are later.
        get madeBy() {
          return madeByThisWindow();
        },
        nextOrder,
        newId: () => crypto.randomUUID(),
        now: () => Date.now(),
        alone: (work) => aloneInBrowser(projectId, work),
        turn: () => pace.turn(),
        tell(told) {
          if (!isWanted()) return;
          if (told.kind === 'others') tellOthers(windows, told.changes);
          else if (told.kind === 'aside') tellAside(told.aside);
          else withoutStore(null)();
        },
        onChange(view) {
          if (isWanted()) show(view);
          if (view.revision !== toldRevision) windows?.tellRevision(view.revision);
          toldRevision = view.revision;
        },
      },
    );
    windows = new Windows(projectId, {
      onRevision: (revision) => engine.hearOf(revision),
      onServer: () => serverRetryer.wake(),
      onGone: () => void adoptFromGone(projectId, engine),
      onTold: hearPeople,
    });
    return { engine, windows, receipts: opened.receipts, aside };
  });
}

/** Takes over what a window of this browser left that has just gone. */
async function adoptFromGone(projectId: string, engine: Engine): Promise<void> {
  await engine.adopt(async (here) => {
    const orphans = (await orphansOf(projectId)).filter(
      (orphan) => orphan.waiting.length > 0 && (orphan.baseRevision ?? 0) <= here.revision,
    );
    if (orphans.length === 0) return null;
    const taken = takeOver(orphans, await basesOf(projectId, orphans, here), { ...here, windowId: WINDOW_ID, nextOrder }, new Date());
    await writeAdoption({ ...taken.adoption, history: [] });
    return { project: taken.project, waiting: taken.adoption.waiting, aside: taken.adoption.aside };
  });
  useProjectStore.setState((state) => ({ windowsGone: state.windowsGone + 1 }));
}

if (typeof window !== 'undefined') {
  window.addEventListener(STORE_BLOCKED, () =>
    toast.warning('Another page of an earlier Lime Tick is open in this browser. Reload or close it: until then this one can’t go on.', {
      id: 'blocked',
      duration: 60_000,
    }),
  );
  // What is neither saved nor in this browser's own store would be gone with the page.
  window.addEventListener('beforeunload', (event) => {
    if (open?.engine.isUnsafe) event.preventDefault();
  });
}

/** Opens a project; while the server doesn't answer it is asked again and again. */
export async function openSession(projectId: string): Promise<void> {
  closeSession();
  const own = ++opening;
  for (;;) {
    try {
      const opened = await openNow(projectId, () => own === opening);
      if (own !== opening) {
        opened.engine.close();
        opened.windows.leave();
        return;
      }
      open = opened;
      useProjectStore.setState((state) => ({ failure: null, receipts: opened.receipts, aside: [...opened.aside, ...state.aside] }));
      serverRetryer.succeeded();
      return;
    } catch (error) {
      if (own !== opening) return;
      if (!(error instanceof Unreachable)) {
        const failure =
          error instanceof Refused
            ? error.message
            : `The project can’t be opened: ${error instanceof Error ? error.message : 'unknown reason'}.`;
        useProjectStore.setState({ failure });
        return;
      }
      const why = error.message || 'The server does not answer.';
      useProjectStore.setState({ failure: `${why} It is asked again by itself; what waits in this browser is safe.` });
      await serverRetryer.wait();
    }
  }
}

/** Closes the open project; what still waits stays in the browser's own store. */
export function closeSession(): void {
  opening++;
  open?.engine.close();
  open?.windows.leave();
  open = null;
  closeProjectStore();
}

/** Whether a locked level keeps a step from being made, which is told. */
function isLocked(project: Project, step: Step): boolean {
  const locked = lockedLevelOf(project, step);
  if (locked) toast.message(`${locked.name} is locked: unlock it to change what is on it.`, { id: 'locked' });
  return locked !== undefined;
}

/** Refuses a step that no server would take: whatever is kept in this browser can be sent. */
function checkStep(step: Step): Outcome<null> {
  const storable = checkStorable(step);
  if (!storable.ok) return storable;
  const parsed = stepSchema.safeParse(step);
  return parsed.success ? done(null) : refused(sentenceOf(parsed.error));
}

/** Makes a step that undo can't take back by itself; false when it was refused, which is told. */
function makeQuietly(step: Step, madeWith: MadeWith): boolean {
  const before = open?.engine.document;
  const checked = checkStep(step);
  const made = !open ? refused('No project is open.') : checked.ok ? open.engine.make(step, madeWith) : checked;
  // A stroke that changes nothing, or whose drawing is gone, has nothing left to be drawn again for.
  if (madeWith.draftOrder !== undefined && (!made.ok || made.value === before)) void dropDraft(madeWith.draftOrder).catch(() => undefined);
  if (!made.ok) toast.error(made.reason);
  return made.ok;
}

const historyEntry = (stack: HistoryEntry['stack'], step: Step, words: string, order: number): HistoryEntry => ({
  version: historyReader.version,
  order,
  projectId: useProjectStore.getState().project?.id ?? '',
  windowId: WINDOW_ID,
  stack,
  step,
  words,
});

function setStacks(stacks: Stacks, put: readonly HistoryEntry[], dropped: readonly HistoryEntry[]): void {
  open?.engine.setStacks(stacks);
  void writeHistory(
    put,
    dropped.map((entry) => entry.order),
  ).catch(() => undefined);
}

/** Makes a step: applied at once, undoable, saved as soon as the server answers. False when it was refused. */
export function make(step: Step, madeWith: MadeWith = {}): boolean {
  const { project } = useProjectStore.getState();
  if (!open || !project || isLocked(project, step)) return false;
  const inverse = applyStep(project, step).ok ? invertStep(project, step) : null;
  if (!makeQuietly(step, madeWith)) return false;
  if (open.engine.document === project || !inverse) return true;
  const { undo, redo } = open.engine.undoable;
  const entry = historyEntry('undo', inverse, stepWords(step), madeWith.order ?? nextOrder());
  const tooMany = undo.slice(0, Math.max(0, undo.length + 1 - MOST_UNDO));
  setStacks({ undo: inOrder(undo.slice(tooMany.length), entry), redo: [] }, [entry], [...redo, ...tooMany]);
  return true;
}

/** Makes a step that names a new picture, once that picture is where every part of the program finds it. */
export async function makeWithPicture(
  step: Step,
  picture: NewPicture,
  madeWith: Pick<MadeWith, 'order' | 'draftOrder'> = {},
): Promise<boolean> {
  await putPicture(picture);
  return make(step, { ...madeWith, pictures: [picture.digest], pictureBytes: picture.png.byteLength });
}

/** What was undone or redone: what it is called, and the step that did it. */
export type UndoResult = { readonly words: string; readonly step: Step };

function takeBack(from: 'undo' | 'redo', order: number | undefined): UndoResult | null {
  const { project } = useProjectStore.getState();
  if (!open || !project) return null;
  const entries = open.engine.undoable[from];
  const entry = order === undefined ? entries.at(-1) : entries.find((each) => each.order === order);
  if (!entry || isLocked(project, entry.step)) return null;
  const to = from === 'undo' ? 'redo' : 'undo';
  const applies = applyStep(project, entry.step).ok;
  const back = applies ? historyEntry(to, invertStep(project, entry.step), entry.words, nextOrder()) : null;
  const made = makeQuietly(entry.step, {}) && back !== null;
  const stacks = open.engine.undoable;
  const without = { ...stacks, [from]: stacks[from].filter((each) => each !== entry) };
  setStacks(made ? { ...without, [to]: [...without[to], back] } : without, made ? [back] : [], [entry]);
  return made ? { words: entry.words, step: entry.step } : null;
}

/** Undoes what has that order, else the last; null when there was nothing or it no longer applies. */
export const undo = (order?: number): UndoResult | null => takeBack('undo', order);

/** Makes the last undone change again; null when there was none. */
export const redo = (order?: number): UndoResult | null => takeBack('redo', order);

/** Takes something out of what was set aside, on the page alone. */
export const forgetAside = (order: number): void =>
  useProjectStore.setState((state) => ({ aside: state.aside.filter((each) => each.order !== order) }));

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
