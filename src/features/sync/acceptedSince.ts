import equal from 'fast-deep-equal';
import type { WaitingStep } from '@/contracts/local';
import type { AcceptedStep } from '@/contracts/project';
import type { Project } from '@/core/document/model';
import { type RebaseResult, rebase } from '@/core/edit/rebase';
import { applyStep } from '@/core/edit/table';

/*
 * What was accepted since a window last heard of it: steps of others, and among them the window's own, whose answer was lost, or
 * which the server took where they belonged by then.
 */

/** The first part of what was accepted: so many changes, which are the first of what waits, or which others made. */
export type AcceptedPart =
  | { readonly kind: 'own'; readonly count: number }
  /** The document with them, and what became of the waiting steps on top of them. */
  | { readonly kind: 'others'; readonly count: number; readonly project: Project; readonly result: RebaseResult };

/** How many of the changes from `start` on are the first of the waiting steps, accepted in order. */
function ownFrom(changes: readonly AcceptedStep[], start: number, waiting: readonly WaitingStep[]): number {
  let own = 0;
  for (let at = start; at < changes.length && own < waiting.length; at++, own++)
    if (changes[at]?.stepId == null || changes[at]?.stepId !== waiting[own]?.id) break;
  return own;
}

/** The document with changes on it. Throws where one doesn't apply: it is of another form than this page knows. */
function withChanges(base: Project, changes: readonly AcceptedStep[]): Project {
  return changes.reduce((project, { step }) => {
    const next = applyStep(project, step);
    if (!next.ok) throw new Error(next.reason);
    return next.value;
  }, base);
}

/**
 * The first part of `changes`, at least one, that were accepted after `base`. Where others came first and the window's own after them,
 * the others are a part of their own if the own come to the same here as they were taken there; else all is taken as others made
 * it, and those of one's own that are among it are not made again. Throws when a change doesn't apply.
 */
export function firstPart(base: Project, changes: readonly AcceptedStep[], waiting: readonly WaitingStep[]): AcceptedPart {
  const own = ownFrom(changes, 0, waiting);
  if (own > 0) return { kind: 'own', count: own };
  const mine = waiting.map((entry) => entry.step);
  const others = (count: number, isThere: (index: number) => boolean): AcceptedPart & { kind: 'others' } => {
    const theirs = changes.slice(0, count);
    const steps = theirs.map(({ step }) => step);
    return { kind: 'others', count, project: withChanges(base, theirs), result: rebase(base, steps, mine, isThere) };
  };
  const thereAfter = (start: number) => {
    const ids = new Set(changes.slice(start).map((change) => change.stepId));
    return (index: number) => ids.has(waiting[index]?.id ?? '');
  };
  const before = changes.findIndex(({ stepId }) => stepId !== null && stepId === waiting[0]?.id);
  const ownAfter = before === -1 ? 0 : ownFrom(changes, before, waiting);
  if (ownAfter > 0) {
    const isThereLater = thereAfter(before + ownAfter);
    const part = others(before, (index) => index >= ownAfter && isThereLater(index));
    const areTaken = part.result.mine.slice(0, ownAfter).every((came, index) => {
      const taken = changes[before + index]?.step;
      return came.kind === 'made' && came.step !== null && equal(came.step, taken);
    });
    if (areTaken) return part;
  }
  return others(changes.length, thereAfter(0));
}
