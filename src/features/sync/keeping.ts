import { toast } from 'sonner';
import type { Step } from '@/core/edit/step';
import { applyStep } from '@/core/edit/table';
import { stepWords } from '@/core/edit/words';
import type { Digest, Project } from '@/core/sheet/document';
import { plural } from '@/core/time/counts';
import { fetchProject, postSteps, Refused } from '@/features/sync/api';
import { dropDraft, dropWaiting, markSending, newWaiting, picturesOfWaiting, putWaiting } from '@/features/sync/outbox';
import { useProjectStore } from '@/features/sync/projectStore';
import type { WaitingStep } from '@/workers/client';

/*
 * One open project. A step is applied to the document at once, put into the browser's own store, and
 * sent in order with the revision it was made on. `acknowledged` is the document as the database has
 * it; what is shown is that plus the steps still waiting. When another window was faster, its steps come
 * first and the waiting ones are made again on top of them, as far as they still apply.
 */

const MOST_STEPS_A_SENDING = 50;
const RETRY_MILLISECONDS = 1500;

/** What a step is made with: pictures it names that were made here, and the draft it comes from. */
export type MadeWith = { readonly pictures?: readonly Digest[]; readonly draftOrder?: number };

/** An open project on its way into the database. */
export class Session {
  private acknowledged: { project: Project; revision: number };
  private waiting: WaitingStep[];
  private storing: Promise<unknown> = Promise.resolve();
  /** Waiting steps that are not in the browser's own store yet, and so can't be sent. */
  private readonly unstored = new Set<number>();
  private sender: Promise<void> | null = null;
  private closed = false;

  constructor(opened: { project: Project; revision: number }, waiting: WaitingStep[]) {
    this.acknowledged = opened;
    this.waiting = waiting;
  }

  close(): void {
    this.closed = true;
  }

  /** Makes the shown document again from what is acknowledged and what waits; tells what no longer applies. */
  rebuild(): void {
    let project = this.acknowledged.project;
    const lost: WaitingStep[] = [];
    for (const entry of this.waiting) {
      const next = applyStep(project, entry.step);
      if (next.ok) project = next.value;
      else {
        lost.push(entry);
        toast.error(`“${stepWords(entry.step)}” no longer applies: ${next.reason}`);
      }
    }
    if (lost.length > 0) {
      this.waiting = this.waiting.filter((entry) => !lost.includes(entry));
      void dropWaiting(lost);
    }
    useProjectStore.setState({ project, waitingSteps: this.storedSteps() });
  }

  /** Applies a step and sees to it that it is kept; false when it was refused, with the reason told. */
  make(step: Step, { pictures = [], draftOrder }: MadeWith): boolean {
    const { project } = useProjectStore.getState();
    if (!project) return false;
    const next = applyStep(project, step);
    const changes = next.ok && next.value !== project;
    // A stroke that changes nothing, or whose drawing is gone, has nothing left to be drawn again for.
    if (!changes && draftOrder !== undefined) void dropDraft(draftOrder).catch(() => undefined);
    if (!next.ok) {
      toast.error(next.reason);
      return false;
    }
    if (!changes) return true;
    const entry = newWaiting(project.id, step, pictures);
    this.waiting = [...this.waiting, entry];
    this.unstored.add(entry.order);
    useProjectStore.setState((state) => ({
      project: next.value,
      settling: state.settling + 1,
      kept: state.kept === 'kept' ? 'sending' : state.kept,
    }));
    this.storing = this.storing.then(async () => {
      await putWaiting(entry, draftOrder).catch(() => {
        toast.error('This browser has no room for a copy of what you do: it is safe only once the server says “Kept”.', { id: 'no-copy' });
      });
      this.unstored.delete(entry.order);
      useProjectStore.setState((state) => ({ settling: Math.max(0, state.settling - 1), waitingSteps: this.storedSteps() }));
      this.send();
    });
    return true;
  }

  /** Starts sending unless it is under way. */
  send(): void {
    this.sender ??= this.sendAll()
      .catch((error: unknown) => {
        toast.error(error instanceof Error ? error.message : 'Sending failed.');
      })
      .finally(() => {
        this.sender = null;
        if (this.ready().length > 0 && !this.closed) this.send();
      });
  }

