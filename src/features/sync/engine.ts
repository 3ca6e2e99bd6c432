import { type Aside, type AsideKind, type WaitingStep, waitingReader } from '@/contracts/local';
import { type AcceptedStep, SENDING_VERSION } from '@/contracts/project';
import type { Project } from '@/core/document/model';
import { type RebaseResult, rebase, shotRemoved } from '@/core/edit/rebase';
import type { Step } from '@/core/edit/step';
import { applyStep, invertStep } from '@/core/edit/table';
import { type Outcome, refused } from '@/core/outcome';
import { type AcceptedPart, firstPart } from '@/features/sync/acceptedSince';
import { asideOf } from '@/features/sync/asideOf';
import { firstBatch, MOST_BATCH_STEPS } from '@/features/sync/batches';
import type { EngineStart, EngineWorld, MadeWith, SendState } from '@/features/sync/engineWorld';
import { historyRewrites, type Stacks } from '@/features/sync/history';
import { Ledger, type PendingRewrite } from '@/features/sync/ledger';
import { Unreachable } from '@/features/sync/ports';

/*
 * One open project in one window. A step is applied to the document at once, put into the browser's own
 * store, and sent in order with the revision it was made on. `acknowledged` is the document as the database
 * has it; what is shown is that plus the steps still waiting.
 *
 * When others were faster, their steps come first and the waiting ones are made again on top of them, mapped
 * to where they belong by then (`@/core/edit/rebase`). What can't be made there, what the server refuses and
 * what it fails at again and again is set aside: kept, with its reason, for a person to decide. Nothing is
 * ever dropped here.
 */

/** A step is given up after the server failed at it alone this often. */
const MOST_FAILURES = 3;

/** What there is to wait for before the next try, in a sentence or none; null to go on at once. */
type Wait = { readonly sentence: string | null } | null;

export class Engine {
  private acknowledged: { readonly project: Project; readonly revision: number };
  private project: Project;
  private waiting: readonly WaitingStep[];
  private stacks: Stacks;
  private savedAt: number;
  private sent: SendState;
  /** Waiting steps that are not in the browser's own store yet. */
  private readonly unstored = new Set<string>();
  private storing: Promise<unknown> = Promise.resolve();
  private working: Promise<void> | null = null;
  /** The latest revision heard of. */
  private heardOf = 0;
  private mostSteps = MOST_BATCH_STEPS;
  private failures = 0;
  private readonly ledger: Ledger;
  private closed = false;

  constructor(
    start: EngineStart,
    private readonly world: EngineWorld,
  ) {
    this.acknowledged = { project: start.project, revision: start.revision };
    this.ledger = new Ledger(world);
    this.waiting = start.waiting;
    this.stacks = start.stacks;
    this.savedAt = start.savedAt;
    this.sent = start.waiting.length > 0 ? { kind: 'sending' } : { kind: 'all' };
    this.project = start.project;
    const lost: Aside[] = [];
    for (const entry of start.waiting) {
      const next = applyStep(this.project, entry.step);
      if (next.ok) this.project = next.value;
      else lost.push(this.setAside(entry, 'conflict', next.reason));
    }
    if (lost.length > 0) this.dropAside(lost);
    this.show();
    this.work();
  }

  /** Ends sending; what waits stays in the browser's own store. */
  close(): void {
    this.closed = true;
  }

  /** The document with every step made here. */
  get document(): Project {
    return this.project;
  }

  /** Whether something made here is neither acknowledged nor in the browser's own store. */
  get isUnsafe(): boolean {
    return this.unstored.size > 0 || (this.waiting.length > 0 && this.ledger.owesSteps);
  }

  get undoable(): Stacks {
    return this.stacks;
  }

