import { type Drawing, type Level, type Project, replaceById } from '@/core/document/model';
import type { TimingChart } from '@/core/document/timingChart';
import { checkNumber } from '@/core/edit/drawingNumber';
import { runsDifference } from '@/core/edit/exposureSteps';
import { currentProperties, findDrawing, findLevel, withLevel, withProperties } from '@/core/edit/locate';
import { asItIs, levelInBoth, type Mapping, mapPlace } from '@/core/edit/mapping';
import type { StepRules } from '@/core/edit/rule';
import { hasDrawing } from '@/core/edit/wholeness';
import { done, mustBeDone, type Outcome, refused } from '@/core/outcome';
import { numberAfter, numbersTaken } from '@/core/sheet/numbers';
import { tidyRuns } from '@/core/sheet/runs';

const hasAlready = (level: Level, number: string) => refused(`${level.name} has a drawing ${number} already.`);

function insertDrawing(project: Project, step: { shotId: string; levelId: string; index: number }, drawing: Drawing): Outcome<Project> {
  const found = findLevel(project, step.shotId, step.levelId);
  if (!found.ok) return found;
  const { level } = found.value;
  const number = checkNumber(drawing.number);
  if (!number.ok) return number;
  const clash = level.drawings.find((other) => other.number === drawing.number || other.id === drawing.id);
  if (clash) return hasAlready(level, clash.number);
  if (hasDrawing(project, drawing.id)) return refused(`Drawing ${drawing.number} is on another level already.`);
  if (step.index < 0 || step.index > level.drawings.length) return refused(`${level.name} has no place ${step.index + 1} for a drawing.`);
  return done(withLevel(project, step.shotId, step.levelId, (at) => ({ ...at, drawings: at.drawings.toSpliced(step.index, 0, drawing) })));
}

function withDrawing(project: Project, step: { shotId: string; levelId: string; drawingId: string }, change: Partial<Drawing>): Project {
  return withLevel(project, step.shotId, step.levelId, (level) => {
    const drawings = replaceById(level.drawings, step.drawingId, (drawing) => withProperties(drawing, change));
    return drawings === level.drawings ? level : { ...level, drawings };
  });
}

function locate(
  project: Project,
  step: { shotId: string; levelId: string; drawingId: string },
): Outcome<{ level: Level; drawing: Drawing }> {
  const found = findLevel(project, step.shotId, step.levelId);
  if (!found.ok) return found;
  const drawing = findDrawing(found.value.level, step.drawingId);
  return drawing.ok ? done({ level: found.value.level, drawing: drawing.value }) : drawing;
}

/** The column with every exposure of a drawing left blank: what stays keeps its frames. */
const runsWithout = (level: Level, drawingId: string) =>
  tidyRuns(level.exposures.map((run) => (run.drawing === drawingId ? { drawing: null, frames: run.frames } : run)));

/** The charts without a drawing: those between it and another go, a tick of it waits for another drawing. */
function chartsWithout(level: Level, drawingId: string): readonly TimingChart[] {
  const named = (chart: TimingChart) =>
    chart.fromDrawing === drawingId || chart.toDrawing === drawingId || chart.ticks.some((tick) => tick.drawing === drawingId);
  if (!level.charts.some(named)) return level.charts;
  return level.charts
    .filter((chart) => chart.fromDrawing !== drawingId && chart.toDrawing !== drawingId)
    .map((chart) => ({
      ...chart,
      ticks: chart.ticks.map((tick) => (tick.drawing === drawingId ? { ...tick, drawing: null } : tick)),
    }));
}

type NewDrawing = { readonly shotId: string; readonly levelId: string; readonly index: number };

/** Where a new drawing comes in the level as it is now, and its number: another one when it was given to another drawing meanwhile. */
function mapNewDrawing(mapping: Mapping, step: NewDrawing, number: string): { index: number; number: string } {
  const level = levelInBoth(mapping, step.shotId, step.levelId);
  if (!level) return { index: step.index, number };
  const taken = numbersTaken(level.to);
  return {
    index: mapPlace(level.from.drawings, level.to.drawings, step.index),
    number: taken.has(number) ? numberAfter(number, taken) : number,
  };
}

type DrawingStepType = 'addDrawing' | 'copyDrawing' | 'deleteDrawing' | 'describeDrawing' | 'renumberDrawings' | 'setPicture';