  /** How many waiting steps are safe in the browser's own store. */
  private storedSteps(): number {
    return this.waiting.length - this.unstored.size;
  }

  /** The waiting steps that can be sent: in order, up to the first that is not stored. */
  private ready(): readonly WaitingStep[] {
    const unstored = this.waiting.findIndex((entry) => this.unstored.has(entry.order));
    return unstored === -1 ? this.waiting : this.waiting.slice(0, unstored);
  }

  private async sendAll(): Promise<void> {
    for (let ready = this.ready(); ready.length > 0 && !this.closed; ready = this.ready()) {
      const { sending } = ready[0] as WaitingStep;
      let batch = sending ? ready.filter((entry) => entry.sending?.batchId === sending.batchId) : ready.slice(0, MOST_STEPS_A_SENDING);
      if (!sending)
        batch = this.replaceWaiting(await markSending(batch, { batchId: crypto.randomUUID(), baseRevision: this.acknowledged.revision }));
      const sent = await this.sendBatch(batch);
      if (!sent) await new Promise((resolve) => setTimeout(resolve, RETRY_MILLISECONDS));
    }
  }

  private replaceWaiting(entries: WaitingStep[]): WaitingStep[] {
    const byOrder = new Map(entries.map((entry) => [entry.order, entry]));
    this.waiting = this.waiting.map((entry) => byOrder.get(entry.order) ?? entry);
    return entries;
  }

  /** Sends one batch; false when the server didn't answer and it has to be tried again. */
  private async sendBatch(batch: WaitingStep[]): Promise<boolean> {
    const sending = batch[0]?.sending;
    if (!sending) throw new Error('A batch is marked before it is sent.');
    let answer: Awaited<ReturnType<typeof postSteps>>;
    try {
      answer = await postSteps(
        this.acknowledged.project.id,
        { ...sending, steps: batch.map((entry) => entry.step) },
        await picturesOfWaiting(batch),
      );
    } catch (error) {
      if (!(error instanceof TypeError) && !(error instanceof Refused)) throw error;
      useProjectStore.setState({ kept: 'waiting' });
      return false;
    }
    if (answer.kind === 'accepted') await this.accept(batch, answer.revision);
    else if (answer.kind === 'stale') await this.goOnFrom(batch, answer.stale);
    else {
      toast.error(`Not kept: ${answer.sentence}`);
      await this.forget(batch);
      this.rebuild();
    }
    return true;
  }

  private async forget(batch: readonly WaitingStep[]): Promise<void> {
    await dropWaiting(batch);
    const gone = new Set(batch.map((entry) => entry.order));
    this.waiting = this.waiting.filter((entry) => !gone.has(entry.order));
  }

  private async accept(batch: readonly WaitingStep[], revision: number): Promise<void> {
    let { project } = this.acknowledged;
    for (const entry of batch) {
      const next = applyStep(project, entry.step);
      if (next.ok) project = next.value;
    }
    this.acknowledged = { project, revision };
    await this.forget(batch);
    useProjectStore.setState({
      waitingSteps: this.storedSteps(),
      keptAt: new Date(),
      kept: this.waiting.length === 0 ? 'kept' : 'sending',
    });
  }

  private async goOnFrom(batch: WaitingStep[], stale: { revision: number; stepsSince: readonly Step[] }): Promise<void> {
    let { project } = this.acknowledged;
    for (const step of stale.stepsSince) {
      const next = applyStep(project, step);
      if (!next.ok) {
        const opened = await fetchProject(project.id);
        project = opened.project;
        stale = { ...stale, revision: opened.revision };
        break;
      }
      project = next.value;
    }
    this.acknowledged = { project, revision: stale.revision };
    this.replaceWaiting(await markSending(batch, null));
    toast.message(
      `Another window made ${plural(stale.stepsSince.length, 'change')}: ${stale.stepsSince.slice(-3).map(stepWords).join(', ')}. Yours go on top.`,
    );
    this.rebuild();
  }
}