  /** Applies a step and sees to it that it is saved; the document it left, the same one when it changed nothing. */
  make(step: Step, { pictures = [], pictureBytes = 0, draftOrder }: MadeWith = {}): Outcome<Project> {
    if (this.closed) return refused('The project was closed.');
    const next = applyStep(this.project, step);
    if (!next.ok || next.value === this.project) return next;
    const entry: WaitingStep = {
      version: waitingReader.version,
      order: this.world.nextOrder(),
      projectId: this.project.id,
      windowId: this.world.madeBy.windowId,
      id: this.world.newId(),
      step,
      pictures: [...pictures],
      sizeBytes: pictureBytes + JSON.stringify(step).length,
      sending: null,
    };
    this.project = next.value;
    this.waiting = [...this.waiting, entry];
    this.unstored.add(entry.id);
    if (this.sent.kind === 'all') this.sent = { kind: 'sending' };
    this.show();
    this.storing = this.storing.then(() => this.store(entry, draftOrder));
    return next;
  }

  private async store(entry: WaitingStep, draftOrder: number | undefined): Promise<void> {
    await this.rewrite({ put: [entry], draftsDropped: draftOrder === undefined ? [] : [draftOrder] });
    this.unstored.delete(entry.id);
    this.show();
    this.work();
  }

  /** Remembers what can be undone. */
  setStacks(stacks: Stacks): void {
    this.stacks = stacks;
    this.show();
  }

  /**
   * Takes over what a window that is gone has left: `take` is asked while nothing is sent, with the document that
   * is acknowledged and one's own steps on top, and gives the document with what was left.
   */
  async adopt(
    take: (here: { project: Project; revision: number; mine: readonly Step[] }) => Promise<{
      readonly project: Project;
      readonly waiting: readonly WaitingStep[];
      readonly aside: readonly Aside[];
    } | null>,
  ): Promise<void> {
    try {
      await this.world.alone(async () => {
        const mine = this.waiting;
        const taken = await take({ ...this.acknowledged, mine: mine.map((entry) => entry.step) });
        // What was made while it was taken over comes on top.
        if (!taken || this.closed) return;
        const later = this.waiting.filter((entry) => !mine.includes(entry));
        this.waiting = [...mine, ...taken.waiting, ...later];
        this.project = later.reduce((document, entry) => {
          const next = applyStep(document, entry.step);
          return next.ok ? next.value : document;
        }, taken.project);
        if (taken.aside.length > 0) this.world.tell({ kind: 'aside', aside: taken.aside });
        this.show();
      });
    } catch (error) {
      // The server doesn't answer: what was left is taken over at the next opening.
      if (!(error instanceof Unreachable)) throw error;
    }
    this.work();
  }

  /** Takes note that the project has a revision, made by somebody. */
  hearOf(revision: number): void {
    if (revision <= this.heardOf) return;
    this.heardOf = revision;
    this.work();
  }

  /** Begins sending and following unless that is under way. */
  work(): void {
    if (this.closed) return;
    this.working ??= this.workAll().finally(() => {
      this.working = null;
      if (!this.closed && this.hasWork()) this.work();
    });
  }

  /** Resolves when all work that is under way is done. */
  idle(): Promise<unknown> {
    return this.storing.then(() => this.working);
  }

  private hasWork(): boolean {
    return this.ready().length > 0 || this.heardOf > this.acknowledged.revision;
  }

  private async workAll(): Promise<void> {
    while (!this.closed && this.hasWork()) {
      let wait: Wait;
      try {
        // A full sending has nothing to wait for, and what is in the page's memory alone must not wait.
        const { length } = this.ready();
        if (length > 0 && length < this.mostSteps && !this.ledger.owesSteps) await this.world.turn();
        if (this.closed) break;
        wait = await this.world.alone(() => (this.ready().length > 0 ? this.sendFirst() : this.follow()));
      } catch (error) {
        // Whatever goes wrong on the way is tried again in a while: nothing is lost by waiting.
        wait = { sentence: error instanceof Unreachable ? error.message || null : wordsOf(error) };
      }
      if (wait) await this.waitForServer(wait.sentence);
    }
    if (!this.closed && this.waiting.length === 0) this.sent = { kind: 'all' };
    this.show();
  }

  private async waitForServer(sentence: string | null): Promise<void> {
    if (this.closed) return;
    this.sent = { kind: 'waiting', sentence };
    this.show();
    await this.world.retryer.wait();
  }

  /** The waiting steps that can be sent: in order, up to the first that is not stored. */
  private ready(): readonly WaitingStep[] {
    const unstored = this.waiting.findIndex((entry) => this.unstored.has(entry.id));
    return unstored === -1 ? this.waiting : this.waiting.slice(0, unstored);
  }

