import { type Aside, type Chain, type HistoryEntry, historyReader, type WaitingStep } from '@/contracts/local';
import type { AcceptedStep, Sending } from '@/contracts/project';
import { type Level, levelById, type Project, shotById } from '@/core/document/model';
import { judgeSending } from '@/core/edit/judge';
import { rebasedWhole } from '@/core/edit/rebase';
import type { Step } from '@/core/edit/step';
import { applyStep, invertStep } from '@/core/edit/table';
import { runAt } from '@/core/sheet/runs';
import { type Base, orphansAmong, takeOver } from '@/features/sync/adopt';
import { Engine } from '@/features/sync/engine';
import { inOrder } from '@/features/sync/history';
import { type OutboxPort, type SendingAnswer, type ServerPort, Unreachable } from '@/features/sync/ports';
import { Retryer } from '@/features/sync/retryer';

/*
 * A small world for tests: one server, one browser's store, several windows with the real engine. Everything
 * that can go wrong is a switch: the server is off, its answer is lost, it refuses or fails at a step, the store
 * is full, a window is killed.
 */

/** A title that the server refuses, and one it fails at, whatever they come with. */
export const REFUSED_TITLE = 'refused';
export const FAILED_TITLE = 'failed';

const hasTitle = (step: Step, title: string): boolean =>
  step.type === 'together' ? step.steps.some((part) => hasTitle(part, title)) : step.type === 'renameProject' && step.title === title;

/** What an exposure step means: the drawing and the length of the exposure it is for. */
export function exposureMeant(project: Project, step: Step): string | null {
  if (step.type !== 'setLength' && step.type !== 'removeExposure') return null;
  const shot = shotById(project, step.shotId);
  const level: Level | undefined = shot && levelById(shot, step.levelId);
  const run = level && runAt(level.exposures, step.atFrame);
  return run ? `${run.drawing} ${run.endFrame - run.startFrame}` : 'none';
}

/** What was found wrong while steps were accepted. */
export type Fault = { readonly stepId: string; readonly what: string };

const stepOf = ({ step }: AcceptedStep): Step => step;

export class SimulatedServer {
  readonly journal: AcceptedStep[] = [];
  readonly faults: Fault[] = [];
  private readonly documents: Project[];
  private readonly batches = new Map<string, number>();
  /** What each step was made as, and what it was for, told by the windows. */
  readonly made = new Map<string, { readonly step: Step; readonly meant: string | null; readonly behind: string | null }>();
  on = true;
  losesAnswers = false;
  mostStepsTaken = 1000;
  /** A planted fault: the server doesn't say whose steps are whose. */
  forgetsIds = false;
  /** How many sendings it took where they belonged by then, others having been faster. */
  mappedSendings = 0;

  constructor(start: Project) {
    this.documents = [start];
  }

  get project(): Project {
    return this.documents.at(-1) as Project;
  }

  get revision(): number {
    return this.documents.length - 1;
  }

  documentAt(revision: number): Project {
    return this.documents[revision] as Project;
  }

  private changes(since: number): AcceptedStep[] {
    const changes = this.journal.slice(since);
    return this.forgetsIds ? changes.map((change) => ({ ...change, stepId: null })) : changes;
  }

  private accept({ steps, stepIds, madeBy }: Sending): SendingAnswer {
    let { project } = this;
    const accepted: { change: AcceptedStep; after: Project }[] = [];
    for (const [index, step] of steps.entries()) {
      if (hasTitle(step, FAILED_TITLE)) return { kind: 'failed', sentence: 'The server failed at this.' };
      if (hasTitle(step, REFUSED_TITLE)) return { kind: 'refused', sentence: 'The server takes no such title.' };
      const next = applyStep(project, step);
      if (!next.ok) return { kind: 'refused', sentence: next.reason };
      this.check(project, step, stepIds[index] ?? '');
      project = next.value;
      accepted.push({
        change: { revision: this.revision + accepted.length + 1, step, stepId: stepIds[index] ?? null, madeBy },
        after: project,
      });
    }
    for (const { change, after } of accepted) {
      this.journal.push(change);
      this.documents.push(after);
    }
    return { kind: 'accepted', revision: this.revision, changes: [] };
  }

  /** A sending that others were faster than, taken where it belongs by now, if all of it does. */
  private acceptMapped(sending: Sending): SendingAnswer {
    const { baseRevision, steps, stepIds } = sending;
    const between = this.journal.slice(baseRevision);
    const isThere = between.some(({ stepId }) => stepId !== null && stepIds.includes(stepId));
    const mapped = sending.mapsOver && !isThere && rebasedWhole(this.documentAt(baseRevision), between.map(stepOf), steps);
    if (!mapped) return { kind: 'stale', revision: this.revision, changes: this.changes(baseRevision) };
    const answer = this.accept({ ...sending, steps: [...mapped] });
    if (answer.kind !== 'accepted') return answer;
    this.mappedSendings++;
    return { ...answer, changes: this.changes(baseRevision) };
  }

