import { toast } from 'sonner';
import { create } from 'zustand';
import type { Project } from '@/core/document/model';
import { formatOf, groundFor, needsFolder } from '@/core/output/format';
import { type JobEvent, type JobState, nextState, PLANNED } from '@/core/output/jobState';
import { baseNameOf, isWhole, planOf, type Recipe, START_RECIPE } from '@/core/output/recipe';
import type { RenderPlan } from '@/core/render/renderPlan';
import { restPreviews, wakePreviews } from '@/features/clock/previews';
import { clearLeftFiles, saveFile } from '@/features/handover/ownFiles';
import { keepReceipt } from '@/features/handover/receiptsWaiting';
import { useProjectStore } from '@/features/sync/projectStore';
import { untilKept } from '@/features/sync/session';
import { settled } from '@/features/sync/settling';
import { WINDOW_ID } from '@/features/sync/windows';
import { FORMATS, type HandoverResult, startHandover } from '@/workers/client';

/** A handover under way, from the press on. */
type HandoverUnderWay = {
  readonly fileName: string;
  readonly job: JobState;
  readonly startedAt: number;
  readonly stop: () => void;
};

type HandoverState = {
  readonly recipe: Recipe;
  readonly running: HandoverUnderWay | null;
  /** Why the last one ended without a file. */
  readonly trouble: string | null;
  /** Files written in this visit, by receipt, that can be saved again. */
  readonly files: ReadonlyMap<string, { readonly storedAs: string; readonly fileName: string }>;
};

/** The format of a recipe. Throws when there is none of its id. */
export function formatFor(recipe: Recipe): (typeof FORMATS)[number] {
  const format = formatOf(FORMATS, recipe.formatId);
  if (!format) throw new Error(`There is no format ${recipe.formatId}.`);
  return format;
}

/** Handovers go on while other stages are looked at, so their state outlives the screen. */
export const useHandoverStore = create<HandoverState>(() => ({ recipe: START_RECIPE, running: null, trouble: null, files: new Map() }));

const askBeforeLeaving = (event: BeforeUnloadEvent): void => event.preventDefault();

const trouble = (words: string): void => useHandoverStore.setState({ trouble: words });

/** Takes what happened to the job under way. */
const happened = (event: JobEvent): void =>
  useHandoverStore.setState(({ running }) => (running ? { running: { ...running, job: nextState(running.job, event) } } : {}));

/** Makes a written file safe first: it is where it can be saved again, and saved. Then its receipt is kept. */
async function finish(project: Project, plan: RenderPlan, recipe: Recipe, result: HandoverResult): Promise<void> {
  const id = crypto.randomUUID();
  const { count, frameDigests } = result;
  if (result.storedAs) {
    const file = { storedAs: result.storedAs, fileName: result.fileName };
    useHandoverStore.setState((state) => ({ files: new Map(state.files).set(id, file) }));
    await saveFile(file.storedAs, file.fileName);
  }
  const receipt = {
    id,
    fileName: result.fileName,
    formatId: recipe.formatId,
    fileBytes: result.fileBytes,
    fileDigest: result.fileDigest,
    shotId: recipe.shotId,
    whole: isWhole(project, recipe),
    withBackground: recipe.withBackground,
    planDigest: result.planDigest,
    holdColours: plan.holdColours,
    pictures: result.composited,
    request: { frames: plan.frames, rate: plan.rate, width: plan.size.width, height: plan.size.height, firstNumber: plan.firstNumber },
    count: {
      ...count,
      repeatFrames: [...count.repeatFrames],
      wrongFrames: [...count.wrongFrames],
      missingFrames: [...count.missingFrames],
      mistimedFrames: [...count.mistimedFrames],
      otherRates: [...count.otherRates],
    },
    frameDigests: frameDigests && {
      ...frameDigests,
      digests: [...frameDigests.digests],
      runs: frameDigests.runs.map(([digest, frames]): [number, number] => [digest, frames]),
    },
  };
  keepReceipt(project.id, receipt, (error) =>
    trouble(`The file is saved; its receipt could not be: ${error instanceof Error ? error.message : 'unknown reason'}.`),
  );
}

/** Writes what the recipe asks for of the project as it is once every stroke made by now is in it. */
async function write(recipe: Recipe, folder: FileSystemDirectoryHandle | null, stop: AbortSignal): Promise<void> {
  await settled();
  if (!(await untilKept())) {
    trouble('The server does not answer, so not every drawing is saved yet. Nothing was written: hand over again when it does.');
    return;
  }
  const { project } = useProjectStore.getState();
  const format = formatFor(recipe);
  const plan = project && planOf(project, recipe, format);
  if (!project || !plan) return;
  if (!plan.ok) {
    trouble(plan.reason);
    return;
  }
  stop.throwIfAborted();
  await clearLeftFiles();
  await restPreviews();
  stop.throwIfAborted();
  const running = startHandover(
    {
      plan: plan.value,
      formatId: recipe.formatId,
      baseName: baseNameOf(project, recipe, format),
      ground: groundFor(format, recipe.withBackground),
      owner: WINDOW_ID,
    },
    folder,
    happened,
  );
  stop.addEventListener('abort', running.stop);
  const end = await running.end;
  if (end.kind === 'written') await finish(project, plan.value, recipe, end.result);
  else if (end.kind === 'refused') trouble(end.reason);
  else toast.message('Stopped. Nothing was left behind.');
}

/** Hands over by a recipe, unless a handover is under way: one at a time, however often it is pressed. */
export async function handOver(recipe: Recipe): Promise<void> {
  const { project } = useProjectStore.getState();
  if (useHandoverStore.getState().running || !project) return;
  const format = formatFor(recipe);
  const stop = new AbortController();
  useHandoverStore.setState({
    trouble: null,
    running: { fileName: baseNameOf(project, recipe, format), job: PLANNED, startedAt: performance.now(), stop: () => stop.abort() },
  });
  window.addEventListener('beforeunload', askBeforeLeaving);
  try {
    // Asked for within the press, as browsers want it.
    const folder = needsFolder(format) ? await window.showDirectoryPicker({ mode: 'readwrite' }).catch(() => null) : null;
    if (!needsFolder(format) || folder) await write(recipe, folder, stop.signal);
  } catch (error) {
    if (stop.signal.aborted) toast.message('Stopped. Nothing was left behind.');
    else trouble(`The handover failed: ${error instanceof Error ? error.message : 'for an unknown reason'}. Nothing was left behind.`);
  } finally {
    window.removeEventListener('beforeunload', askBeforeLeaving);
    wakePreviews();
    useHandoverStore.setState({ running: null });
  }
}
