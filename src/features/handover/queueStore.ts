import { create } from 'zustand';
import { keptQueue, queueOf, queueReader } from '@/contracts/queue';
import type { Project } from '@/core/document/model';
import { needsFolder, receiptNameOf } from '@/core/output/format';
import { isOver, type JobEvent, PLANNED } from '@/core/output/jobState';
import {
  afterReload,
  askAgain,
  happenedTo,
  holdJob,
  moveJob,
  newJob,
  nextJob,
  type Queue,
  type QueuedJob,
  takeOut,
  waitingTwin,
} from '@/core/output/queue';
import { baseNameOf, type Recipe } from '@/core/output/recipe';
import { formatFor, useHandoverStore } from '@/features/handover/handoverStore';
import { QUEUE_KEY } from '@/features/handover/keptQueues';
import { useProjectStore } from '@/features/sync/projectStore';
import { livingWindows, WINDOW_ID } from '@/features/sync/windows';
import { laterModule, NOT_LOADED } from '@/ui/later';
import { toast } from '@/ui/toast';

/*
 * The queue of this window. It is kept in this browser as it changes, so that it outlives a reload; what a window that is gone
 * left in its queue is taken over by the next that opens. Two windows never make the same job.
 */

type QueueState = { readonly queue: Queue; readonly startedAt: number };
export const useQueueStore = create<QueueState>(() => ({ queue: [], startedAt: 0 }));

function keep(queue: Queue): void {
  try {
    if (queue.every(({ state }) => state.kind === 'done')) localStorage.removeItem(QUEUE_KEY + WINDOW_ID);
    else localStorage.setItem(QUEUE_KEY + WINDOW_ID, JSON.stringify(keptQueue(queue)));
  } catch {
    // A browser that keeps nothing for this page has a queue as long as the page is there.
  }
}

function change(act: (queue: Queue) => Queue): void {
  const { queue } = useQueueStore.getState();
  const next = act(queue);
  if (next === queue) return;
  useQueueStore.setState({ queue: next });
  keep(next);
}

/** Takes what happened to a job; how far it is needs no keeping. */
function happened(id: string, event: JobEvent): void {
  const { queue } = useQueueStore.getState();
  const next = happenedTo(queue, id, event);
  useQueueStore.setState({ queue: next });
  if (!('progress' in event)) keep(next);
}

/** Folders chosen for jobs: a page may write into them until it is left. */
const folders = new Map<string, FileSystemDirectoryHandle>();

const askBeforeLeaving = (event: BeforeUnloadEvent): void => event.preventDefault();

/** What makes a handover comes when a stage is calm. */
const maker = laterModule(() => import('@/features/handover/makeHandover'));

let making: { readonly id: string; readonly project: Project; readonly stop: AbortController } | null = null;

/** Makes the jobs whose turn it is, one after another, until there is none. */
async function makeJobs(): Promise<void> {
  if (making) return;
  for (;;) {
    const { project } = useProjectStore.getState();
    const job = project && nextJob(useQueueStore.getState().queue, project.id);
    if (!job) return;
    making = { id: job.id, project, stop: new AbortController() };
    useQueueStore.setState({ startedAt: performance.now() });
    happened(job.id, { kind: 'writing', progress: { framesDone: 0, frames: 0, composited: 0 } });
    keep(useQueueStore.getState().queue);
    window.addEventListener('beforeunload', askBeforeLeaving);
    const { signal } = making.stop;
    const end = await maker().then(
      ({ makeHandover }) => makeHandover(job, folders.get(job.id) ?? null, (event) => happened(job.id, event), signal),
      () => ({ kind: 'failed', reason: `${NOT_LOADED} Nothing was written: hand over again when it does.` }) as const,
    );
    window.removeEventListener('beforeunload', askBeforeLeaving);
    making = null;
    if (end.kind === 'done') {
      folders.delete(job.id);
      change((queue) => queue.filter(({ id }) => id !== job.id));
    } else happened(job.id, end);
    if (end.kind === 'stopped') toast.message('Stopped. Nothing was left behind.');
  }
}

