import { currentProperties, findLevel, findShot, withLevel, withProperties, withShot } from '@/core/edit/locate';
import { asItIs, mapMove, mapPlace, shotInBoth } from '@/core/edit/mapping';
import type { StepRules } from '@/core/edit/rule';
import { checkWholeLevel } from '@/core/edit/wholeness';
import { done, mustBeDone, refused } from '@/core/outcome';

const DESCRIBED = ['name', 'kind', 'visible', 'locked', 'opacityPercent', 'blend'] as const;

/** Steps on the levels of a shot. */
export const levelSteps: StepRules<'addLevel' | 'removeLevel' | 'moveLevel' | 'describeLevel'> = {
  addLevel: {
    apply(project, { shotId, level, index }) {
      const shot = findShot(project, shotId);
      if (!shot.ok) return shot;
      const whole = checkWholeLevel(project, level);
      if (!whole.ok) return whole;
      if (index < 0 || index > shot.value.levels.length) return refused(`Place ${index + 1} among the levels doesn't exist.`);
      return done(withShot(project, shotId, (found) => ({ ...found, levels: found.levels.toSpliced(index, 0, level) })));
    },
    invert: (_before, { shotId, level }) => ({ type: 'removeLevel', shotId, levelId: level.id }),
    map(mapping, step) {
      const shot = shotInBoth(mapping, step.shotId);
      return done(shot ? { ...step, index: mapPlace(shot.from.levels, shot.to.levels, step.index) } : step);
    },
    expects: () => null,
  },
  removeLevel: {
    apply(project, { shotId, levelId }) {
      const found = findLevel(project, shotId, levelId);
      if (!found.ok) return found;
      return done(withShot(project, shotId, (shot) => ({ ...shot, levels: shot.levels.filter((level) => level.id !== levelId) })));
    },
    invert(before, { shotId, levelId }) {
      const { shot, level } = mustBeDone(findLevel(before, shotId, levelId));
      return { type: 'addLevel', shotId, level, index: shot.levels.indexOf(level) };
    },
    map: asItIs,
    expects: (before, { shotId, levelId }) => mustBeDone(findLevel(before, shotId, levelId)).level,
  },
  moveLevel: {
    apply(project, { shotId, levelId, index }) {
      const found = findLevel(project, shotId, levelId);
      if (!found.ok) return found;
      const { shot, level } = found.value;
      if (index < 0 || index >= shot.levels.length) return refused(`Place ${index + 1} among the levels doesn't exist.`);
      if (shot.levels[index] === level) return done(project);
      return done(
        withShot(project, shotId, () => ({ ...shot, levels: shot.levels.filter((other) => other !== level).toSpliced(index, 0, level) })),
      );
    },
    invert(before, { shotId, levelId }) {
      const { shot, level } = mustBeDone(findLevel(before, shotId, levelId));
      return { type: 'moveLevel', shotId, levelId, index: shot.levels.indexOf(level) };
    },
    map(mapping, step) {
      const shot = shotInBoth(mapping, step.shotId);
      if (!shot) return done(step);
      const place = mapMove(shot.from.levels, shot.to.levels, step.levelId, step.index, 'The level');
      return place.ok ? done({ ...step, index: place.value }) : place;
    },
    expects: () => null,
  },
  describeLevel: {
    apply(project, { shotId, levelId, change }) {
      const found = findLevel(project, shotId, levelId);
      if (!found.ok) return found;
      if (change.name?.trim() === '') return refused('A level needs a name.');
      const opacity = change.opacityPercent;
      if (opacity !== undefined && !(opacity >= 0 && opacity <= 100))
        return refused(`An opacity of ${opacity} % is not possible: use 0 to 100.`);
      return done(withLevel(project, shotId, levelId, (level) => withProperties(level, change)));
    },
    invert(before, { shotId, levelId, change }) {
      const { level } = mustBeDone(findLevel(before, shotId, levelId));
      return {
        type: 'describeLevel',
        shotId,
        levelId,
        change: currentProperties(level, DESCRIBED, change),
      };
    },
    map: asItIs,
    expects: (before, { shotId, levelId, change }) =>
      currentProperties(mustBeDone(findLevel(before, shotId, levelId)).level, DESCRIBED, change),
  },
};
