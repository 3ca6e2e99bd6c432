import equal from 'fast-deep-equal';
import { type ConformedExposure, type ConformedLevel, conformLevel, type VanishingRule } from '@/core/conform/conformLevel';
import { conformedClips, conformedItems, conformedTrims, type MovedCut, type ReelPlace } from '@/core/conform/conformReel';
import { type LengthChange, LengthChanges } from '@/core/conform/lengthChanges';
import { conformedFrame } from '@/core/conform/rounding';
import { levelById, type Project, type Shot, type ShotId } from '@/core/document/model';
import type { Edit } from '@/core/edit/edit';
import type { ItemTiming, ShotTiming, StepOf } from '@/core/edit/step';
import { done, type Outcome, refused } from '@/core/outcome';
import { sameRuns } from '@/core/sheet/runs';
import { checkLength, LONGEST_SHOT_FRAMES, plural } from '@/core/time/counts';
import { type Rate, rateName, sameRate } from '@/core/time/rate';
import { drawingWords, someOf } from '@/core/words';

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

export type RateChange = { readonly scope: RateScope; readonly way: RateWay; readonly vanishing: VanishingRule };

/** One shot before and after a rate change. */
export type ConformedShot = {
  readonly shot: Shot;
  readonly oldFrames: number;
  readonly newFrames: number;
  readonly levels: readonly ConformedLevel[];
};

/** A rate change worked out: nothing is changed until its edit is taken. */
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
  /** What the reel showed, or heard, and would no longer, since it lies past the end of its shot. */
  readonly pastEnd: readonly string[];
  /** Cuts that can't stand on the frame nearest to their time, since what is before them has a frame at least. */
  readonly movedCuts: readonly MovedCut[];
  /** The one undoable edit, or why it can't be taken. */
  readonly edit: Outcome<Edit>;
};

function keptShot(shot: Shot): ConformedShot {
  return { shot, oldFrames: shot.frames, newFrames: shot.frames, levels: [] };
}

/** A shot as it lies on the reel: the frame it starts on before and after. */
type ShotPlacement = { readonly shot: Shot; readonly reelStart: number };

function conformShot({ shot, reelStart }: ShotPlacement, newStart: number, from: Rate, to: Rate, vanishing: VanishingRule): ConformedShot {
  const newFrames = Math.max(1, conformedFrame(reelStart + shot.frames, from, to) - newStart);
  const levels = shot.levels
    .filter((level) => level.kind !== 'still')
    .map((level) => conformLevel(level, from, to, vanishing, reelStart, newStart));
  return { shot, oldFrames: shot.frames, newFrames, levels };
}

/** Notes on their new frames: all of them when time is kept, only words and accents when counts are. Two that meet are written on one. */
function movedNotes(shot: Shot, way: RateWay, move: (frame: number) => number): Shot['notes'] {
  if (way === 'readAs') return shot.notes;
  const byPlace = new Map<string, Shot['notes'][number]>();
  for (const note of shot.notes) {
    const frame = way === 'keepTime' || note.kind !== 'note' ? move(note.frame) : note.frame;
    const place = `${note.kind} ${frame}`;
    const there = byPlace.get(place);
    byPlace.set(place, { ...note, frame, words: there ? `${there.words} / ${note.words}` : note.words });
  }
  return [...byPlace.values()].toSorted((a, b) => a.frame - b.frame);
}

/** What a shot's counts become. Sounds start on the frame nearest to when they started; a recording lasts as long as it lasts. */
function timingOf({ shot, newFrames, levels }: ConformedShot, way: RateWay, move: (frame: number) => number): ShotTiming {
  return {
    shotId: shot.id,
    frames: newFrames,
    notes: movedNotes(shot, way, move),
    sounds: way === 'readAs' ? [] : shot.sounds.map(({ id: soundId, startFrame }) => ({ soundId, startFrame: move(startFrame) })),
    levels: levels.map(({ level, exposures }) => ({ levelId: level.id, exposures })),
  };
}

/** Only what a timing changes; null when it changes nothing. */
function changedOnly(shot: Shot, timing: ShotTiming): ShotTiming | null {
  const sounds = timing.sounds.filter(({ soundId, startFrame }) =>
    shot.sounds.some((sound) => sound.id === soundId && sound.startFrame !== startFrame),
  );
  const levels = timing.levels.filter(({ levelId, exposures }) => !sameRuns(levelById(shot, levelId)?.exposures ?? [], exposures));
  const notes = equal(timing.notes, shot.notes) ? shot.notes : timing.notes;
  const isSame = sounds.length === 0 && levels.length === 0 && notes === shot.notes && timing.frames === shot.frames;
  return isSame ? null : { ...timing, notes, sounds, levels };
}

