import { type ConformedLevel, conformLevel, type Vanishing } from '@/core/conform/conformLevel';
import { conformedFrame } from '@/core/conform/rounding';
import { type Act, actOf } from '@/core/edit/act';
import type { Step } from '@/core/edit/step';
import { type Outcome, refused } from '@/core/outcome';
import type { Project, Shot, ShotId } from '@/core/sheet/document';
import { sameRuns } from '@/core/sheet/runs';
import { checkLength, LONGEST_SHOT_FRAMES, plural } from '@/core/time/counts';
import { type Rate, rateName, sameRate } from '@/core/time/rate';

/*
 * Three ways to another rate.
 *   keepTime    every drawing starts when it started, to the nearest frame; counts change, time stays
 *   keepCounts  every exposure keeps its frames, so the film lasts longer or shorter; what is tied to the
 *               sound (words and accents on the sheet), and the sounds themselves, keep their time
 *   readAs      nothing on the sheet changes but the clock; words, accents and sounds keep their frames too
 */
export type RateWay = 'keepTime' | 'keepCounts' | 'readAs';

/** What is to be brought to another rate: the project with all its shots, or one shot that was planned at another rate than its project has. */
export type RateScope =
  | { readonly kind: 'project'; readonly to: Rate }
  | { readonly kind: 'shot'; readonly shotId: ShotId; readonly plannedAt: Rate };

export type RateChange = { readonly scope: RateScope; readonly way: RateWay; readonly vanishing: Vanishing };

/** One shot before and after a rate change. */
export type ConformedShot = {
  readonly shot: Shot;
  readonly oldFrames: number;
  readonly newFrames: number;
  readonly levels: readonly ConformedLevel[];
};

/** A rate change worked out: nothing is changed until its act is taken. */
export type RatePlan = {
  readonly from: Rate;
  readonly to: Rate;
  readonly way: RateWay;
  readonly shots: readonly ConformedShot[];
  readonly oldFrames: number;
  readonly newFrames: number;
  /** Largest distance of a drawing's start from where it stood in time, in milliseconds; 0 unless time is kept. */
  readonly mostDriftMilliseconds: number;
  /** Drawings that get no frame of their own, as `shot level number`. */
  readonly vanishing: readonly string[];
  /** The one undoable act, or why it can't be taken. */
  readonly act: Outcome<Act>;
};

function keptShot(shot: Shot): ConformedShot {
  return { shot, oldFrames: shot.frames, newFrames: shot.frames, levels: [] };
}

function conformShot(shot: Shot, reelStart: number, from: Rate, to: Rate, vanishing: Vanishing): ConformedShot {
  const newFrames = Math.max(1, conformedFrame(reelStart + shot.frames, from, to) - conformedFrame(reelStart, from, to));
  const levels = shot.levels.filter((level) => level.kind !== 'still').map((level) => conformLevel(level, from, to, vanishing, reelStart));
  return { shot, oldFrames: shot.frames, newFrames, levels };
}

function shotSteps({ shot, newFrames, levels }: ConformedShot): readonly Step[] {
  const exposures = levels.flatMap(({ level, exposures }): Step[] => {
    if (sameRuns(level.exposures, exposures)) return [];
    const removedFrames = level.exposures.reduce((sum, run) => sum + run.frames, 0);
    return [{ type: 'replaceRuns', shotId: shot.id, levelId: level.id, startFrame: 0, removedFrames, runs: exposures }];
  });
  return newFrames === shot.frames ? exposures : [...exposures, { type: 'setShotLength', shotId: shot.id, frames: newFrames }];
}

/** Notes on their new frames: all of them when time is kept, only words and accents when counts are. Two that meet are written on one. */
function notesStep(shot: Shot, way: RateWay, move: (frame: number) => number): readonly Step[] {
  if (way === 'readAs' || shot.notes.length === 0) return [];
  const byPlace = new Map<string, Shot['notes'][number]>();
  for (const note of shot.notes) {
    const frame = way === 'keepTime' || note.kind !== 'note' ? move(note.frame) : note.frame;
    const place = `${note.kind} ${frame}`;
    const there = byPlace.get(place);
    byPlace.set(place, { ...note, frame, words: there ? `${there.words} / ${note.words}` : note.words });
  }
  const notes = [...byPlace.values()].toSorted((a, b) => a.frame - b.frame);
  const same = notes.length === shot.notes.length && notes.every((note, index) => note.frame === shot.notes[index]?.frame);
  return same ? [] : [{ type: 'setNotes', shotId: shot.id, notes }];
}

