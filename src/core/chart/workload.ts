import { type Drawing, type DrawingRole, drawingById, type Level, type LevelId, type Shot } from '@/core/document/model';
import { remembered, rememberedUnder } from '@/core/remembered';
import { type PlacedRun, placedRuns } from '@/core/sheet/runs';
import { addWork, NO_WORK, type Work } from '@/core/sheet/work';
import { nominalRate, type Rate } from '@/core/time/rate';

const worked = (level: Level) => level.kind !== 'guide';

const workOf = (drawings: readonly Drawing[]): Work => ({
  drawings: drawings.length,
  drawn: drawings.filter((drawing) => drawing.picture !== null).length,
});

type WorkByRole = Readonly<Record<DrawingRole, Work>>;

/** The work of a level's drawings by what they are: while exposures change, they stay. */
const drawingsByRole = remembered((drawings: readonly Drawing[]): WorkByRole => {
  const of = (role: DrawingRole) => workOf(drawings.filter((drawing) => drawing.role === role));
  return { key: of('key'), breakdown: of('breakdown'), inbetween: of('inbetween') };
});

/** The work of a list of shots by what the drawings are. */
export function workByRole(shots: readonly Shot[]): WorkByRole {
  const all = shots.flatMap((shot) => shot.levels.filter(worked).map((level) => drawingsByRole(level.drawings)));
  const of = (role: DrawingRole) => all.map((each) => each[role]).reduce(addWork, NO_WORK);
  return { key: of('key'), breakdown: of('breakdown'), inbetween: of('inbetween') };
}

/** A drawing that is still to be drawn, with the frame (from 0) on which it first shows; null when it is exposed nowhere. */
export type LeftDrawing = { readonly drawing: Drawing; readonly firstFrame: number | null };

/** The drawings of a level that are planned and not drawn yet, in the order they first show, never exposed ones last. */
export const leftToDraw = remembered((level: Level): readonly LeftDrawing[] => {
  const firstFrames = new Map<string | null, number>();
  for (const run of placedRuns(level.exposures)) if (!firstFrames.has(run.drawing)) firstFrames.set(run.drawing, run.startFrame);
  return level.drawings
    .filter((drawing) => drawing.picture === null)
    .map((drawing): LeftDrawing => ({ drawing, firstFrame: firstFrames.get(drawing.id) ?? null }))
    .toSorted((a, b) => (a.firstFrame ?? Number.MAX_SAFE_INTEGER) - (b.firstFrame ?? Number.MAX_SAFE_INTEGER));
});

/** One second of a film: how many times a drawing changes in it, and how many drawings show in it for the first time. */
export type SecondOfWork = { readonly second: number; readonly changes: number; readonly fresh: number };

/** Frames of a shot as they come one after another: from `startFrame` (inclusive) to `endFrame` (exclusive), the shot's frame `fromFrame` first; a null shot shows nothing. */
export type ShotPlace = { readonly shot: Shot | null; readonly fromFrame: number; readonly startFrame: number; readonly endFrame: number };

/** A shot alone, whole. */
export const wholePlace = (shot: Shot): ShotPlace => ({ shot, fromFrame: 0, startFrame: 0, endFrame: shot.frames });

/**
 * Drawings a second over shots one after another. A second is as timecode counts it, so many frames
 * as the rate's whole number; the last may be shorter. What shows on a place's first frame counts as a change there. Guides
 * and still levels don't count.
 */
export function drawingsPerSecond(places: readonly ShotPlace[], rate: Rate): readonly SecondOfWork[] {
  const perSecond = nominalRate(rate);
  const frames = places.at(-1)?.endFrame ?? 0;
  const seconds = Array.from({ length: Math.ceil(frames / perSecond) }, (_, second) => ({ second, changes: 0, fresh: 0 }));
  const seenOn = new Map<LevelId, Set<string>>();
  for (const { shot, fromFrame, startFrame, endFrame } of places) {
    if (!shot) continue;
    const shownEnd = Math.min(shot.frames, fromFrame + endFrame - startFrame);
    for (const level of shot.levels) {
      if (level.kind !== 'animated') continue;
      const seen = seenOn.get(level.id) ?? new Set<string>();
      seenOn.set(level.id, seen);
      for (const run of placedRuns(level.exposures)) {
        if (run.drawing === null || run.startFrame >= shownEnd || run.endFrame <= fromFrame) continue;
        const entry = seconds[Math.floor((startFrame + Math.max(run.startFrame, fromFrame) - fromFrame) / perSecond)];
        if (!entry) continue;
        entry.changes++;
        if (!seen.has(run.drawing)) entry.fresh++;
        seen.add(run.drawing);
      }
    }
  }
  return seconds;
}