/** What lay within its shot and no longer does, as words. */
function pastEndOf({ shot, newFrames, levels }: ConformedShot, way: RateWay, move: (frame: number) => number): readonly string[] {
  const leaves = (frame: number) => frame < shot.frames && move(frame) >= newFrames;
  const drawings = levels.flatMap(({ level, table }) => {
    if (!table.startsFrom(newFrames)) return [];
    const rows = [...table];
    const isSeen = (row: ConformedExposure) => row.newFrames > 0 && row.newStart < newFrames;
    const stillSeen = new Set(rows.filter(isSeen).map((row) => row.drawing));
    const lost = rows.filter((row) => row.oldStart < shot.frames && row.newFrames > 0 && !stillSeen.has(row.drawing));
    return [...new Set(lost.map((row) => `${shot.code} ${drawingWords(level.name, row.number)}`))];
  });
  if (way === 'readAs') return drawings;
  const notes = shot.notes.filter((note) => (way === 'keepTime' || note.kind !== 'note') && leaves(note.frame));
  return [
    ...drawings,
    ...shot.sounds.filter((sound) => leaves(sound.startFrame)).map((sound) => `${shot.code} ${sound.name}`),
    ...notes.map((note) => `${shot.code} ${note.kind} “${note.words}”`),
  ];
}

/** Of what is named at most. */
const MOST_NAMED = 8;

type Timing = Pick<StepOf<'setTiming'>, 'shots' | 'items' | 'reelSounds'>;

function editFor(
  plan: Omit<RatePlan, 'edit'>,
  scope: RateScope,
  timing: Timing,
  vanishing: VanishingRule,
  firstNumber: number,
): Outcome<Edit> {
  const { from, to, way } = plan;
  if (sameRate(from, to)) return refused(`It is at ${rateName(to)} already: choose another rate.`);
  for (const shot of plan.shots) {
    const length = checkLength(shot.newFrames);
    if (!length.ok) return refused(`Shot ${shot.shot.code} would have ${shot.newFrames} frames; the most is ${LONGEST_SHOT_FRAMES}.`);
  }
  if (plan.vanishing.length > 0 && vanishing === 'refuse') {
    return refused(
      `${plural(plan.vanishing.length, 'exposure')} would get no frame at ${rateName(to)}: ${someOf(plan.vanishing, MOST_NAMED)}. Choose to keep them a frame each, or to leave them out.`,
    );
  }
  if (scope.kind === 'shot' && timing.shots.length + timing.items.length === 0) return refused('There is nothing here to change.');
  const words = `${rateName(from)} → ${rateName(to)}, ${{ keepTime: 'keeping time', keepCounts: 'keeping counts', readAs: 'read as' }[way]}`;
  const past = plan.pastEnd.length === 0 ? '' : `; past the end of its shot and no longer there: ${someOf(plan.pastEnd, MOST_NAMED)}`;
  return done({
    // The project's own rate is what a film's counts are at; a shot planned at another is brought to it.
    step: { type: 'setTiming', words, rate: to, ...timing },
    says: `${words}: ${plural(plan.oldFrames, 'frame')} become ${plan.newFrames}${past}${cutWords(plan, firstNumber)}`,
  });
}

/** What is told of cuts that move in time. */
const cutWords = ({ movedCuts }: Pick<RatePlan, 'movedCuts'>, firstNumber: number): string =>
  movedCuts.length === 0
    ? ''
    : `; moved by half a frame or more: ${someOf(
        movedCuts.map(({ name, newFrame }) => `the cut to ${name} on frame ${newFrame + firstNumber}`),
        MOST_NAMED,
      )}`;

/** A change as it is worked out shot by shot. */
type Working = {
  readonly shots: ConformedShot[];
  readonly timings: ShotTiming[];
  readonly pastEnd: string[];
};

/** Works one shot out, which lies on the reel from `reelStart` on, and from `newStart` on then; gives what becomes of its frames. */
function workOut(working: Working, placed: ShotPlacement, newStart: number, from: Rate, to: Rate, { way, vanishing }: RateChange) {
  const { shot, reelStart } = placed;
  const conformed = way === 'keepTime' ? conformShot(placed, newStart, from, to, vanishing) : keptShot(shot);
  // Within a shot that keeps its counts, time is that since the shot's own start.
  const boundary = (frame: number) =>
    way === 'keepTime' ? Math.max(0, conformedFrame(reelStart + frame, from, to) - newStart) : conformedFrame(frame, from, to);
  // What began within a shot on its last frames stays within it, where the nearest frame is the first of the next.
  const move = (frame: number) =>
    way === 'keepTime' && frame < shot.frames ? Math.min(boundary(frame), conformed.newFrames - 1) : boundary(frame);
  const timing = changedOnly(shot, timingOf(conformed, way, move));
  if (timing) working.timings.push(timing);
  working.pastEnd.push(...pastEndOf(conformed, way, move));
  working.shots.push(conformed);
  return { newFrames: conformed.newFrames, boundary };
}

