import { type Drawing, type Level, levelById, type Project, type Shot } from '@/core/document/model';
import { newProject } from '@/core/document/newProject';
import { type Edit, type EditContext, editOf } from '@/core/edit/edit';
import type { Step } from '@/core/edit/step';
import { applyStep } from '@/core/edit/table';
import { done, type Outcome } from '@/core/outcome';
import { framesOfRuns, sliceRuns } from '@/core/sheet/runs';
import { plural } from '@/core/time/counts';
import { drawingWords, someOf } from '@/core/words';

/*
 * What an edit says beforehand is what then happens: its steps are made, unseen, and what the sheet shows after is held
 * against what it shows now. What can't be made is refused before it is promised.
 */

/** Frames of a level that become more or fewer: where it ended (exclusive), and by how many frames. */
export type Resize = { readonly levelId: string; readonly endFrame: number; readonly difference: number };

/** The shot alone in a project, which is all that steps on its sheet look at. */
const alone = (shot: Shot, firstNumber: number): Project =>
  newProject({
    id: 'alone',
    title: shot.code,
    rate: { num: 24, den: 1 },
    size: { width: 1280, height: 720 },
    firstFrameNumber: firstNumber,
    shots: [shot],
  });

/** The shot with all drawings that steps add: added together, since one by one thousands of them cost too much; a new drawing changes nothing else. */
function withDrawings(shot: Shot, steps: readonly Step[]): Shot {
  const added = new Map<string, Drawing[]>();
  for (const step of steps) {
    if (step.type !== 'addDrawing') continue;
    const ofLevel = added.get(step.levelId);
    if (ofLevel) ofLevel.push(step.drawing);
    else added.set(step.levelId, [step.drawing]);
  }
  if (added.size === 0) return shot;
  return { ...shot, levels: shot.levels.map((level) => ({ ...level, drawings: [...level.drawings, ...(added.get(level.id) ?? [])] })) };
}

/** The shot after steps on it, or why they can't be made. */
export function shotAfter({ shot, firstNumber }: EditContext, steps: readonly Step[]): Outcome<Shot> {
  let project = alone(withDrawings(shot, steps), firstNumber);
  for (const step of steps) {
    if (step.type === 'addDrawing') continue;
    const next = applyStep(project, step);
    if (!next.ok) return next;
    project = next.value;
  }
  return done(project.shots[0] as Shot);
}

/** How many frames from one to another show a drawing, or show none. */
const framesShowing = (level: Level, fromFrame: number, toFrame: number, something: boolean): number =>
  sliceRuns(level.exposures, fromFrame, toFrame).reduce((sum, run) => sum + ((run.drawing !== null) === something ? run.frames : 0), 0);

/** What becomes of the rest of a level when some of its frames become more or fewer; empty where there is no rest. */
function restWords({ following }: EditContext, before: Level, { endFrame, difference }: Resize): string {
  const total = framesOfRuns(before.exposures);
  if (difference === 0 || endFrame >= total) return '';
  const by = plural(Math.abs(difference), 'frame');
  if (following === 'push') return `what follows moves ${by} ${difference > 0 ? 'down' : 'up'}`;
  if (difference > 0) {
    const covered = framesShowing(before, endFrame, Math.min(total, endFrame + difference), true);
    return covered === 0 ? '' : `covering ${plural(covered, 'frame')} of what follows`;
  }
  const blank = framesShowing(before, endFrame + difference, endFrame, true);
  return blank === 0 ? '' : `leaving ${plural(blank, 'frame')} blank`;
}

/** The same words of several levels once; of some of them, or different ones, with their names. */
function ofLevels(told: readonly { readonly level: Level; readonly words: string }[]): string {
  const said = [...new Set(told.map(({ words }) => words))];
  if (said.every((words) => words === '')) return '';
  if (said.length === 1) return `, ${said[0]}`;
  const named = said.flatMap((words) => {
    const levels = told.filter((each) => each.words === words).map(({ level }) => level.name);
    return words === '' ? [] : [`${words} on ${levels.join(', ')}`];
  });
  return `, ${named.join(', ')}`;
}

const MOST_NAMED = 12;

/** Numbers of drawings a level exposed before and exposes no more. */
function noLongerExposed(before: Level, after: Level): readonly string[] {
  const left = new Set(after.exposures.map((run) => run.drawing));
  const lost = new Set(before.exposures.map((run) => run.drawing).filter((drawing) => drawing !== null && !left.has(drawing)));
  return before.drawings.filter((drawing) => lost.has(drawing.id)).map((drawing) => drawing.number);
}

function lostWords(pairs: readonly (readonly [Level, Level])[]): string {
  const lost = pairs
    .map(([before, after]) => ({ level: before, numbers: noLongerExposed(before, after) }))
    .filter(({ numbers }) => numbers.length > 0);
  const count = lost.reduce((sum, { numbers }) => sum + numbers.length, 0);
  if (count === 0) return '';
  const named = lost.map(({ level, numbers }) => {
    const shown = someOf(numbers, MOST_NAMED);
    return pairs.length === 1 ? shown : drawingWords(level.name, shown);
  });
  return `; ${named.join(', ')} ${count === 1 ? 'is' : 'are'} no longer exposed`;
}

function pastEndWords(shot: Shot, after: Shot, pairs: readonly (readonly [Level, Level])[]): string {
  const past = (level: Level, frames: number) => Math.max(0, framesOfRuns(level.exposures) - frames);
  const further = pairs.filter(([before, now]) => past(now, after.frames) > past(before, shot.frames));
  if (further.length === 0) return '';
  return `; ${further.map(([, now]) => `${now.name} then runs ${plural(past(now, after.frames), 'frame')} past the end of shot ${shot.code}`).join(', ')}`;
}

/** What steps come to apart from what they are for: what moves, is covered or left blank, shows nowhere any more, or runs past the end. */
export function consequenceWords(context: EditContext, after: Shot, resized: readonly Resize[]): string {
  const { shot } = context;
  const pairs = shot.levels.flatMap((before): (readonly [Level, Level])[] => {
    const now = levelById(after, before.id);
    return now && now.exposures !== before.exposures ? [[before, now]] : [];
  });
  const rest = resized.flatMap((each) => {
    const level = levelById(shot, each.levelId);
    return level ? [{ level, words: restWords(context, level, each) }] : [];
  });
  return ofLevels(rest) + lostWords(pairs) + pastEndWords(shot, after, pairs);
}

/** Several steps as one edit that says what they come to; refused when they can't be made. */
export function tellingEdit(
  context: EditContext,
  steps: readonly Step[],
  words: string,
  says = words,
  resized: readonly Resize[] = [],
): Outcome<Edit> {
  const edit = editOf(steps, words, says);
  if (!edit.ok) return edit;
  const after = shotAfter(context, steps);
  if (!after.ok) return after;
  return editOf(steps, words, says + consequenceWords(context, after.value, resized));
}
