import type { Step, StepOf, StepType } from '@/core/edit/step';
import type { Outcome } from '@/core/outcome';
import type { Project } from '@/core/sheet/document';

/**
 * What one kind of step means. `apply` is pure and gives the same project back when nothing changes.
 * `invert` gives the step that undoes it on what `apply` made of `before`; it is asked only for steps
 * that apply.
 */
export type StepRule<T extends StepType> = {
  readonly apply: (project: Project, step: StepOf<T>) => Outcome<Project>;
  readonly invert: (before: Project, step: StepOf<T>) => Step;
};

/** The rules of a group of steps. */
export type StepRules<T extends StepType> = { readonly [K in T]: StepRule<K> };