/** The folder of a job, asked for within the press, as browsers want it; null when none is needed, undefined when none was chosen. */
async function folderFor({ options }: Recipe): Promise<FileSystemDirectoryHandle | null | undefined> {
  if (!needsFolder(options)) return null;
  return window.showDirectoryPicker({ mode: 'readwrite' }).catch(() => undefined);
}

/** A job for a recipe, unless the very same waits or is being made already. */
function freshJob(project: Project, recipe: Recipe): QueuedJob | null {
  const format = formatFor(recipe);
  const fileName = receiptNameOf(format, recipe.options, baseNameOf(project, recipe, format));
  const job = newJob(crypto.randomUUID(), project.id, recipe, fileName);
  const { queue } = useQueueStore.getState();
  const isBeingMade = making?.project === project && queue.some(({ id, recipe: other }) => id === making?.id && other === recipe);
  return waitingTwin(queue, job) || isBeingMade ? null : job;
}

/** Asks for handovers: each is made when its turn comes, and those that go into a folder into one. What is asked for twice while it waits is made once. */
export async function handOver(...recipes: readonly Recipe[]): Promise<void> {
  const { project } = useProjectStore.getState();
  if (!project) return;
  useHandoverStore.setState({ trouble: null });
  const jobs: QueuedJob[] = [];
  for (const recipe of recipes) {
    const job = freshJob(project, recipe);
    if (!job) continue;
    jobs.push(job);
    change((now) => [...now, job]);
  }
  if (jobs.length === 0) {
    toast.message('That is in the queue already.');
    return;
  }
  const intoFolder = jobs.find(({ recipe }) => needsFolder(recipe.options));
  const folder = intoFolder ? await folderFor(intoFolder.recipe) : null;
  if (folder === undefined) {
    change((now) => jobs.reduce((queue, { id }) => takeOut(queue, id), now));
    return;
  }
  if (folder) for (const { id } of jobs) folders.set(id, folder);
  await makeJobs();
}

export const moveInQueue = (id: string, by: number): void => change((queue) => moveJob(queue, id, by));
export const takeOutOfQueue = (id: string): void => change((queue) => takeOut(queue, id));

/** Holds a job, or lets it go; one whose folder is gone is asked for another first. */
export async function holdInQueue(id: string, held: string | null): Promise<void> {
  const job = useQueueStore.getState().queue.find((each) => each.id === id);
  if (held === null && job && needsFolder(job.recipe.options) && !folders.has(id)) {
    const folder = await folderFor(job.recipe);
    if (!folder) return;
    folders.set(id, folder);
  }
  change((queue) => holdJob(queue, id, held));
  await makeJobs();
}

/** Stops the job that is being made. */
export function stopInQueue(id: string): void {
  if (making?.id === id) making.stop.abort();
}

/** Asks for a job that is over once more. */
export async function againInQueue(id: string): Promise<void> {
  const job = useQueueStore.getState().queue.find((each) => each.id === id);
  if (!job || !isOver(job.state)) return;
  if (needsFolder(job.recipe.options) && !folders.has(id)) {
    const folder = await folderFor(job.recipe);
    if (!folder) return;
    folders.set(id, folder);
  }
  change((queue) => askAgain(queue, id));
  await makeJobs();
}

/** Takes over what windows that are gone left in their queues, and goes on with it. */
export async function takeOverQueues(): Promise<void> {
  const alive = await livingWindows();
  const left: Queue[] = [];
  for (const key of Object.keys(localStorage)) {
    if (!key.startsWith(QUEUE_KEY) || alive.has(key.slice(QUEUE_KEY.length))) continue;
    const read = readKept(key);
    if (read) left.push(read);
  }
  if (left.length > 0) change((queue) => [...queue, ...left.flatMap(afterReload)]);
  await makeJobs();
}

/** A kept queue, taken from where it was kept; null where it can't be read, and then it is left there. */
function readKept(key: string): Queue | null {
  try {
    const read = queueReader.read(JSON.parse(localStorage.getItem(key) ?? 'null'));
    if (!read.ok) return null;
    localStorage.removeItem(key);
    return queueOf(read.value).map((job) => (isOver(job.state) ? job : { ...job, state: PLANNED }));
  } catch {
    return null;
  }
}
