import { formatOptionsSchema } from '@/contracts/formatOptions';
import { effectWords } from '@/core/document/finish';
import type { Project } from '@/core/document/model';
import { writeFramesCsv } from '@/core/format/csv/framesCsv';
import type { JobEvent } from '@/core/output/jobState';
import { heldInLoop, isLoopKind, LOOP_KIND_FACTS, microsecondsIn } from '@/core/output/loop';
import type { QueuedJob } from '@/core/output/queue';
import { chosenRange, isWhole, type NamedLeaving, planOf, type Recipe, soundAsked } from '@/core/output/recipe';
import type { RenderPlan } from '@/core/render/renderPlan';
import { loopMicroseconds } from '@/core/time/heldTimes';
import { restPreviews } from '@/features/clock/previews';
import { orderFor } from '@/features/handover/handoverOrder';
import { formatFor, useHandoverStore } from '@/features/handover/handoverStore';
import { missingSounds, mixingFrom } from '@/features/handover/mixing';
import { clearLeftFiles, saveFile } from '@/features/handover/ownFiles';
import { keepReceipt } from '@/features/handover/receiptsWaiting';
import { today } from '@/features/handover/today';
import { triedLoop } from '@/features/handover/trialStore';
import { restLooking } from '@/features/path/inspecting';
import { useProjectStore } from '@/features/sync/projectStore';
import { untilKept } from '@/features/sync/session';
import { settled } from '@/features/sync/settling';
import { type HandoverResult, startHandover } from '@/workers/client';

const trouble = (words: string): void => useHandoverStore.setState({ trouble: words });

/** The frames that are asked for; of a loop, its pictures and their times. */
function framesAsked(plan: RenderPlan, { formatId, options }: Recipe) {
  if (options.kind !== 'loop' || !isLoopKind(formatId)) return { frames: plan.frames, firstNumber: plan.firstNumber, loop: null };
  const { unitsPerSecond } = LOOP_KIND_FACTS[formatId];
  const loop = {
    microseconds: [...microsecondsIn(formatId, plan, options)],
    trueMicroseconds: loopMicroseconds(heldInLoop(plan, options), plan.rate),
    // Half a unit, and a microsecond for each time that is a part of a second.
    toleranceMicroseconds: unitsPerSecond === null ? plan.runs.length : Math.ceil(500_000 / unitsPerSecond),
    plays: options.plays,
  };
  return { frames: plan.runs.length, firstNumber: 1, loop };
}

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
      ...framesAsked(plan, recipe),
      rate: plan.rate,
      width: plan.size.width,
      height: plan.size.height,
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
      loop: count.loop && { ...count.loop, microseconds: [...count.loop.microseconds] },
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
  job: QueuedJob,
  folder: FileSystemDirectoryHandle | null,
  onEvent: (event: JobEvent) => void,
  stop: AbortSignal,
): Promise<MadeEnd> {
  const { recipe } = job;
  let [wakeLooking, wakePreviews]: (() => void)[] = [];
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
    wakePreviews = await restPreviews();
    wakeLooking = restLooking();
    stop.throwIfAborted();
    const { heard } = leaving.value;
    const mix = soundAsked(recipe, leaving.value) && heard ? mixingFrom(heard) : null;
    const unheard = mix && heard ? await missingSounds(heard.sounds) : [];
    if (unheard.length > 0)
      return failed(
        `The recording of ${unheard.join(', ')} is missing, so the film would leave without it. Nothing was written: bring it in again, mute it, or choose no sound.`,
      );
    const running = startHandover(
      orderFor(project, recipe, leaving.value, job, listsOf(project, recipe, leaving.value)),
      folder,
      onEvent,
      mix,
      // A loop that was made to see it leaves as it is.
      triedLoop(project, recipe),
    );
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
    wakePreviews?.();
    wakeLooking?.();
  }
}
