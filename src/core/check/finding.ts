import type { Step } from '@/core/edit/step';
import type { Level, LevelId, Shot, ShotId } from '@/core/sheet/document';

/** The links between the stages of the job; each compares the counts of its two sides. */
export type PathLink = 'plan-draw' | 'draw-check' | 'check-assemble' | 'assemble-handover';

/** What kind of thing a finding is; they are shown in this order. */
export type FindingGroup = 'counts' | 'repeats' | 'slips' | 'undrawn';

/** A way to put a finding right: what it does in words, and the step that does it. */
export type Mend = { readonly words: string; readonly step: Step };

/** Where a finding is: frames count from 0, `toFrame` inclusive. */
export type Place = { readonly shotId: ShotId; readonly levelId: LevelId | null; readonly fromFrame: number; readonly toFrame: number };

/** One thing found wrong: a sentence for a person, its place, its mends, and the link of the path it breaks, if any. */
export type Finding = {
  readonly id: string;
  readonly group: FindingGroup;
  readonly breaks: PathLink | null;
  readonly sentence: string;
  readonly place: Place | null;
  readonly mends: readonly Mend[];
};

/** A rule that looks at one level of a shot. */
export type LevelRule = (shot: Shot, level: Level, firstNumber: number) => readonly Finding[];
