import {
  type Drawing,
  type DrawingId,
  type Level,
  type LevelId,
  levelById,
  type Project,
  replaceById,
  type Shot,
  type ShotId,
  shotById,
} from '@/core/document/model';
import { done, type Outcome, refused } from '@/core/outcome';

/** The shot a step speaks of, or why it can't be meant. */
export function findShot(project: Project, shotId: ShotId): Outcome<Shot> {
  const shot = shotById(project, shotId);
  return shot ? done(shot) : refused(`There is no shot ${shotId} in ${project.title} any more.`);
}

/** The level a step speaks of, or why it can't be meant. */
export function findLevel(project: Project, shotId: ShotId, levelId: LevelId): Outcome<{ shot: Shot; level: Level }> {
  const shot = findShot(project, shotId);
  if (!shot.ok) return shot;
  const level = levelById(shot.value, levelId);
  return level ? done({ shot: shot.value, level }) : refused(`There is no level ${levelId} in shot ${shot.value.code} any more.`);
}

/** The drawing a step speaks of, or why it can't be meant. */
export function findDrawing(level: Level, drawingId: DrawingId): Outcome<Drawing> {
  const drawing = level.drawings.find((candidate) => candidate.id === drawingId);
  return drawing ? done(drawing) : noSuchDrawing(level, drawingId);
}

/** The refusal for a drawing that is not on its level. */
export const noSuchDrawing = (level: Level, drawingId: DrawingId): Outcome<never> =>
  refused(`${level.name} has no drawing ${drawingId} any more.`);

/** Refuses a frame that is not one of the shot's. */
export function checkFrame({ firstFrameNumber }: Project, shot: Shot, frame: number): Outcome<number> {
  if (Number.isInteger(frame) && frame >= 0 && frame < shot.frames) return done(frame);
  return refused(
    `Frame ${frame + firstFrameNumber} is outside shot ${shot.code}: it has frames ${firstFrameNumber} to ${firstFrameNumber + shot.frames - 1}.`,
  );
}

/** The project with one shot changed; the same project when nothing changed. */
export function withShot(project: Project, shotId: ShotId, change: (shot: Shot) => Shot): Project {
  const shots = replaceById(project.shots, shotId, change);
  return shots === project.shots ? project : { ...project, shots };
}

/** The project with one level changed; the same project when nothing changed. */
export function withLevel(project: Project, shotId: ShotId, levelId: LevelId, change: (level: Level) => Level): Project {
  return withShot(project, shotId, (shot) => {
    const levels = replaceById(shot.levels, levelId, change);
    return levels === shot.levels ? shot : { ...shot, levels };
  });
}

/** A copy of `target` with the given properties, or `target` itself when it has them already. */
export function withProperties<T extends object>(target: T, change: Partial<T>): T {
  const changed = (Object.keys(change) as (keyof T)[]).some((key) => change[key] !== undefined && change[key] !== target[key]);
  if (!changed) return target;
  const defined = Object.fromEntries(Object.entries(change).filter(([, value]) => value !== undefined));
  return { ...target, ...defined };
}

/** The values `target` has now for the properties named in `change`: what undoes that change. */
export function currentProperties<T extends object, K extends keyof T>(
  target: T,
  keys: readonly K[],
  change: Partial<Pick<T, K>>,
): Partial<Pick<T, K>> {
  const current: Partial<Pick<T, K>> = {};
  for (const key of keys) if (change[key] !== undefined) current[key] = target[key];
  return current;
}
