import type { Project } from '@/core/document/model';
import { chartSteps } from '@/core/edit/chartSteps';
import { checkSteps } from '@/core/edit/checkSteps';
import { drawingSteps } from '@/core/edit/drawingSteps';
import { exposureSteps } from '@/core/edit/exposureSteps';
import { finishSteps } from '@/core/edit/finishSteps';
import { levelSteps } from '@/core/edit/levelSteps';
import type { Mapping } from '@/core/edit/mapping';
import { reelSteps } from '@/core/edit/reelSteps';
import type { StepRule, StepRules } from '@/core/edit/rule';
import { shotSteps } from '@/core/edit/shotSteps';
import { soundSteps } from '@/core/edit/soundSteps';
import type { Step, StepOf, StepType } from '@/core/edit/step';
import { timingSteps } from '@/core/edit/timingSteps';
import { done, mustBeDone, type Outcome } from '@/core/outcome';

/** Several steps are one: all of them or none. Mapped part by part, see `@/core/edit/rebase`. */
const together: Pick<StepRule<'together'>, 'apply' | 'invert'> = {
  apply(project, { steps }) {
    let document = project;
    for (const step of steps) {
      const next = applyStep(document, step);
      if (!next.ok) return next;
      document = next.value;
    }
    return done(document);
  },
  invert(before, { words, steps }) {
    const inverses: Step[] = [];
    let document = before;
    for (const step of steps) {
      inverses.unshift(invertStep(document, step));
      document = mustBeDone(applyStep(document, step));
    }
    return { type: 'together', words, steps: inverses };
  },
};

type SingleStepType = Exclude<StepType, 'together'>;

/** A step that is not several. */
export type SingleStep = StepOf<SingleStepType>;

/** The one table of steps: what each kind does, what undoes it, and what it becomes on another document. */
const STEP_TABLE: StepRules<SingleStepType> & { readonly together: typeof together } = {
  ...shotSteps,
  ...reelSteps,
  ...timingSteps,
  ...soundSteps,
  ...checkSteps,
  ...finishSteps,
  ...levelSteps,
  ...drawingSteps,
  ...exposureSteps,
  ...chartSteps,
  together,
};

/** The rule of a step; the table holds for each kind the rule of that kind, which the compiler can't follow through an index. */
const ruleOf = (step: Step) => STEP_TABLE[step.type] as StepRule<StepType>;

const singleRuleOf = (step: SingleStep) => STEP_TABLE[step.type] as StepRule<SingleStepType>;

/** The document after a step, or why the step can't be made; the same document when it changes nothing. */
export const applyStep = (project: Project, step: Step): Outcome<Project> => ruleOf(step).apply(project, step);

/** The step that undoes `step` once it has been applied to `before`; `step` must apply to `before`. */
export const invertStep = (before: Project, step: Step): Step => ruleOf(step).invert(before, step);

/** Every kind of step there is. */
export const STEP_TYPES = Object.keys(STEP_TABLE) as readonly StepType[];

/** What a step becomes on `mapping.to`, or why it can't be made there. */
export const mapStep = (mapping: Mapping, step: SingleStep): Outcome<Step> => singleRuleOf(step).map(mapping, step);

/** What a step replaces; `step` must apply to `before`. */
export const stepExpects = (before: Project, step: SingleStep): unknown => singleRuleOf(step).expects(before, step);
