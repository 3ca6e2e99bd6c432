import { drawingById, type Level, levelById, type Project, type Shot } from '@/core/document/model';
import { checkSound } from '@/core/document/sound';
import { checkNumber } from '@/core/edit/drawingNumber';
import { done, type Outcome, refused } from '@/core/outcome';
import { framesOfRuns, tidyRuns } from '@/core/sheet/runs';
import { checkLength, LONGEST_SHOT_FRAMES } from '@/core/time/counts';

/*
 * What must hold of a level or a shot that comes into the document whole: every id is used once in the
 * project, numbers are numbers and stand once on their level, exposures and charts name drawings that are
 * there, and lengths are possible.
 */

/** Whether any level of the project has a drawing of that id. */
export const hasDrawing = (project: Project, drawingId: string): boolean =>
  project.shots.some((shot) => shot.levels.some((level) => drawingById(level, drawingId) !== undefined));

/** Whether any shot of the project has a level of that id. */
const hasLevel = (project: Project, levelId: string): boolean => project.shots.some((shot) => levelById(shot, levelId) !== undefined);

/** Whether any shot of the project, or its reel, has a sound of that id. */
export const hasSound = (project: Project, soundId: string): boolean =>
  [project.reel, ...project.shots].some(({ sounds }) => sounds.some((sound) => sound.id === soundId));

function firstTwice(values: readonly string[]): string | undefined {
  const seen = new Set<string>();
  return values.find((value) => seen.size === seen.add(value).size);
}

/** Refuses a level that couldn't stand in the project. */
export function checkWholeLevel(project: Project, level: Level): Outcome<null> {
  if (hasLevel(project, level.id)) return refused(`${level.name} is in the project already.`);
  if (level.name.trim() === '') return refused('A level needs a name.');
  for (const drawing of level.drawings) {
    const number = checkNumber(drawing.number);
    if (!number.ok) return number;
    if (hasDrawing(project, drawing.id)) return refused(`Drawing ${drawing.number} of ${level.name} is in the project already.`);
  }
  const sameNumber = firstTwice(level.drawings.map((drawing) => drawing.number));
  if (sameNumber !== undefined) return refused(`${level.name} would have two drawings ${sameNumber}.`);
  if (firstTwice(level.drawings.map((drawing) => drawing.id)) !== undefined) return refused(`${level.name} would have one drawing twice.`);
  const ids = new Set(level.drawings.map((drawing) => drawing.id));
  for (const run of level.exposures) {
    if (run.drawing !== null && !ids.has(run.drawing)) return refused(`${level.name} exposes a drawing it doesn’t have.`);
    const length = checkLength(run.frames);
    if (!length.ok) return length;
  }
  if (tidyRuns(level.exposures) !== level.exposures) return refused(`The exposures of ${level.name} are not in their one form.`);
  const frames = framesOfRuns(level.exposures);
  if (frames > LONGEST_SHOT_FRAMES) return refused(`${level.name} would run ${frames} frames; the most is ${LONGEST_SHOT_FRAMES}.`);
  for (const chart of level.charts) {
    const named = [chart.fromDrawing, chart.toDrawing, ...chart.ticks.flatMap((tick) => tick.drawing ?? [])];
    if (named.some((id) => !ids.has(id))) return refused(`A timing chart of ${level.name} names a drawing it doesn’t have.`);
  }
  if (firstTwice(level.charts.map((chart) => chart.id)) !== undefined) return refused(`${level.name} would have one timing chart twice.`);
  return done(null);
}

/** Refuses a shot that couldn't stand in the project. */
export function checkWholeShot(project: Project, shot: Shot): Outcome<null> {
  const length = checkLength(shot.frames);
  if (!length.ok) return length;
  if (firstTwice(shot.levels.map((level) => level.id)) !== undefined) return refused(`Shot ${shot.code} would have one level twice.`);
  for (const level of shot.levels) {
    const whole = checkWholeLevel(project, level);
    if (!whole.ok) return whole;
  }
  const drawingTwice = firstTwice(shot.levels.flatMap((level) => level.drawings.map((drawing) => drawing.id)));
  if (drawingTwice !== undefined) return refused(`Shot ${shot.code} would have one drawing on two levels.`);
  if (firstTwice(shot.sounds.map((sound) => sound.id)) !== undefined) return refused(`Shot ${shot.code} would have one sound twice.`);
  for (const sound of shot.sounds) {
    const checked = checkSound(sound);
    if (!checked.ok) return checked;
    if (hasSound(project, sound.id)) return refused(`${sound.name} is in the project already.`);
  }
  if (shot.notes.some((note) => note.frame < 0 || !Number.isInteger(note.frame))) return refused('A note stands on a frame from 1 on.');
  const noteTwice = firstTwice(shot.notes.map((note) => `${note.kind} ${note.frame}`));
  return noteTwice === undefined ? done(null) : refused('A frame has one note, one word and one accent at most.');
}
