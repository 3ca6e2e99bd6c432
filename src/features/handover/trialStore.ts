import { create } from 'zustand';
import type { Project } from '@/core/document/model';
import { sizeText } from '@/core/document/size';
import { isLoopKind, type LoopOptions } from '@/core/output/loop';
import { loopWords, rungsDown, sizeOfRung } from '@/core/output/loopLadder';
import { planOf, type Recipe } from '@/core/output/recipe';
import { orderFor } from '@/features/handover/handoverOrder';
import { formatFor, useHandoverStore } from '@/features/handover/handoverStore';
import { today } from '@/features/handover/today';
import { type RunningTrial, type TrialEnd, type TriedLoop, type TriedPicture, tryLoop } from '@/workers/client';

/*
 * A loop is made before it is handed over, so that its exact size is known and its pictures can be looked at; nothing of that is
 * saved until it is handed over as it is. One is tried at a time: another takes its place.
 */

/** What is known of the loop that is asked for. While `isLooking` the colours of all its pictures are looked at, before the first is made. `trying` is what is tried to come below a size, `fitted` what came of that. */
export type Trial =
  | { readonly kind: 'none' }
  | {
      readonly kind: 'making';
      readonly framesDone: number;
      readonly frames: number;
      readonly isLooking: boolean;
      readonly trying: string | null;
    }
  | { readonly kind: 'made'; readonly loop: TriedLoop; readonly microseconds: readonly number[]; readonly fitted: string | null }
  | { readonly kind: 'refused'; readonly reason: string }
  | { readonly kind: 'stopped' };

export const useTrialStore = create<{ readonly trial: Trial }>(() => ({ trial: { kind: 'none' } }));

const tell = (trial: Trial): void => useTrialStore.setState({ trial });

let running: RunningTrial | null = null;
/** Counts what was begun, so that what ends late is known to be of before. */
let turn = 0;

/** What the loop that stands here was made of. */
let made: { readonly project: Project; readonly recipe: Recipe } | null = null;

/** Whether the loop that stands here is that of a project and a recipe. */
export const isMadeOf = (project: Project, recipe: Recipe): boolean => made?.project === project && made.recipe === recipe;

/** The loop that stands here, where it is that of a project and a recipe. */
export function triedLoop(project: Project, recipe: Recipe): TriedLoop | null {
  const { trial } = useTrialStore.getState();
  return trial.kind === 'made' && isMadeOf(project, recipe) ? trial.loop : null;
}

function begin(): number {
  running?.close();
  running = null;
  made = null;
  return ++turn;
}

/** Stops whatever is tried. */
export function stopTrial(): void {
  begin();
  tell({ kind: 'stopped' });
}

/** Forgets what was tried, as it is no longer what is asked for. */
export function dropTrial(): void {
  begin();
  tell({ kind: 'none' });
}

/** Makes the loop of a recipe; null where it was stopped meanwhile. */
async function make(project: Project, recipe: Recipe, own: number, trying: string | null): Promise<TrialEnd | null> {
  const leaving = planOf(project, recipe, formatFor(recipe), today());
  if (!leaving.ok) return { kind: 'refused', reason: leaving.reason };
  const { frames } = leaving.value.plan;
  tell({ kind: 'making', framesDone: 0, frames, isLooking: false, trying });
  // How far it is comes by another way than how it ended, and may come after that.
  let hasEnded = false;
  const trial = tryLoop(orderFor(project, recipe, leaving.value, { id: 'trial', wasBegun: false }), (framesDone, isLooking) => {
    if (own === turn && !hasEnded) tell({ kind: 'making', framesDone, frames, isLooking, trying });
  });
  running = trial;
  try {
    const end = await trial.end;
    return own === turn ? end : null;
  } catch (error) {
    if (own !== turn) return null;
    return { kind: 'refused', reason: `The loop could not be tried: ${error instanceof Error ? error.message : 'for an unknown reason'}.` };
  } finally {
    hasEnded = true;
  }
}

/** Makes the loop that is asked for, and tells of it. */
export async function tryRecipe(project: Project, recipe: Recipe): Promise<void> {
  const own = begin();
  const end = await make(project, recipe, own, null);
  if (end?.kind === 'tried') made = { project, recipe };
  if (end) tell(end.kind === 'tried' ? { ...end, kind: 'made', fitted: null } : end);
}

/** Tries one way after another to come below a size, takes the first that does, and says what it is. */
export async function fitLoop(project: Project, recipe: Recipe, mostBytes: number): Promise<void> {
  const { options, formatId } = recipe;
  if (options.kind !== 'loop' || !isLoopKind(formatId)) return;
  const own = begin();
  const asked = planOf(project, recipe, formatFor(recipe), today());
  if (!asked.ok) return tell({ kind: 'refused', reason: asked.reason });
  const { size } = asked.value.plan;
  for (const rung of rungsDown(formatId, { ...options, mostBytes: null }, size.width)) {
    const rungOptions: LoopOptions = { ...rung.options, mostBytes };
    const tried: Recipe = {
      ...recipe,
      options: rungOptions,
      taking: { ...recipe.taking, size: sizeOfRung(rung, size.width, recipe.taking.size) },
    };
    const plan = planOf(project, tried, formatFor(tried), today());
    const words = `${loopWords(formatId, rungOptions)}, ${plan.ok ? sizeText(plan.value.plan.size) : `${rung.widthPx} px wide`}`;
    const end = await make(project, tried, own, words);
    if (!end) return;
    if (end.kind === 'refused') return tell(end);
    if (end.loop.file.size > mostBytes) {
      running?.close();
      continue;
    }
    made = { project, recipe: tried };
    useHandoverStore.setState({ recipe: tried });
    return tell({ ...end, kind: 'made', fitted: words });
  }
  begin();
  tell({
    kind: 'refused',
    reason: 'Not even a quarter of the size with the fewest colours stays below that: take fewer frames, or allow more.',
  });
}

/** A picture of the loop that was made; null where there is none any more. */
export async function triedPicture(place: number): Promise<TriedPicture | null> {
  const own = turn;
  const picture = await running?.picture(place).catch(() => null);
  return picture && own === turn ? picture : null;
}
