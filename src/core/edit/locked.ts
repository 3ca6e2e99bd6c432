import { type Level, levelById, type Project, shotById } from '@/core/document/model';
import type { Step } from '@/core/edit/step';

function levelIn(project: Project, shotId: string, levelId: string): Level | undefined {
  const shot = shotById(project, shotId);
  return shot && levelById(shot, levelId);
}

/**
 * The first locked level whose drawings, exposures or charts a step would change; undefined when there is
 * none. What is said about a level — its name, its place, whether it is seen or locked — can be changed
 * always. Steps themselves know nothing of locks: what was accepted once must stay acceptable.
 */
export function lockedLevelOf(project: Project, step: Step): Level | undefined {
  switch (step.type) {
    case 'together':
      for (const part of step.steps) {
        const level = lockedLevelOf(project, part);
        if (level) return level;
      }
      return undefined;
    case 'setTiming':
      return step.shots
        .flatMap((timing) => timing.levels.map(({ levelId }) => levelIn(project, timing.shotId, levelId)))
        .find((level) => level?.locked);
    case 'removeShot':
      return shotById(project, step.shotId)?.levels.find((level) => level.locked);
    case 'describeLevel':
    case 'moveLevel':
    case 'addLevel':
      return undefined;
    default: {
      if (!('levelId' in step)) return undefined;
      const level = levelIn(project, step.shotId, step.levelId);
      return level?.locked ? level : undefined;
    }
  }
}