  /** A step that is accepted must be for what it was made for. */
  private check(project: Project, step: Step, stepId: string): void {
    const made = this.made.get(stepId);
    if (!made) return;
    if (step.type === 'setPicture' && made.step.type === 'setPicture' && step.drawingId !== made.step.drawingId)
      this.faults.push({ stepId, what: 'a picture went to another drawing' });
    const meant = exposureMeant(project, step);
    if (made.meant !== null && meant !== null && meant !== made.meant)
      this.faults.push({ stepId, what: `an exposure step meant ${made.meant} and met ${meant}` });
  }

  readonly port: ServerPort = {
    send: async (_projectId, sending) => {
      if (!this.on) throw new Unreachable('');
      if (sending.steps.length > this.mostStepsTaken && sending.steps.length > 1)
        return { kind: 'refused', sentence: 'That is too much at once.' };
      const judged = judgeSending(
        { revision: this.revision, acceptedBefore: this.batches.get(sending.batchId) ?? null },
        sending.baseRevision,
      );
      if (judged.kind === 'ahead') return { kind: 'ahead', sentence: 'An older copy.' };
      if (judged.kind === 'accepted-before') return { kind: 'accepted', revision: judged.revision, changes: [] };
      const answer = judged.kind === 'stale' ? this.acceptMapped(sending) : this.accept(sending);
      if (answer.kind === 'accepted') this.batches.set(sending.batchId, answer.revision);
      if (this.losesAnswers) throw new Unreachable('');
      return answer;
    },
    changesSince: async (_projectId, revision) => {
      if (!this.on) throw new Unreachable('');
      return { kind: 'changes', revision: this.revision, changes: this.changes(revision) };
    },
    open: async () => {
      if (!this.on) throw new Unreachable('');
      return { project: this.project, revision: this.revision };
    },
  };
}

/** What an item of the reel stands behind; nothing for the first. */
const behindWhat = ({ reel: { items } }: Project, itemId: string): string =>
  items[items.findIndex(({ id }) => id === itemId) - 1]?.id ?? '';

/** One browser's own store, shared by its windows. */
export class SimulatedStore {
  readonly waiting = new Map<number, WaitingStep>();
  readonly history = new Map<number, HistoryEntry>();
  readonly chains = new Map<string, Chain>();
  readonly aside = new Map<number, Aside>();
  /** Ids of steps that were put here while there was room. */
  readonly everStored = new Set<string>();
  isFull = false;
  /** A planted fault: every so often a step is not put here, and nobody is told. */
  forgetsEvery = 0;
  private puts = 0;
  /** Told of steps a window lets go of that are not set aside with it. */
  onDropped: (entry: WaitingStep, chain: Chain) => void = () => undefined;

  readonly port: OutboxPort = {
    rewrite: async ({ dropped, put, chain, history, historyDropped, aside }) => {
      // What is full takes nothing new; letting go of something is always possible, but it is all or nothing.
      if (this.isFull) throw new Error('There is no room.');
      for (const entry of aside) this.aside.set(entry.order, entry);
      const asideOrders = new Set(aside.map((entry) => entry.order));
      for (const entry of dropped) this.waiting.delete(entry.order);
      for (const entry of put) {
        const isNew = !this.everStored.has(entry.id);
        this.everStored.add(entry.id);
        if (isNew) this.puts++;
        if (isNew && this.forgetsEvery > 0 && this.puts % this.forgetsEvery === 0) continue;
        this.waiting.set(entry.order, entry);
      }
      for (const entry of dropped) if (!asideOrders.has(entry.order)) this.onDropped(entry, chain);
      for (const entry of history) this.history.set(entry.order, entry);
      for (const order of historyDropped) this.history.delete(order);
      this.chains.set(chain.windowId, chain);
    },
    pictures: async () => new Map(),
  };
}

/** A window that is open: its engine, and what it has told. */
export type SimulatedWindow = { readonly id: string; readonly engine: Engine; readonly retryer: Retryer };

export class World {
  readonly store = new SimulatedStore();
  readonly server: SimulatedServer;
  readonly windows = new Map<number, SimulatedWindow>();
  /** Everything that was ever set aside, by the id of its step, also where the store was full. */
  readonly asideTold = new Map<string, Aside>();
  /** When the next sending may begin. */
  turn: () => Promise<void> = () => Promise.resolve();
  private order = 0;
  private ids = 0;
  private queue: Promise<unknown> = Promise.resolve();

  /** Steps that were let go of since there was nothing left to do for them. */
  private readonly needless = new Set<string>();