  private async sendFirst(): Promise<Wait> {
    const batch = firstBatch(this.ready(), this.mostSteps);
    const { project, revision } = this.acknowledged;
    const answer = await this.world.server.send(
      project.id,
      {
        version: SENDING_VERSION,
        baseRevision: revision,
        batchId: this.world.newId(),
        madeBy: this.world.madeBy,
        steps: batch.map((entry) => entry.step),
        stepIds: batch.map((entry) => entry.id),
        mapsOver: true,
      },
      await this.world.outbox.pictures(batch.flatMap((entry) => entry.pictures)),
    );
    if (answer.kind !== 'unknown' && answer.kind !== 'ahead' && answer.kind !== 'failed') this.world.retryer.succeeded();
    switch (answer.kind) {
      case 'accepted':
        if (answer.changes.length > 0) await this.takeOver(answer.changes, answer.revision);
        else await this.accept(batch, answer.revision);
        return null;
      case 'stale':
        await this.takeOver(answer.changes, answer.revision);
        return null;
      case 'ahead':
      case 'unknown':
        return { sentence: answer.sentence };
      case 'refused':
        await this.narrow(batch, 'refused', answer.sentence);
        return null;
      case 'failed':
        this.failures++;
        if (this.failures < MOST_FAILURES) return { sentence: answer.sentence };
        await this.narrow(batch, 'failed', answer.sentence);
        return null;
    }
  }

  /** A batch was refused: half of it is tried, until the one step is found that can't be taken, which is set aside. */
  private async narrow(batch: readonly WaitingStep[], kind: AsideKind, sentence: string): Promise<void> {
    const [first] = batch;
    if (batch.length > 1 || !first) {
      this.mostSteps = Math.ceil(batch.length / 2);
      // One that was failed at often is failed at once more before it is halved again.
      this.failures = Math.max(0, MOST_FAILURES - 1);
      return;
    }
    this.failures = 0;
    const before = this.acknowledged.project;
    const after = applyStep(before, first.step);
    const rest = this.waiting.filter((entry) => entry !== first);
    const aside = this.setAside(first, kind, sentence);
    // What was made after it goes on without it, mapped over its being taken back.
    const [base, takenBack] = after.ok ? [after.value, [invertStep(before, first.step)]] : [before, []];
    const mine = rest.map(({ step }) => step);
    await this.remake(rebase(base, takenBack, mine), rest, [aside], [first]);
  }

  private async accept(batch: readonly WaitingStep[], revision: number): Promise<void> {
    let { project } = this.acknowledged;
    for (const entry of batch) {
      const next = applyStep(project, entry.step);
      if (next.ok) project = next.value;
    }
    this.acknowledged = { project, revision };
    this.failures = 0;
    this.mostSteps = Math.min(MOST_BATCH_STEPS, this.mostSteps * 2);
    const gone = new Set(batch);
    this.waiting = this.waiting.filter((entry) => !gone.has(entry));
    this.savedAt = this.world.now();
    this.sent = this.waiting.length === 0 ? { kind: 'all' } : { kind: 'sending' };
    this.show();
    await this.rewrite({ dropped: batch });
  }

  private async follow(): Promise<Wait> {
    const answer = await this.world.server.changesSince(this.acknowledged.project.id, this.acknowledged.revision);
    if (answer.kind !== 'changes') return { sentence: answer.sentence };
    this.world.retryer.succeeded();
    await this.takeOver(answer.changes, answer.revision);
    return null;
  }

  /** Takes over what was accepted since, part by part: what others made, and one's own that is among it. */
  private async takeOver(changes: readonly AcceptedStep[], revision: number): Promise<void> {
    this.heardOf = Math.max(this.heardOf, revision);
    for (let rest = changes; rest.length > 0; ) {
      const part = this.firstPartOf(rest);
      if (part === null) return this.openAnew(rest);
      const accepted = rest.slice(0, part.count);
      rest = rest.slice(part.count);
      const at = rest.length === 0 ? revision : (accepted.at(-1)?.revision ?? revision);
      if (part.kind === 'own') await this.accept(this.waiting.slice(0, part.count), at);
      else await this.followOthers(accepted, part.result, { project: part.project, revision: at });
    }
    this.acknowledged = { ...this.acknowledged, revision };
  }

