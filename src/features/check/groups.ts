import type { FindingGroup } from '@/core/check/finding';

/** What findings of a group need, as a heading. */
export const GROUP_WORDS: Readonly<Record<FindingGroup, string>> = {
  counts: 'Counts that disagree',
  pictures: 'Pictures and missing recordings',
  repeats: 'Unwanted repeats',
  slips: 'Slips in the timing',
  refusals: 'What its destination refuses',
  undrawn: 'Planned, not drawn yet',
};

/** Groups whose findings mean that what leaves is not what was planned. */
export const GRAVE_GROUPS: ReadonlySet<FindingGroup> = new Set(['counts', 'pictures', 'repeats', 'refusals']);
