import { isOver, type JobEvent, type JobState, nextState, PLANNED } from '@/core/output/jobState';
import type { Recipe } from '@/core/output/recipe';

/*
 * Handovers wait in a queue and are made one after another. A job is the recipe and nothing else: what it hands over is the
 * project as it is when its turn comes. One that is held is passed over until it is let go; one that was stopped or failed stays,
 * with why, until it is asked for again or taken out.
 */

/** A handover that was asked for. `held` is why it is passed over, null when it isn't. */
export type QueuedJob = {
  readonly id: string;
  readonly projectId: string;
  readonly recipe: Recipe;
  readonly fileName: string;
  readonly held: string | null;
  /** Whether it was being made by a page that was left. */
  readonly wasBegun: boolean;
  readonly state: JobState;
};

export type Queue = readonly QueuedJob[];

/** Why a job is passed over that somebody held. */
export const HELD = 'held';

/** A job nothing was done for yet. */
export const newJob = (id: string, projectId: string, recipe: Recipe, fileName: string): QueuedJob => ({
  id,
  projectId,
  recipe,
  fileName,
  held: null,
  wasBegun: false,
  state: PLANNED,
});

const isSame = (a: QueuedJob, b: QueuedJob) => a.projectId === b.projectId && JSON.stringify(a.recipe) === JSON.stringify(b.recipe);
const isWaiting = ({ state }: QueuedJob) => state.kind === 'planned';

/** The job that asks for the very same and is still waiting: what is asked for twice is made once. */
export const waitingTwin = (queue: Queue, job: QueuedJob): QueuedJob | undefined =>
  queue.find((other) => isWaiting(other) && isSame(other, job));

const changed = (queue: Queue, id: string, change: (job: QueuedJob) => QueuedJob): Queue =>
  queue.map((job) => (job.id === id ? change(job) : job));

/** A queue in which something has happened to a job. */
export const happenedTo = (queue: Queue, id: string, event: JobEvent): Queue =>
  changed(queue, id, (job) => ({ ...job, state: nextState(job.state, event) }));

/** Holds a waiting job, saying why, or lets it go again; one that is being made is left alone. */
export const holdJob = (queue: Queue, id: string, held: string | null): Queue =>
  changed(queue, id, (job) => (isWaiting(job) ? { ...job, held } : job));

/** Asks again for a job that is over, at the end of the queue. */
export function askAgain(queue: Queue, id: string): Queue {
  const job = queue.find((each) => each.id === id);
  if (!job || !isOver(job.state)) return queue;
  return [...queue.filter((each) => each.id !== id), { ...job, held: null, wasBegun: false, state: PLANNED }];
}

/** A queue without a job; one that is being made stays. */
export const takeOut = (queue: Queue, id: string): Queue => queue.filter((job) => job.id !== id || !(isWaiting(job) || isOver(job.state)));

/** Moves a job by so many places, as far as there are any. */
export function moveJob(queue: Queue, id: string, by: number): Queue {
  const from = queue.findIndex((job) => job.id === id);
  if (from < 0) return queue;
  const to = Math.max(0, Math.min(queue.length - 1, from + by));
  return to === from ? queue : queue.toSpliced(from, 1).toSpliced(to, 0, queue[from] as QueuedJob);
}

/** The job of a project whose turn it is: the first that waits and isn't held; null while one is being made, and when there is none. */
export function nextJob(queue: Queue, projectId: string): QueuedJob | null {
  if (queue.some((job) => !isWaiting(job) && !isOver(job.state))) return null;
  return queue.find((job) => job.projectId === projectId && isWaiting(job) && job.held === null) ?? null;
}

/** Jobs as they are after the window that made them is gone: what was being made waits to be made again, and what goes into a folder waits until one is chosen again. */
export const afterReload = (queue: Queue): Queue =>
  queue.map((job) => {
    const begun = isOver(job.state) ? job : { ...job, wasBegun: job.wasBegun || !isWaiting(job), state: PLANNED };
    const { options } = job.recipe;
    const needsFolder = options.kind === 'pictures' && options.within === 'folder' && !isOver(job.state);
    return needsFolder ? { ...begun, held: FOLDER_GONE } : begun;
  });

/** Why a job is held whose folder this page may no longer write into. */
export const FOLDER_GONE = 'choose its folder again';
