import { NO_FACTS } from '@/core/analysis/facts';
import type { CheckedAgainst } from '@/core/check/check';
import type { CheckContext, Finding, LevelRule } from '@/core/check/finding';
import { FIRST_CHECKS } from '@/core/document/checks';
import { type Level, levelById, type Project, type Shot } from '@/core/document/model';
import { applyStep } from '@/core/edit/table';
import { mustBeDone } from '@/core/outcome';
import { columnIn, projectOf, shotOf } from '@/core/testing/sheets';

/** How tests look: the first frame is 1, at 24 a second, as a new project is checked. */
export const LOOKING: CheckContext = { firstNumber: 1, rate: { num: 24, den: 1 }, checks: FIRST_CHECKS };

/** A project held against nothing but itself. */
export const AGAINST_NOTHING: CheckedAgainst = {
  facts: NO_FACTS,
  sounds: new Map(),
  clips: new Map(),
  rateMove: null,
  handedOver: null,
  planDigestNow: null,
  loop: null,
  destinations: [],
};

/** What a rule finds on a level that is alone in its shot. */
export const lookAt = (rule: LevelRule, level: Level, shotFrames?: number): readonly Finding[] =>
  rule(shotOf([level], shotFrames), level, LOOKING);

/** A project after each fix of a finding. */
export const afterFixes = (project: Project, finding: Finding | undefined): Project[] =>
  (finding?.fixes ?? []).map((fix) => mustBeDone(applyStep(project, fix.step)));

/** The column after each fix of a finding; throws when the finding is still there. */
export function mendedColumns(rule: LevelRule, level: Level, finding: Finding | undefined, shotFrames?: number): string[] {
  return afterFixes(projectOf(shotOf([level], shotFrames)), finding).map((after) => {
    const shot = after.shots[0] as Shot;
    const still = rule(shot, levelById(shot, level.id) as Level, LOOKING).some((entry) => entry.id === finding?.id);
    if (still) throw new Error(`Fixed, and found again: ${finding?.sentence}`);
    return columnIn(after, level.id);
  });
}