/** Sounds start on the frame nearest to when they started; a recording lasts as long as it lasts. */
const soundsSteps = (shot: Shot, way: RateWay, move: (frame: number) => number): readonly Step[] =>
  way === 'readAs'
    ? []
    : shot.sounds.flatMap(({ id: soundId, startFrame: before }): Step[] => {
        const startFrame = move(before);
        return startFrame === before ? [] : [{ type: 'changeSound', shotId: shot.id, soundId, change: { startFrame } }];
      });

/** The shots a change speaks of, each with where it starts on the reel (a shot alone counts from its own start). */
function shotsIn(project: Project, scope: RateScope): readonly { shot: Shot; reelStart: number }[] {
  if (scope.kind === 'shot') return project.shots.filter((shot) => shot.id === scope.shotId).map((shot) => ({ shot, reelStart: 0 }));
  let reelStart = 0;
  return project.shots.map((shot) => {
    const placed = { shot, reelStart };
    reelStart += shot.frames;
    return placed;
  });
}

function actFor(plan: Omit<RatePlan, 'act'>, steps: readonly Step[], vanishing: Vanishing): Outcome<Act> {
  const { from, to, way } = plan;
  if (sameRate(from, to)) return refused(`It is at ${rateName(to)} already: choose another rate.`);
  for (const shot of plan.shots) {
    const length = checkLength(shot.newFrames);
    if (!length.ok) return refused(`Shot ${shot.shot.code} would have ${shot.newFrames} frames; the most is ${LONGEST_SHOT_FRAMES}.`);
  }
  if (plan.vanishing.length > 0 && vanishing === 'refuse') {
    const shown = plan.vanishing.slice(0, 8).join(', ');
    const more = plan.vanishing.length > 8 ? ` and ${plan.vanishing.length - 8} more` : '';
    return refused(
      `${plural(plan.vanishing.length, 'exposure')} would get no frame at ${rateName(to)}: ${shown}${more}. Choose to keep them a frame each, or to leave them out.`,
    );
  }
  const words = `${rateName(from)} → ${rateName(to)}, ${{ keepTime: 'time kept', keepCounts: 'counts kept', readAs: 'read as' }[way]}`;
  return actOf(steps, words, `${words}: ${plural(plan.oldFrames, 'frame')} become ${plan.newFrames}`);
}

/** Works a rate change out in full: every exposure before and after, the totals, and the one step that makes it. */
export function planRateChange(project: Project, change: RateChange): RatePlan {
  const { scope, way, vanishing } = change;
  const [from, to] = scope.kind === 'project' ? [project.rate, scope.to] : [scope.plannedAt, project.rate];
  const placed = shotsIn(project, scope);
  const shots = placed.map(({ shot, reelStart }) =>
    way === 'keepTime' ? conformShot(shot, reelStart, from, to, vanishing) : keptShot(shot),
  );
  const steps: Step[] = scope.kind === 'project' ? [{ type: 'setFormat', rate: to }] : [];
  for (const [index, { shot, reelStart }] of placed.entries()) {
    const start = conformedFrame(reelStart, from, to);
    const move = (frame: number) => conformedFrame(reelStart + frame, from, to) - start;
    steps.push(...shotSteps(shots[index] as ConformedShot), ...notesStep(shot, way, move), ...soundsSteps(shot, way, move));
  }
  const tables = shots.flatMap((shot) => shot.levels.flatMap((level) => level.table));
  const plan = {
    from,
    to,
    way,
    shots,
    oldFrames: shots.reduce((sum, shot) => sum + shot.oldFrames, 0),
    newFrames: shots.reduce((sum, shot) => sum + shot.newFrames, 0),
    mostDriftMilliseconds: tables.reduce((most, row) => Math.max(most, Math.abs(row.driftMilliseconds)), 0),
    vanishing: shots.flatMap(({ shot, levels }) =>
      levels.flatMap(({ level, vanishing: numbers }) => numbers.map((number) => `${shot.code} ${level.name} ${number}`)),
    ),
  };
  return { ...plan, act: actFor(plan, steps, vanishing) };
}

/** How many exposures of a plan change their frames, and how they go: `2 → 3` with how often. */
export function changesOfLength(
  plan: RatePlan,
): readonly { readonly oldFrames: number; readonly newFrames: number; readonly times: number }[] {
  const counts = new Map<number, { oldFrames: number; newFrames: number; times: number }>();
  const rows = plan.shots.flatMap((shot) => shot.levels.map((level) => level.table)).flat();
  for (const { oldFrames, newFrames } of rows) {
    const key = oldFrames * LONGEST_SHOT_FRAMES + newFrames;
    const entry = counts.get(key);
    if (entry) entry.times++;
    else counts.set(key, { oldFrames, newFrames, times: 1 });
  }
  return [...counts.values()].toSorted((a, b) => a.oldFrames - b.oldFrames || a.newFrames - b.newFrames);
}