/** Steps on the drawings of a level. */
export const drawingSteps: StepRules<DrawingStepType> = {
  addDrawing: {
    apply: (project, step) => insertDrawing(project, step, step.drawing),
    invert: (_before, { shotId, levelId, drawing }) => ({ type: 'deleteDrawing', shotId, levelId, drawingId: drawing.id }),
    map(mapping, step) {
      const { index, number } = mapNewDrawing(mapping, step, step.drawing.number);
      return done({ ...step, index, drawing: { ...step.drawing, number } });
    },
    expects: () => null,
  },
  copyDrawing: {
    apply(project, step) {
      const source = locate(project, { ...step, drawingId: step.sourceId });
      if (!source.ok) return source;
      return insertDrawing(project, step, { ...source.value.drawing, id: step.copyId, number: step.number });
    },
    invert: (_before, { shotId, levelId, copyId }) => ({ type: 'deleteDrawing', shotId, levelId, drawingId: copyId }),
    map(mapping, step) {
      const source = mustBeDone(locate(mapping.from, { ...step, drawingId: step.sourceId })).drawing;
      const now = locate(mapping.to, { ...step, drawingId: step.sourceId });
      const { index, number } = mapNewDrawing(mapping, step, step.number);
      const { picture, role } = source;
      if (now.ok && now.value.drawing.picture === picture && now.value.drawing.role === role) return done({ ...step, index, number });
      // What was copied is what was there then.
      const { shotId, levelId, copyId } = step;
      return done({ type: 'addDrawing', shotId, levelId, drawing: { id: copyId, number, role, picture }, index });
    },
    expects: () => null,
  },
  deleteDrawing: {
    apply(project, step) {
      const found = locate(project, step);
      if (!found.ok) return found;
      return done(
        withLevel(project, step.shotId, step.levelId, (level) => ({
          ...level,
          drawings: level.drawings.filter((drawing) => drawing.id !== step.drawingId),
          exposures: runsWithout(level, step.drawingId),
          charts: chartsWithout(level, step.drawingId),
        })),
      );
    },
    invert(before, { shotId, levelId, drawingId }) {
      const { level, drawing } = mustBeDone(locate(before, { shotId, levelId, drawingId }));
      return {
        type: 'together',
        words: `Delete drawing ${drawing.number}`,
        steps: [
          { type: 'addDrawing', shotId, levelId, drawing, index: level.drawings.indexOf(drawing) },
          runsDifference(shotId, levelId, runsWithout(level, drawingId), level.exposures),
          ...(chartsWithout(level, drawingId) === level.charts
            ? []
            : [{ type: 'setCharts' as const, shotId, levelId, charts: level.charts }]),
        ],
      };
    },
    map: asItIs,
    expects(before, step) {
      const { level, drawing } = mustBeDone(locate(before, step));
      return { drawing, exposedFrames: level.exposures.flatMap((run) => (run.drawing === drawing.id ? run.frames : [])) };
    },
  },
  describeDrawing: {
    apply(project, step) {
      const found = locate(project, step);
      if (!found.ok) return found;
      if (step.number !== undefined) {
        const number = checkNumber(step.number);
        if (!number.ok) return number;
        if (found.value.level.drawings.some((other) => other.number === step.number && other.id !== step.drawingId))
          return hasAlready(found.value.level, step.number);
      }
      return done(withDrawing(project, step, { number: step.number, role: step.role }));
    },
    invert(before, step) {
      const { drawing } = mustBeDone(locate(before, step));
      return {
        type: 'describeDrawing',
        shotId: step.shotId,
        levelId: step.levelId,
        drawingId: step.drawingId,
        ...currentProperties(drawing, ['number', 'role'], step),
      };
    },
    map: asItIs,
    expects: (before, step) => currentProperties(mustBeDone(locate(before, step)).drawing, ['number', 'role'], step),
  },
  renumberDrawings: {
    apply(project, { shotId, levelId, order }) {
      const found = findLevel(project, shotId, levelId);
      if (!found.ok) return found;
      const { level } = found.value;
      const numbers = new Set<string>();
      const byId = new Map(level.drawings.map((drawing) => [drawing.id, drawing]));
      const drawings: Drawing[] = [];
      for (const { drawingId, number } of order) {
        const checked = checkNumber(number);
        if (!checked.ok) return checked;
        if (numbers.has(number)) return refused(`Two drawings of ${level.name} would have the number ${number}.`);
        numbers.add(number);
        const drawing = byId.get(drawingId);
        if (!drawing || !byId.delete(drawingId)) return refused(`${level.name} has no drawing ${drawingId} any more.`);
        drawings.push(withProperties(drawing, { number }));
      }
      if (byId.size > 0) return refused(`Drawing ${[...byId.values()][0]?.number} of ${level.name} was left out of the new order.`);
      if (drawings.every((drawing, index) => drawing === level.drawings[index])) return done(project);
      return done(withLevel(project, shotId, levelId, (at) => ({ ...at, drawings })));
    },
    invert(before, { shotId, levelId }) {
      const { level } = mustBeDone(findLevel(before, shotId, levelId));
      return {
        type: 'renumberDrawings',
        shotId,
        levelId,
        order: level.drawings.map(({ id, number }) => ({ drawingId: id, number })),
      };
    },
    map: asItIs,
    expects: (before, { shotId, levelId }) =>
      mustBeDone(findLevel(before, shotId, levelId)).level.drawings.map(({ id, number }) => [id, number]),
  },
  setPicture: {
    apply(project, step) {
      const found = locate(project, step);
      if (!found.ok) return found;
      if (step.picture !== null && !/^[0-9a-f]{64}$/.test(step.picture))
        return refused(`“${step.picture}” is not a picture’s digest: it must be 64 hexadecimal digits.`);
      return done(withDrawing(project, step, { picture: step.picture }));
    },
    invert: (before, step) => ({ ...step, picture: mustBeDone(locate(before, step)).drawing.picture }),
    map: asItIs,
    expects: (before, step) => mustBeDone(locate(before, step)).drawing.picture,
  },
};