  /** The first part of what was accepted; null for steps of another form than this page knows. */
  private firstPartOf(changes: readonly AcceptedStep[]): AcceptedPart | null {
    try {
      return firstPart(this.acknowledged.project, changes, this.waiting);
    } catch {
      return null;
    }
  }

  private async followOthers(
    changes: readonly AcceptedStep[],
    result: RebaseResult,
    acknowledged: { readonly project: Project; readonly revision: number },
  ): Promise<void> {
    const { waiting } = this;
    const own = new Set(waiting.map(({ id }) => id));
    this.acknowledged = acknowledged;
    await this.remake(result, waiting, [], []);
    const others = changes.filter(({ stepId }) => stepId === null || !own.has(stepId));
    if (others.length > 0) this.world.tell({ kind: 'others', changes: others });
  }

  /** Fetches the document as it is, since what was accepted can't be made here; what is part of it already is not made again. */
  private async openAnew(changes: readonly AcceptedStep[]): Promise<void> {
    const { waiting } = this;
    const there = new Set(changes.map((change) => change.stepId));
    const opened = await this.world.server.open(this.acknowledged.project.id);
    const mine = waiting.map((entry) => entry.step);
    const result = rebase(opened.project, [], mine, (index) => there.has(waiting[index]?.id ?? ''));
    await this.followOthers(changes, result, opened);
  }

  /** Goes on with what waiting steps came to; those that couldn't be made are set aside. */
  private async remake(
    result: RebaseResult,
    entries: readonly WaitingStep[],
    asideBefore: readonly Aside[],
    droppedBefore: readonly WaitingStep[],
  ): Promise<void> {
    const aside = [...asideBefore];
    const dropped = [...droppedBefore];
    const put: WaitingStep[] = [];
    const waiting = entries.flatMap((entry, index): WaitingStep[] => {
      const came = result.mine[index];
      if (came?.kind === 'made' && came.step === entry.step) return [entry];
      if (came?.kind === 'made' && came.step) {
        const again = { ...entry, step: came.step };
        put.push(again);
        return [again];
      }
      dropped.push(entry);
      if (came?.kind === 'conflict') aside.push(this.setAside(entry, 'conflict', came.reason, result));
      return [];
    });
    this.waiting = waiting;
    this.project = result.project;
    const { stacks, rewritten, lost } = historyRewrites(this.stacks, result.mapping);
    this.stacks = stacks;
    this.show();
    if (aside.length > 0) this.world.tell({ kind: 'aside', aside });
    await this.rewrite({ dropped, put, history: rewritten, historyDropped: lost, aside });
  }

  private setAside(entry: WaitingStep, kind: AsideKind, reason: string, result?: RebaseResult): Aside {
    const shot = result ? shotRemoved(result.mapping.from, result.project, entry.step) : undefined;
    return asideOf(entry, kind, reason, shot ?? null, new Date(this.world.now()));
  }

  private dropAside(aside: readonly Aside[]): void {
    const orders = new Set(aside.map((each) => each.order));
    const dropped = this.waiting.filter((entry) => orders.has(entry.order));
    this.waiting = this.waiting.filter((entry) => !orders.has(entry.order));
    this.world.tell({ kind: 'aside', aside });
    void this.rewrite({ dropped, aside });
  }

  private rewrite(change: Partial<PendingRewrite>): Promise<void> {
    const { project, revision } = this.acknowledged;
    return this.ledger.write(change, () => this.waiting, project.id, revision);
  }

  private show(): void {
    if (this.closed) return;
    this.world.onChange({
      project: this.project,
      revision: this.acknowledged.revision,
      sent: this.sent,
      waitingSteps: this.waiting.length - this.unstored.size,
      storingSteps: this.unstored.size,
      stacks: this.stacks,
      savedAt: this.savedAt,
    });
  }
}

const wordsOf = (error: unknown): string =>
  error instanceof Error ? `Something went wrong on the way (${error.message}).` : 'Something went wrong on the way.';
