import { format as formatDate } from 'date-fns';
import { formatOptionsSchema } from '@/contracts/formatOptions';
import { effectWords } from '@/core/document/finish';
import type { Project } from '@/core/document/model';
import { writeFramesCsv } from '@/core/format/csv/framesCsv';
import { groundFor } from '@/core/output/format';
import type { JobEvent } from '@/core/output/jobState';
import type { QueuedJob } from '@/core/output/queue';
import { baseNameOf, chosenRange, isWhole, type NamedLeaving, planOf, type Recipe, soundAsked } from '@/core/output/recipe';
import { restPreviews, wakePreviews } from '@/features/clock/previews';
import { formatFor, useHandoverStore } from '@/features/handover/handoverStore';
import { missingSounds, mixingFrom } from '@/features/handover/mixing';
import { clearLeftFiles, saveFile } from '@/features/handover/ownFiles';
import { keepReceipt } from '@/features/handover/receiptsWaiting';
import { restLooking, wakeLooking } from '@/features/path/inspecting';
import { useProjectStore } from '@/features/sync/projectStore';
import { untilKept } from '@/features/sync/session';
import { settled } from '@/features/sync/settling';
import { WINDOW_ID } from '@/features/sync/windows';
import { type HandoverResult, startHandover } from '@/workers/client';

const trouble = (words: string): void => useHandoverStore.setState({ trouble: words });

/** Makes a written file safe first: it is where it can be saved again, and saved. Then its receipt is kept. */
async function finish(project: Project, leaving: NamedLeaving, recipe: Recipe, result: HandoverResult): Promise<void> {
  const id = crypto.randomUUID();
  const { count, frameDigests } = result;
  const { plan } = leaving;
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
    levelId: recipe.levelId,
    whole: isWhole(project, recipe),
    withBackground: recipe.withBackground,
    planDigest: result.planDigest,
    finish: plan.finish.map(effectWords),
    pictures: result.composited,
    options: formatOptionsSchema.parse(recipe.options),
    range: chosenRange(project, recipe),
    taking: recipe.taking,
    request: {
      frames: plan.frames,
      rate: plan.rate,
      width: plan.size.width,
      height: plan.size.height,
      firstNumber: plan.firstNumber,
      sound: soundAsked(recipe, leaving),
    },
    count: {
      ...count,
      repeatFrames: [...count.repeatFrames],
      wrongFrames: [...count.wrongFrames],
      clipRepeatFrames: [...count.clipRepeatFrames],
      missingFrames: [...count.missingFrames],
      mistimedFrames: [...count.mistimedFrames],
      otherRates: [...count.otherRates],
      keyFrames: count.keyFrames && [...count.keyFrames],
      sound: count.sound && { ...count.sound, wrongFrames: count.sound.wrongFrames && [...count.sound.wrongFrames] },
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

/** An encoder and what it is fed by take as many cores for themselves. */
const CORES_OF_WRITING = 2;

/** Today, as names of files say it. */
export const today = (): string => formatDate(new Date(), 'yyyy-MM-dd');

/** Beside one file a drawing lies a list of the frames each is seen on. */
function listsOf(project: Project, { options }: Recipe, { named, seenOn, names }: NamedLeaving): { name: string; text: string }[] {
  if (options.kind !== 'pictures' || options.each !== 'drawing') return [];
  const rows = named.map(({ shot, level, drawing }, index) => ({
    file: names.pictures[index] ?? '',
    shot,
    level,
    drawing,
    frames: (seenOn[index] ?? []).map((frame) => frame + project.firstFrameNumber),
  }));
  return [{ name: 'frames.csv', text: writeFramesCsv(rows) }];
}

/** How a handover ended. */
export type MadeEnd = Extract<JobEvent, { readonly kind: 'done' | 'stopped' | 'failed' }>;

const failed = (reason: string): MadeEnd => ({ kind: 'failed', reason });

/**
 * Writes what a recipe asks for of the open project as it is once every stroke made by now is in it, and counts it. The file is
 * safe before its receipt is told.
 */
export async function makeHandover(
  { id: jobId, recipe, wasBegun }: QueuedJob,
  folder: FileSystemDirectoryHandle | null,
  onEvent: (event: JobEvent) => void,
  stop: AbortSignal,
): Promise<MadeEnd> {
  try {
    await settled();
    if (!(await untilKept()))
      return failed('The server does not answer, so not every drawing is saved yet. Nothing was written: hand over again when it does.');
    const { project } = useProjectStore.getState();
    if (!project) return failed('The project is not open any more. Nothing was written.');
    const format = formatFor(recipe);
    const leaving = planOf(project, recipe, format, today());
    if (!leaving.ok) return failed(leaving.reason);
    stop.throwIfAborted();
    await clearLeftFiles();
    await restPreviews();
    restLooking();
    stop.throwIfAborted();
    const { plan, names, heard } = leaving.value;
    const order = {
      plan,
      formatId: recipe.formatId,
      baseName: baseNameOf(project, recipe, format),
      names: [...names.pictures],
      lists: listsOf(project, recipe, leaving.value),
      ground: groundFor(format, recipe.options, recipe.withBackground),
      options: recipe.options,
      jobId,
      wasBegun,
      owner: WINDOW_ID,
      decodeWhileWriting: navigator.hardwareConcurrency > CORES_OF_WRITING,
    };
    const mix = soundAsked(recipe, leaving.value) && heard ? mixingFrom(heard) : null;
    const unheard = mix && heard ? await missingSounds(heard.sounds) : [];
    if (unheard.length > 0)
      return failed(
        `The recording of ${unheard.join(', ')} is missing, so the film would leave without it. Nothing was written: bring it in again, mute it, or choose no sound.`,
      );
    const running = startHandover(order, folder, onEvent, mix);
    stop.addEventListener('abort', running.stop);
    const end = await running.end;
    if (end.kind === 'refused') return failed(end.reason);
    if (end.kind === 'stopped') return { kind: 'stopped' };
    await finish(project, leaving.value, recipe, end.result);
    return { kind: 'done' };
  } catch (error) {
    if (stop.aborted) return { kind: 'stopped' };
    return failed(`The handover failed: ${error instanceof Error ? error.message : 'for an unknown reason'}. Nothing was left behind.`);
  } finally {
    wakePreviews();
    wakeLooking();
  }
}