/** Exposures of a level that could do with fewer drawings: frames both inclusive, from 0; the numbers it would save. */
export type Saving = {
  readonly levelId: LevelId;
  readonly levelName: string;
  readonly fromFrame: number;
  readonly toFrame: number;
  readonly step: number;
  readonly saved: readonly string[];
};

/*
 * Exposures shorter than the step that stand one after another, two at least, belong together. On the step
 * with its time kept it shows what stands at every step's first frame; a drawing that is then exposed
 * nowhere on the level any more is saved.
 */

/** What putting shorter exposures on a step would save on a level, within frames (inclusive) or all of it. */
export const savingsOf = (level: Level, step: number, fromFrame = 0, toFrame = Number.MAX_SAFE_INTEGER): readonly Saving[] =>
  savingsUnder(level, `${step} ${fromFrame} ${toFrame}`, () => savingsWithin(level, step, fromFrame, toFrame));

/** While one level is changed, the others of a shot are as they were. */
const savingsUnder = rememberedUnder<Level, string, readonly Saving[]>();

function savingsWithin(level: Level, step: number, fromFrame: number, toFrame: number): readonly Saving[] {
  if (level.kind !== 'animated') return [];
  const runs = placedRuns(level.exposures);
  const groups: PlacedRun[][] = [];
  let open: PlacedRun[] = [];
  for (const run of runs) {
    const within = run.startFrame >= fromFrame && run.endFrame - 1 <= toFrame;
    if (within && run.drawing !== null && run.endFrame - run.startFrame < step) open.push(run);
    else {
      if (open.length > 1) groups.push(open);
      open = [];
    }
  }
  if (open.length > 1) groups.push(open);
  const exposures = timesEach(runs);
  return groups.flatMap((group) => {
    const saving = savedBy(level, exposures, group, step);
    return saving.saved.length > 0 ? [saving] : [];
  });
}

/** How often each drawing is exposed. */
function timesEach(runs: readonly PlacedRun[]): ReadonlyMap<string | null, number> {
  const times = new Map<string | null, number>();
  for (const { drawing } of runs) times.set(drawing, (times.get(drawing) ?? 0) + 1);
  return times;
}

function savedBy(level: Level, exposures: ReadonlyMap<string | null, number>, group: readonly PlacedRun[], step: number): Saving {
  const [first, last] = [group[0] as PlacedRun, group.at(-1) as PlacedRun];
  const within = timesEach(group);
  const kept = new Set<string | null>();
  for (const run of group) {
    const nextStep = first.startFrame + Math.ceil((run.startFrame - first.startFrame) / step) * step;
    if (nextStep < run.endFrame || exposures.get(run.drawing) !== within.get(run.drawing)) kept.add(run.drawing);
  }
  const lost = new Set(group.map((run) => run.drawing).filter((drawing) => !kept.has(drawing)));
  return {
    levelId: level.id,
    levelName: level.name,
    fromFrame: first.startFrame,
    toFrame: last.endFrame - 1,
    step,
    saved: [...lost].flatMap((drawing) => drawingById(level, drawing)?.number ?? []),
  };
}

/** Days it takes to draw what is left at so many drawings a day; 0 when nothing is. Throws unless `perDay` is from 1. */
export function daysOfWork(left: number, perDay: number): number {
  if (!(perDay >= 1)) throw new Error(`At ${perDay} drawings a day nothing gets done.`);
  return Math.ceil(left / perDay);
}
