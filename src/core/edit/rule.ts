import type { Project } from '@/core/document/model';
import type { Mapping } from '@/core/edit/mapping';
import type { Step, StepOf, StepType } from '@/core/edit/step';
import type { Outcome } from '@/core/outcome';

/**
 * What one kind of step means. `apply` is pure and gives the same project back when nothing changes.
 * `invert` gives the step that undoes it on what `apply` made of `before`.
 *
 * `map` gives what the step becomes when it is made on `mapping.to` instead of `mapping.from`, or why it
 * can't be made there. `expects` is what the step replaces, apart from where that lies: the step means the
 * same on two documents only when this is equal on both. `invert` and `expects` are asked only for steps
 * that apply.
 */
export type StepRule<T extends StepType> = {
  readonly apply: (project: Project, step: StepOf<T>) => Outcome<Project>;
  readonly invert: (before: Project, step: StepOf<T>) => Step;
  readonly map: (mapping: Mapping, step: StepOf<T>) => Outcome<Step>;
  readonly expects: (before: Project, step: StepOf<T>) => unknown;
};

/** The rules of a group of steps. */
export type StepRules<T extends StepType> = { readonly [K in T]: StepRule<K> };