/** Only the counts of the reel that change. */
const changedItems = (project: Project, items: readonly ItemTiming[]): readonly ItemTiming[] => {
  const byId = new Map(project.reel.items.map((item) => [item.id, item]));
  return items.filter(({ itemId, trim, frames }) => {
    const item = byId.get(itemId);
    return item?.kind === 'gap' ? item.frames !== frames : item !== undefined && !equal(item.trim, trim);
  });
};

/**
 * Works a rate change out in full: every exposure before and after, the totals, and the one step that makes it. `places` are
 * the items of the reel in order. A shot whose first frame the reel doesn't show where it first shows the shot, and one that
 * is not on the reel, is counted from its own start.
 */
export function planRateChange(project: Project, places: readonly ReelPlace[], change: RateChange): RatePlan {
  const { scope, way, vanishing } = change;
  const [from, to] = scope.kind === 'project' ? [project.rate, scope.to] : [scope.plannedAt, project.rate];
  const working: Working = { shots: [], timings: [], pastEnd: [] };
  const known = new Map<ShotId, ReturnType<typeof workOut>>();
  const shotAt = (shot: Shot, reelStart: number, newStart: number) => {
    const before = known.get(shot.id);
    if (before) return before;
    const conformed = workOut(working, { shot, reelStart }, newStart, from, to, change);
    known.set(shot.id, conformed);
    return conformed;
  };
  const items: ItemTiming[] = [];
  let movedCuts: readonly MovedCut[] = [];
  let [oldFrames, newFrames] = [places.at(-1)?.endFrame ?? 0, 0];
  if (scope.kind === 'shot') {
    const shot = project.shots.find(({ id }) => id === scope.shotId);
    oldFrames = shot?.frames ?? 0;
    const conformed = shot && shotAt(shot, 0, 0);
    newFrames = conformed?.newFrames ?? 0;
    if (conformed && way === 'keepTime')
      items.push(
        ...conformedTrims(
          places.filter((place) => place.shot === shot),
          conformed,
        ),
      );
  } else if (way === 'keepTime') {
    const reel = conformedItems(places, from, to, ({ shot, fromFrame, startFrame }, newStart) =>
      fromFrame === 0 ? shotAt(shot, startFrame, newStart) : shotAt(shot, 0, 0),
    );
    items.push(...reel.items);
    newFrames = reel.newFrames;
    movedCuts = reel.movedCuts;
  } else {
    const clips = conformedClips(places, from, to);
    items.push(...clips.items);
    newFrames = clips.newFrames;
  }
  if (scope.kind === 'project') {
    for (const { shot } of places) if (shot) shotAt(shot, 0, 0);
    for (const shot of project.shots) shotAt(shot, 0, 0);
  }
  const { shots, timings, pastEnd } = working;
  const plan = {
    from,
    to,
    way,
    shots,
    oldFrames,
    newFrames,
    mostDriftMilliseconds: shots.reduce((most, { levels }) => Math.max(most, ...levels.map(({ table }) => table.mostDriftMilliseconds)), 0),
    vanishing: shots.flatMap(({ shot, levels }) =>
      levels.flatMap(({ level, vanishing: numbers }) => numbers.map((number) => `${shot.code} ${drawingWords(level.name, number)}`)),
    ),
    pastEnd,
    movedCuts,
  };
  const movesSounds = scope.kind === 'project' && way !== 'readAs';
  const timing = {
    shots: timings,
    items: changedItems(project, items),
    reelSounds: movesSounds
      ? project.reel.sounds.flatMap(({ id, startFrame }) => {
          const start = conformedFrame(startFrame, from, to);
          return start === startFrame ? [] : [{ soundId: id, startFrame: start }];
        })
      : [],
  };
  return { ...plan, edit: editFor(plan, scope, timing, vanishing, project.firstFrameNumber) };
}

/** How many exposures of a plan change their frames, and how they go: `2 → 3` with how often. */
export function changesOfLength(plan: RatePlan): readonly LengthChange[] {
  const changes = new LengthChanges();
  for (const { levels } of plan.shots)
    for (const { table } of levels) for (const { oldFrames, newFrames, times } of table.lengths()) changes.add(oldFrames, newFrames, times);
  return changes.all.toSorted((a, b) => a.oldFrames - b.oldFrames || a.newFrames - b.newFrames);
}
