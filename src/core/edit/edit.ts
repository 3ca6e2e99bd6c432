import type { Shot } from '@/core/document/model';
import type { RestRule, Step } from '@/core/edit/step';
import { done, type Outcome, refused } from '@/core/outcome';
import { countText } from '@/core/time/counts';

/** Something a person may do next: the step that does it, and beforehand what it will touch. */
export type Edit = { readonly step: Step; readonly says: string };

/** What edits work in: the open shot, the number its first frame is shown with, what follows a change, and ids for what is made. */
export type EditContext = {
  readonly shot: Shot;
  readonly firstNumber: number;
  readonly following: RestRule;
  readonly newId: () => string;
};

/** Most steps one edit may have (inclusive): more would hold up the page, and what made them was hardly meant. */
export const MOST_STEPS = 5000;

/** Several steps as one edit; `says` names them beforehand, `words` in the list of what can be undone. Refuses none, and more than MOST_STEPS. */
export function editOf(steps: readonly Step[], words: string, says = words): Outcome<Edit> {
  const [only] = steps;
  if (!only) return refused('There is nothing here to change.');
  if (steps.length > MOST_STEPS) {
    return refused(
      `This would be ${countText(steps.length)} changes at once, new drawings among them; at most ${countText(MOST_STEPS)} can be made at once. Select a smaller part.`,
    );
  }
  return done({ step: { type: 'together', words, steps }, says });
}
