import type { Finding, FindingKind, Place } from '@/core/check/finding';
import { MOST_STEPS } from '@/core/edit/act';
import { lockedLevelOf } from '@/core/edit/locked';
import type { Step } from '@/core/edit/step';
import { applyStep } from '@/core/edit/table';
import { done, type Outcome, refused } from '@/core/outcome';
import type { Project } from '@/core/sheet/document';
import { plural } from '@/core/time/counts';

/** What mending several findings in one way comes to: one step, what each mend says, what it leaves, and how many could not be mended. */
export type Mending = { readonly step: Step; readonly says: readonly string[]; readonly after: Project; readonly left: number };

/** Where a finding is, in a few words. */
const whereIs = ({ shots, startFrame }: Project, { shotId, fromFrame }: Place): string =>
  `${shots.find((shot) => shot.id === shotId)?.code ?? ''} frame ${fromFrame + startFrame}`;

/**
 * Mends every finding of a kind in one way, one after the other: each mend is looked up anew in what the one
 * before left, since it may move what the next is about. `look` finds what is open in a document.
 */
export function mendAll(
  project: Project,
  kind: FindingKind,
  way: string,
  look: (project: Project) => readonly Finding[],
): Outcome<Mending> {
  const steps: Step[] = [];
  const says: string[] = [];
  const failed = new Set<string>();
  let after = project;
  while (steps.length < MOST_STEPS) {
    const next = look(after).find(
      (finding) => finding.kind === kind && !failed.has(finding.id) && finding.mends.some((mend) => mend.way === way),
    );
    const mend = next?.mends.find((candidate) => candidate.way === way);
    if (!next || !mend) break;
    const mended = lockedLevelOf(after, mend.step) ? null : applyStep(after, mend.step);
    // What a mend doesn't change would be found and mended for ever.
    if (!mended?.ok || mended.value === after) failed.add(next.id);
    else {
      steps.push(mend.step);
      says.push(next.place ? `${whereIs(after, next.place)}: ${mend.words}` : mend.words);
      after = mended.value;
    }
  }
  if (steps.length === 0) return refused('None of these can be mended this way: their levels are locked.');
  return done({ step: { type: 'together', words: `Mend ${plural(steps.length, 'finding')}`, steps }, says, after, left: failed.size });
}