  constructor(readonly start: Project) {
    this.server = new SimulatedServer(start);
    this.store.onDropped = (entry, { baseRevision, windowId }) => {
      // The document as it was in front of this step.
      const before = [...this.store.waiting.values()]
        .filter((each) => each.windowId === windowId && each.order < entry.order)
        .sort((a, b) => a.order - b.order)
        .reduce((document, each) => {
          const next = applyStep(document, each.step);
          return next.ok ? next.value : document;
        }, this.server.documentAt(baseRevision));
      if (this.isNeedless(before, entry)) this.needless.add(entry.id);
    };
  }

  /** Whether there is nothing left to do for a step: it would change nothing, or what it wanted is there, at another frame perhaps. */
  private isNeedless(document: Project, { id, step }: WaitingStep): boolean {
    const next = applyStep(document, step);
    if (!next.ok || next.value === document) return true;
    // Lists that both added to are merged: what was added may be there already.
    if (step.type === 'setPalette' || step.type === 'setNotes') return true;
    // It stands behind what it was moved behind: that was moved there, too.
    if (step.type === 'moveItem') return behindWhat(document, step.itemId) === this.server.made.get(id)?.behind;
    if (!('levelId' in step)) return step.type === 'together';
    if (step.type === 'setLength') {
      const drawing = this.server.made.get(id)?.meant?.split(' ')[0];
      const levels = document.shots.flatMap((shot) => shot.levels);
      const runs = levels.find((level) => level.id === step.levelId)?.exposures ?? [];
      return runs.some((run) => String(run.drawing) === drawing && run.frames === step.frames);
    }
    // Somebody else changed that shot: where the step would lie by now is not known here.
    return [...this.server.made].some(([other, made]) => other !== id && JSON.stringify(made.step).includes(step.shotId));
  }

  readonly newId = (): string => `id${this.ids++}`;

  /** One at a time, as a lock of the browser has it. */
  private readonly alone = <T>(work: () => Promise<T>): Promise<T> => {
    const turn = this.queue.then(work);
    this.queue = turn.catch(() => undefined);
    return turn;
  };

  /** Opens a window, taking over what windows that are gone have left; false while the server is off. */
  async open(place: number): Promise<boolean> {
    const { server, store } = this;
    if (!server.on || this.windows.has(place)) return false;
    const id = this.newId();
    const alive = new Set([...this.windows.values()].map((window) => window.id));
    const inOrderMade = <T extends { order: number }>(entries: Iterable<T>) => [...entries].sort((a, b) => a.order - b.order);
    const orphans = orphansAmong(
      inOrderMade(store.waiting.values()),
      inOrderMade(store.history.values()),
      [...store.chains.values()],
      alive,
    );
    const { project, revision } = server;
    const changesOf = async (since: number) => server.port.changesSince('', since);
    const bases = new Map<string, Base>();
    for (const orphan of orphans) {
      if (orphan.baseRevision === null) bases.set(orphan.windowId, { project, changes: [] });
      else {
        const answer = await changesOf(orphan.baseRevision);
        if (answer.kind === 'changes')
          bases.set(orphan.windowId, { project: server.documentAt(orphan.baseRevision), changes: answer.changes });
      }
    }
    const taken = takeOver(
      orphans,
      (orphan) => bases.get(orphan.windowId) ?? null,
      { windowId: id, project, revision, mine: [], nextOrder: () => ++this.order },
      new Date(0),
    );
    const { adoption } = taken;
    for (const entry of adoption.aside) {
      this.asideTold.set(entry.id ?? '', entry);
      store.aside.set(entry.order, entry);
    }
    const goesOn = new Set([...adoption.aside, ...adoption.waiting].map((entry) => entry.id));
    for (const order of adoption.waitingDropped) {
      const entry = store.waiting.get(order);
      store.waiting.delete(order);
      // What it wanted was there when it was its turn: before what was left by then, or after it.
      const isNeedless = (document: Project) => entry !== undefined && this.isNeedless(document, entry);
      if (entry && !goesOn.has(entry.id) && [project, taken.project].some(isNeedless)) this.needless.add(entry.id);
    }
    for (const entry of adoption.waiting) store.waiting.set(entry.order, entry);
    for (const order of adoption.historyDropped) store.history.delete(order);
    for (const entry of adoption.history) store.history.set(entry.order, entry);
    for (const windowId of adoption.windowsDropped) store.chains.delete(windowId);
    store.chains.set(id, adoption.chain);
    const retryer = new Retryer({ now: () => 0, after: () => () => undefined, random: () => 0, isOnline: () => true });
    const engine = new Engine(
      { project, revision, savedAt: 0, waiting: adoption.waiting, stacks: taken.stacks },
      {
        server: server.port,
        outbox: store.port,
        retryer,
        madeBy: { windowId: id, words: `window ${place}` },
        nextOrder: () => ++this.order,
        newId: this.newId,
        now: () => 0,
        alone: this.alone,
        turn: () => this.turn(),
        tell: (told) => {
          if (told.kind === 'aside') for (const entry of told.aside) this.asideTold.set(entry.id ?? '', entry);
        },
        onChange: () => undefined,
      },
    );
    this.windows.set(place, { id, engine, retryer });
    await settle();
    return true;
  }

