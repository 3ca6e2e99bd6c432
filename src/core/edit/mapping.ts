import { type Level, type LevelId, levelById, type Project, type Shot, type ShotId, shotById } from '@/core/document/model';
import { ALIKE, type Alignment, alignedFrame } from '@/core/edit/alignment';
import { done, type Outcome, refused } from '@/core/outcome';
import { plural } from '@/core/time/counts';
import { rateName, sameRate } from '@/core/time/rate';

/** Two documents a step lies between: the one it was made on, and the one it is to be made on. */
export type Mapping = {
  readonly from: Project;
  readonly to: Project;
  /** How the columns of levels lie to each other; a level that isn't here is alike in both. */
  readonly columns: ReadonlyMap<LevelId, Alignment>;
};

/** The step as it is: it names what it is for by ids alone. */
export const asItIs = <S>(_mapping: Mapping, step: S): Outcome<S> => done(step);

const durationWords = (frames: number, { rate }: Project) => `${Number(((frames * rate.den) / rate.num).toFixed(3))} s`;

/** Refuses what is said in frames once a frame lasts another time; `frames` are told as the time they were. */
export function checkSameRate({ from, to }: Mapping, frames: number | null): Outcome<null> {
  if (sameRate(from.rate, to.rate)) return done(null);
  const were =
    frames === null ? '' : ` ${plural(frames, 'frame')} were ${durationWords(frames, from)} then and are ${durationWords(frames, to)} now.`;
  return refused(`The film went from ${rateName(from.rate)} to ${rateName(to.rate)} frames a second meanwhile.${were}`);
}

/** Where frames of a level lie now; refused when they were changed meanwhile, or when a frame lasts another time. */
export function mapFrames(
  mapping: Mapping,
  levelId: LevelId,
  startFrame: number,
  frames: number,
  toldFrames: number | null = frames,
): Outcome<number> {
  const rate = checkSameRate(mapping, toldFrames);
  if (!rate.ok) return rate;
  const now = alignedFrame(mapping.columns.get(levelId) ?? ALIKE, startFrame, frames);
  if (now !== null) return done(now);
  const number = startFrame + mapping.from.firstFrameNumber;
  return refused(
    frames > 1 ? `Frames ${number} to ${number + frames - 1} were changed meanwhile.` : `Frame ${number} was changed meanwhile.`,
  );
}

type WithId = { readonly id: string };

/**
 * The place in a list for what stood, or was to stand, at `index`: after the same one as before, or in
 * front of the same one when that is gone.
 */
export function mapPlace(from: readonly WithId[], to: readonly WithId[], index: number, except?: string): number {
  const were = from.filter((each) => each.id !== except);
  const are = to.filter((each) => each.id !== except);
  for (let before = index - 1; before >= 0; before--) {
    const place = are.findIndex((each) => each.id === were[before]?.id);
    if (place !== -1) return place + 1;
  }
  const after = were.slice(index).map((each) => are.findIndex((other) => other.id === each.id));
  return after.find((place) => place !== -1) ?? Math.min(index, are.length);
}

/**
 * The place in a list for what was to be moved to `index`. Refused when it was moved among those that are in both lists, and when
 * it would stay where it is since what it was to be moved past is gone: that may come back, and then it would never have been moved.
 */
export function mapMove(from: readonly WithId[], to: readonly WithId[], id: string, index: number, what: string): Outcome<number> {
  const inBoth = (list: readonly WithId[], rest: readonly WithId[]) => list.filter((each) => rest.some((one) => one.id === each.id));
  const place = (list: readonly WithId[]) => list.findIndex((each) => each.id === id);
  if (place(inBoth(from, to)) !== place(inBoth(to, from))) return refused(`${what} was moved to another place meanwhile.`);
  const now = mapPlace(from, to, index, id);
  const [start, end] = [Math.min(place(from), index), Math.max(place(from), index)];
  const isPastGone = from.slice(start, end + 1).some((each) => !to.some((other) => other.id === each.id));
  return now === place(to) && index !== place(from) && isPastGone
    ? refused(`${what} stays where it is: what it was to be moved past was taken out meanwhile.`)
    : done(now);
}

/** Where a frame of a shot lies now, when all its columns agree on that; else the same frame. */
export function mapShotFrame({ columns }: Mapping, shot: Shot, frame: number): number {
  const alignments = shot.levels.filter((level) => level.kind !== 'still').map((level) => columns.get(level.id) ?? ALIKE);
  const [first, ...rest] = alignments.map((alignment) => alignedFrame(alignment, frame, 1));
  return first === undefined || first === null || rest.some((place) => place !== first) ? frame : first;
}

/** A shot in both documents; undefined unless it is in both. */
export function shotInBoth({ from, to }: Mapping, shotId: ShotId): { from: Shot; to: Shot } | undefined {
  const [was, is] = [shotById(from, shotId), shotById(to, shotId)];
  return was && is && { from: was, to: is };
}

/** A level in both documents; undefined unless it is in both. */
export function levelInBoth(mapping: Mapping, shotId: ShotId, levelId: LevelId): { from: Level; to: Level } | undefined {
  const shot = shotInBoth(mapping, shotId);
  const [was, is] = [shot && levelById(shot.from, levelId), shot && levelById(shot.to, levelId)];
  return was && is && { from: was, to: is };
}

/**
 * A list of named things as both made it: `mine` changed `were`, which are `are` by now. Null when both
 * changed the same one, each in another way.
 */
export function mergeLists<T>(
  were: readonly T[],
  are: readonly T[],
  mine: readonly T[],
  keyOf: (each: T) => string,
  same: (a: T, b: T) => boolean,
): readonly T[] | null {
  const byKey = (list: readonly T[]) => new Map(list.map((each) => [keyOf(each), each]));
  const [was, is, wanted] = [byKey(were), byKey(are), byKey(mine)];
  const alike = (a: T | undefined, b: T | undefined) => (a === undefined || b === undefined ? a === b : same(a, b));
  const merged: T[] = [];
  for (const key of new Set([...is.keys(), ...wanted.keys(), ...was.keys()])) {
    const [before, theirs, ours] = [was.get(key), is.get(key), wanted.get(key)];
    if (!alike(theirs, before) && !alike(ours, before) && !alike(theirs, ours)) return null;
    const chosen = alike(ours, before) ? theirs : ours;
    if (chosen !== undefined) merged.push(chosen);
  }
  return merged;
}
