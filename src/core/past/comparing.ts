import equal from 'fast-deep-equal';
import type { Drawing, Level, Project, Shot } from '@/core/document/model';
import { drawingById } from '@/core/document/model';
import { framesOfReel } from '@/core/reel/reel';

/* What is different between a project as it was and as it is, shot by shot: for whoever looks for what went wrong, and when. */

/** Something as it was and as it is; undefined where there is none. */
export type Both<T> = { readonly was: T; readonly is: T };

/** Frames of a shot, from one (inclusive, from 0) to another (exclusive), on which a level showed another drawing; by their numbers, null for blank. */
export type OtherFrames = { readonly fromFrame: number; readonly toFrame: number } & Both<string | null>;

/** A drawing that is another: its picture, its number or its role, or that it is there at all. */
export type OtherDrawing = { readonly drawingId: string; readonly number: string } & Both<Drawing | undefined>;

export type LevelComparison = {
  readonly levelId: string;
  readonly name: string;
  readonly state: 'same' | 'changed' | 'gone' | 'new';
  readonly frames: readonly OtherFrames[];
  readonly drawings: readonly OtherDrawing[];
};

/** How much there is: frames, drawings, and those of them that are drawn. */
export type Counts = { readonly frames: number; readonly drawings: number; readonly drawn: number };

export type ShotComparison = {
  readonly shotId: string;
  readonly code: string;
  readonly state: 'same' | 'changed' | 'gone' | 'new';
  readonly shots: Both<Shot | undefined>;
  readonly counts: Both<Counts>;
  readonly levels: readonly LevelComparison[];
};

export type ProjectComparison = { readonly counts: Both<Counts & { readonly shots: number }>; readonly shots: readonly ShotComparison[] };

const NOTHING: Counts = { frames: 0, drawings: 0, drawn: 0 };

function countsOf(shot: Shot | undefined): Counts {
  if (!shot) return NOTHING;
  const drawings = shot.levels.filter(({ kind }) => kind !== 'guide').flatMap((level) => level.drawings);
  return { frames: shot.frames, drawings: drawings.length, drawn: drawings.filter(({ picture }) => picture !== null).length };
}

/** How much a project has: the frames of its reel, and the drawings of its shots. */
function totalsOf(project: Project): Counts & { readonly shots: number } {
  const each = project.shots.map(countsOf);
  const sum = (of: (counts: Counts) => number) => each.reduce((all, counts) => all + of(counts), 0);
  return { shots: project.shots.length, frames: framesOfReel(project), drawings: sum((c) => c.drawings), drawn: sum((c) => c.drawn) };
}

/** Where a run ends, and what it shows; past the last there is nothing for ever. */
function* runsOf(level: Level): Generator<{ readonly endFrame: number; readonly drawing: Drawing | null }> {
  let endFrame = 0;
  for (const { drawing, frames } of level.exposures) {
    endFrame += frames;
    yield { endFrame, drawing: drawingById(level, drawing) ?? null };
  }
  yield { endFrame: Number.POSITIVE_INFINITY, drawing: null };
}

/** Frames on which two columns show other drawings, each stretch once. Which drawing it is counts, not how it is numbered. */
function otherFrames(was: Level, is: Level): readonly OtherFrames[] {
  const found: OtherFrames[] = [];
  const [older, newer] = [runsOf(was), runsOf(is)];
  let [before, after] = [older.next().value, newer.next().value];
  for (let frame = 0; before && after && Number.isFinite(Math.min(before.endFrame, after.endFrame)); ) {
    const toFrame = Math.min(before.endFrame, after.endFrame);
    if (before.drawing?.id !== after.drawing?.id)
      found.push({ fromFrame: frame, toFrame, was: before.drawing?.number ?? null, is: after.drawing?.number ?? null });
    frame = toFrame;
    if (before.endFrame === toFrame) before = older.next().value;
    if (after.endFrame === toFrame) after = newer.next().value;
  }
  return found;
}

function otherDrawings(was: Level, is: Level): readonly OtherDrawing[] {
  const newer = new Map(is.drawings.map((drawing) => [drawing.id, drawing]));
  const older = new Set(was.drawings.map(({ id }) => id));
  return [
    ...was.drawings.flatMap((drawing) => {
      const today = newer.get(drawing.id);
      return equal(drawing, today) ? [] : [{ drawingId: drawing.id, number: drawing.number, was: drawing, is: today }];
    }),
    ...is.drawings.flatMap((drawing) =>
      older.has(drawing.id) ? [] : [{ drawingId: drawing.id, number: drawing.number, was: undefined, is: drawing }],
    ),
  ];
}

const EMPTY: Pick<Level, 'drawings' | 'exposures'> = { drawings: [], exposures: [] };

function compareLevels(was: Level | undefined, is: Level | undefined): LevelComparison | null {
  const level = is ?? was;
  if (!level) return null;
  const { id: levelId, name } = level;
  const [before, after] = [was ?? { ...level, ...EMPTY }, is ?? { ...level, ...EMPTY }];
  const state = !was ? 'new' : !is ? 'gone' : equal(was, is) ? 'same' : 'changed';
  return { levelId, name, state, frames: otherFrames(before, after), drawings: otherDrawings(before, after) };
}

/** What two lists have, each id once: in the order of the newer one, and what is gone after it. */
function inBoth<T extends { readonly id: string }>(was: readonly T[], is: readonly T[]): readonly Both<T | undefined>[] {
  const older = new Map(was.map((each) => [each.id, each]));
  const newer = new Set(is.map(({ id }) => id));
  return [
    ...is.map((each) => ({ was: older.get(each.id), is: each })),
    ...was.flatMap((each) => (newer.has(each.id) ? [] : [{ was: each, is: undefined }])),
  ];
}

function compareShots(shots: Both<Shot | undefined>): ShotComparison | null {
  const { was, is } = shots;
  const shot = is ?? was;
  if (!shot) return null;
  return {
    shotId: shot.id,
    code: shot.code,
    state: !was ? 'new' : !is ? 'gone' : equal(was, is) ? 'same' : 'changed',
    shots,
    counts: { was: countsOf(was), is: countsOf(is) },
    levels: inBoth(was?.levels ?? [], is?.levels ?? []).flatMap((levels) => compareLevels(levels.was, levels.is) ?? []),
  };
}

/** What is different between a project as it was and as it is. */
export const compareProjects = (was: Project, is: Project): ProjectComparison => ({
  counts: { was: totalsOf(was), is: totalsOf(is) },
  shots: inBoth(was.shots, is.shots).flatMap((shots) => compareShots(shots) ?? []),
});
