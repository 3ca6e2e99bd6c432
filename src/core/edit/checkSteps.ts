import { type Checks, checkChecks, type KeptFinding, LONGEST_NOTE, MOST_KEPT } from '@/core/document/checks';
import type { Project } from '@/core/document/model';
import { currentProperties, withProperties } from '@/core/edit/locate';
import { asItIs } from '@/core/edit/mapping';
import type { StepRules } from '@/core/edit/rule';
import { done, refused } from '@/core/outcome';

const withKept = (project: Project, kept: readonly KeptFinding[]): Project => ({ ...project, checks: { ...project.checks, kept } });

const SETTLED = ['destination', 'stillFrames', 'nearPerMille'] as const;

/** Steps on what the checks look for, and on what is kept as intended. */
export const checkSteps: StepRules<'setChecks' | 'keepFinding'> = {
  setChecks: {
    apply(project, { change }) {
      const checks = withProperties<Checks>(project.checks, change);
      const checked = checkChecks(checks);
      if (!checked.ok) return checked;
      return done(checks === project.checks ? project : { ...project, checks });
    },
    invert: (before, { change }) => ({
      type: 'setChecks',
      change: currentProperties(before.checks, SETTLED, change),
    }),
    map: asItIs,
    expects: (before, { change }) => currentProperties(before.checks, SETTLED, change),
  },
  keepFinding: {
    apply(project, { finding, note }) {
      const { kept } = project.checks;
      const index = kept.findIndex((entry) => entry.finding === finding);
      if (note === null) return done(index < 0 ? project : withKept(project, kept.toSpliced(index, 1)));
      if (note.length > LONGEST_NOTE) return refused(`A note has at most ${LONGEST_NOTE} characters.`);
      if (kept[index]?.note === note) return done(project);
      if (index < 0 && kept.length >= MOST_KEPT) return refused(`${MOST_KEPT} findings are kept as intended already, which is the most.`);
      // In order of their ids, so that taking back and doing again gives the very same list.
      const others = kept.filter((entry) => entry.finding !== finding);
      return done(
        withKept(
          project,
          [...others, { finding, note }].sort((a, b) => (a.finding < b.finding ? -1 : 1)),
        ),
      );
    },
    invert: (before, { finding }) => ({
      type: 'keepFinding',
      finding,
      note: before.checks.kept.find((entry) => entry.finding === finding)?.note ?? null,
    }),
    map: asItIs,
    expects: (before, { finding }) => before.checks.kept.find((entry) => entry.finding === finding)?.note ?? null,
  },
};
