import { checkEffect, type EffectId, type Finish, type FinishEffect, MOST_EFFECTS } from '@/core/document/finish';
import type { Project } from '@/core/document/model';
import { mapMove, mapPlace } from '@/core/edit/mapping';
import type { StepRules } from '@/core/edit/rule';
import { done, mustBeDone, type Outcome, refused } from '@/core/outcome';

const withFinish = (project: Project, finish: Finish): Project => ({ ...project, finish });

const effectOf = ({ finish }: Project, effectId: EffectId): FinishEffect | null => finish.find(({ id }) => id === effectId) ?? null;

function placeOf({ finish }: Project, effectId: EffectId): Outcome<number> {
  const place = finish.findIndex(({ id }) => id === effectId);
  return place < 0 ? refused('That effect is no longer part of the finish.') : done(place);
}

/** Steps on the finish of the film. */
export const finishSteps: StepRules<'setEffect' | 'moveEffect'> = {
  setEffect: {
    apply(project, { effectId, effect, index }) {
      const { finish } = project;
      const place = finish.findIndex(({ id }) => id === effectId);
      if (effect === null) return done(place < 0 ? project : withFinish(project, finish.toSpliced(place, 1)));
      if (effect.id !== effectId) return refused('An effect keeps its name.');
      const checked = checkEffect(effect);
      if (!checked.ok) return checked;
      if (place >= 0) return done(withFinish(project, finish.with(place, effect)));
      if (finish.length >= MOST_EFFECTS) return refused(`A finish has at most ${MOST_EFFECTS} effects.`);
      if (index < 0 || index > finish.length) return refused(`There is no place ${index + 1} in the finish.`);
      return done(withFinish(project, finish.toSpliced(index, 0, effect)));
    },
    invert(before, { effectId, index }) {
      const place = before.finish.findIndex(({ id }) => id === effectId);
      return { type: 'setEffect', effectId, effect: effectOf(before, effectId), index: place < 0 ? index : place };
    },
    map: ({ from, to }, step) => done({ ...step, index: mapPlace(from.finish, to.finish, step.index, step.effectId) }),
    expects: (before, { effectId }) => effectOf(before, effectId),
  },
  moveEffect: {
    apply(project, { effectId, index }) {
      const place = placeOf(project, effectId);
      if (!place.ok) return place;
      const { finish } = project;
      if (index < 0 || index >= finish.length) return refused(`There is no place ${index + 1} in the finish.`);
      const effect = finish[place.value] as FinishEffect;
      return done(index === place.value ? project : withFinish(project, finish.toSpliced(place.value, 1).toSpliced(index, 0, effect)));
    },
    invert: (before, { effectId }) => ({ type: 'moveEffect', effectId, index: mustBeDone(placeOf(before, effectId)) }),
    map({ from, to }, step) {
      const place = mapMove(from.finish, to.finish, step.effectId, step.index, 'The effect');
      return place.ok ? done({ ...step, index: place.value }) : place;
    },
    expects: () => null,
  },
};
