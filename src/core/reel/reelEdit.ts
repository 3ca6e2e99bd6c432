import type { Project, ReelItem, ReelItemId } from '@/core/document/model';
import { type Edit, editOf } from '@/core/edit/edit';
import type { Step } from '@/core/edit/step';
import { applyStep } from '@/core/edit/table';
import { done, type Outcome, refused } from '@/core/outcome';
import { movedWords, reelChange } from '@/core/reel/moved';
import { framesOfReel, type PlacedItem, placedItems } from '@/core/reel/reel';
import { countText, plural } from '@/core/time/counts';
import type { Rate } from '@/core/time/rate';

const LONGEST_REEL_HOURS = 10;

/** Most frames a reel can have at a rate: ten hours. */
export const longestReelFrames = ({ num, den }: Rate): number => Math.floor((LONGEST_REEL_HOURS * 3600 * num) / den);

/** Refuses a reel that is longer than can be. */
export function checkReelLength(frames: number, rate: Rate): Outcome<number> {
  const most = longestReelFrames(rate);
  return frames <= most
    ? done(frames)
    : refused(`The reel would have ${countText(frames)} frames; the most is ${countText(most)}, ${LONGEST_REEL_HOURS} hours.`);
}

/** An item as it is called in a sentence: `020`, or a gap by its frames. */
export const itemWords = ({ source, startFrame, endFrame }: PlacedItem): string =>
  source?.name ?? `the gap of ${plural(endFrame - startFrame, 'frame')}`;

/** Several items in a sentence. */
export const itemsWords = (items: readonly PlacedItem[]): string =>
  items.length <= 3 ? items.map(itemWords).join(', ') : `${items.length} items`;

const gapsOf = (items: readonly ReelItem[]): ReadonlySet<ReelItemId> =>
  new Set(items.filter((item) => item.kind === 'gap').map((item) => item.id));

/**
 * Steps on the reel as one edit, called `words` in the list of what can be undone. It says `what` it does, which of the items that it is not about (`apart`) start elsewhere
 * then, and the new length of the reel. What can't be made is refused before it is promised.
 */
export function reelEdit(
  project: Project,
  steps: readonly Step[],
  what: string,
  { words = what, apart = [] }: { readonly words?: string; readonly apart?: readonly ReelItemId[] } = {},
): Outcome<Edit> {
  const edit = steps.length === 1 && steps[0] ? done({ step: steps[0], says: what }) : editOf(steps, words, what);
  if (!edit.ok) return edit;
  const after = applyStep(project, edit.value.step);
  if (!after.ok) return after;
  const length = checkReelLength(framesOfReel(after.value), project.rate);
  if (!length.ok) return length;
  const { moved, framesBefore, framesAfter } = reelChange(project, after.value);
  const others = movedWords({ moved: moved.filter(({ itemId }) => !apart.includes(itemId)) }, gapsOf(after.value.reel.items));
  const total = framesBefore === framesAfter ? '' : `the reel has ${plural(framesAfter, 'frame')}, was ${countText(framesBefore)}`;
  return done({ ...edit.value, says: [what, others, total].filter(Boolean).join('; ') });
}

/** Where the items lie that are named, in order; refuses when one is not on the reel, or none is named. */
export function placedAll(project: Project, itemIds: readonly ReelItemId[]): Outcome<readonly PlacedItem[]> {
  const ids = new Set(itemIds);
  const placed = placedItems(project).filter(({ item }) => ids.has(item.id));
  if (placed.length === 0) return refused('Select something on the reel first.');
  return placed.length === ids.size ? done(placed) : refused('Something that was selected is no longer on the reel.');
}
