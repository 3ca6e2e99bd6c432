import type { Checks } from '@/core/document/checks';
import type { Digest, Level, LevelId, Shot, ShotId } from '@/core/document/model';
import type { Step } from '@/core/edit/step';
import type { Rate } from '@/core/time/rate';

/** The links between the stages of the job; each compares the counts of its two sides. */
export type PathLink = 'plan-draw' | 'draw-check' | 'check-assemble' | 'assemble-handover';

/** What a finding needs from whoever fixes it; they are shown in this order. */
export const FINDING_GROUPS = ['counts', 'pictures', 'repeats', 'slips', 'refusals', 'undrawn'] as const;
export type FindingGroup = (typeof FINDING_GROUPS)[number];

/** Every kind of finding, and what several of it are called. */
export const FINDING_KINDS = {
  'past-end': 'levels past the end of their shot',
  'short-level': 'levels shorter than their shot',
  'empty-tail': 'shots that end blank',
  'never-exposed': 'drawings the sheet never shows',
  'guide-count': 'guides that don’t match their clip',
  'guide-rate': 'guides at another rate',
  'last-handover': 'changes since the last handover',
  'sound-short': 'sounds shorter than a frame',
  'sound-start': 'sounds that start after their shot',
  'sound-end': 'sounds that go on after the film',
  'sound-cut': 'sounds cut by a trim',
  'sound-unheard': 'sounds a trim leaves unheard',
  'trim-past': 'trims past the end of what they show',
  'moved-cut': 'cuts moved by a new rate',
  'sound-rate': 'sounds made for another rate',
  'sound-accent': 'accents off their sound',
  'missing-picture': 'missing pictures',
  'missing-sound': 'missing recordings',
  'missing-clip': 'missing clips',
  'same-picture': 'pictures under two numbers in a row',
  'same-apart': 'pictures under two numbers, apart',
  'near-picture': 'pictures that are nearly the same',
  'cycle-seam': 'cycles that hold their seam twice as long',
  'loop-seam': 'loops that hold their seam',
  'shot-join': 'shots that begin as the one before ends',
  'guide-repeats': 'guides with repeats',
  gap: 'gaps of one frame',
  stray: 'strays from a pattern',
  still: 'frames on which nothing moves',
  chart: 'charts that don’t fit the sheet',
  order: 'levels numbered out of order',
  flashes: 'flashes',
  'colour-range': 'colours outside the range',
  destination: 'limits of the destination',
  'planned-empty': 'drawings planned and not drawn',
} as const;
export type FindingKind = keyof typeof FINDING_KINDS;

/** A way to put a finding right: what it does in words, and the step that does it. Fixes of one `way` do the same to several findings. */
export type Fix = { readonly way: string; readonly words: string; readonly step: Step };

/** Where a finding is: frames count from 0, `toFrame` inclusive. */
export type Place = { readonly shotId: ShotId; readonly levelId: LevelId | null; readonly fromFrame: number; readonly toFrame: number };

/**
 * One thing found wrong: a sentence for a person, its place, its fixes, and the link of the path it breaks, if
 * any. `id` is made of what it is about and never of frames, so that it stays the same while things move.
 * `pair` are two pictures whose difference can be looked at.
 */
export type Finding = {
  readonly id: string;
  readonly kind: FindingKind;
  readonly group: FindingGroup;
  readonly breaks: PathLink | null;
  readonly sentence: string;
  readonly place: Place | null;
  readonly fixes: readonly Fix[];
  readonly pair?: readonly [Digest, Digest];
};

/** What rules look with: the number the first frame is shown with, the rate, and what is to be looked for. */
export type CheckContext = { readonly firstNumber: number; readonly rate: Rate; readonly checks: Checks };

/** A rule that looks at one level of a shot. */
export type LevelRule = (shot: Shot, level: Level, looking: CheckContext) => readonly Finding[];