  /** Makes a step in a window, undoable there. */
  async make(place: number, step: Step): Promise<void> {
    const window = this.windows.get(place);
    if (!window) return;
    const before = window.engine.document;
    const nextId = `id${this.ids}`;
    const made = window.engine.make(step);
    if (!made.ok || made.value === before) return;
    const after = applyStep(before, step);
    const behind = step.type === 'moveItem' && after.ok ? behindWhat(after.value, step.itemId) : null;
    this.server.made.set(nextId, { step, meant: exposureMeant(before, step), behind });
    const entry: HistoryEntry = {
      version: historyReader.version,
      order: ++this.order,
      projectId: before.id,
      windowId: window.id,
      stack: 'undo',
      step: invertStep(before, step),
      words: '',
    };
    const { undo } = window.engine.undoable;
    window.engine.setStacks({ undo: inOrder(undo, entry), redo: [] });
    if (!this.store.isFull) this.store.history.set(entry.order, entry);
    await settle();
  }

  /** Undoes the last thing in a window. */
  async undo(place: number): Promise<void> {
    const window = this.windows.get(place);
    const entry = window?.engine.undoable.undo.at(-1);
    if (!window || !entry) return;
    const { undo, redo } = window.engine.undoable;
    window.engine.setStacks({ undo: undo.slice(0, -1), redo });
    this.store.history.delete(entry.order);
    await this.make(place, entry.step);
  }

  /** A window dies in this moment: nothing it was about to do is done. */
  async kill(place: number): Promise<void> {
    this.windows.get(place)?.engine.close();
    this.windows.delete(place);
    await settle();
  }

  /** Lets a window hear that there is something new, and has it try again. */
  async wake(place: number): Promise<void> {
    const window = this.windows.get(place);
    window?.retryer.wake();
    window?.engine.hearOf(this.server.revision);
    await settle();
  }

  /** Everything works again, for long enough that nothing waits any more. */
  async calm(places: readonly number[]): Promise<void> {
    this.server.on = true;
    this.server.losesAnswers = false;
    this.server.mostStepsTaken = 1000;
    this.store.isFull = false;
    for (const place of places) await this.open(place);
    const all = async () => {
      for (let round = 0; round < 12; round++) for (const place of places) await this.wake(place);
    };
    await all();
    // What a full store couldn't take note of is settled when it is read again.
    for (const place of places) await this.kill(place);
    for (const place of places) await this.open(place);
    await all();
  }

  /** Faults of the world as it is once it is calm: nothing lost, nothing doubled, everybody sees the same. */
  faults(): readonly string[] {
    const { journal, faults, project } = this.server;
    const found = faults.map((fault) => fault.what);
    const times = new Map<string, number>();
    for (const { stepId } of journal) if (stepId) times.set(stepId, (times.get(stepId) ?? 0) + 1);
    // Set aside is what the store keeps as that: what was only told so, in a window that died before there was room for it, must still
    // wait there and be made or set aside later.
    const keptAside = new Set([...this.store.aside.values()].map((entry) => entry.id));
    for (const [id, count] of times) if (count > 1) found.push(`step ${id} was made ${count} times`);
    for (const id of this.server.made.keys()) {
      const accepted = times.has(id);
      const aside = keptAside.has(id);
      if (accepted && aside) found.push(`step ${id} was made and set aside`);
      // What found no room in the store is lost with its window unless it was sent before; that was told.
      if (accepted || aside || !this.store.everStored.has(id)) continue;
      if (this.needless.has(id)) continue;
      // Another window made the very same.
      const step = JSON.stringify(this.server.made.get(id)?.step);
      const twin = [...this.server.made].some(([other, made]) => other !== id && JSON.stringify(made.step) === step);
      if (!twin) found.push(`step ${id} was lost`);
    }
    if (this.store.waiting.size > 0) found.push(`${this.store.waiting.size} steps wait for ever`);
    for (const { engine } of this.windows.values())
      if (JSON.stringify(engine.document) !== JSON.stringify(project)) found.push('a window shows another document than the server has');
    return found;
  }
}

/** Lets everything happen that can without a clock. */
export async function settle(): Promise<void> {
  for (let turn = 0; turn < 60; turn++) await Promise.resolve();
}
