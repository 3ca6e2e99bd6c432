import { newGap, type Project, type ReelItem, type ReelItemId } from '@/core/document/model';
import type { Edit } from '@/core/edit/edit';
import type { Step } from '@/core/edit/step';
import { type Outcome, refused } from '@/core/outcome';
import { framesOfItem, type PlacedItem, placedItems } from '@/core/reel/reel';
import { itemsWords, longestReelFrames, placedAll, reelEdit } from '@/core/reel/reelEdit';
import type { NewId } from '@/core/reel/shotEdits';
import { countText } from '@/core/time/counts';

/*
 * Items lie one after another, so that one starts exactly on a frame in two ways only: there is a cut on that frame, or a gap
 * is there, of which as much stays before it as it takes. What an item leaves closes up; the room of a gap that it takes
 * over stays as long as it was, as far as the item fits.
 */

/** The steps that bring a reel's items into another order, each moved one behind the one it then follows. */
function orderSteps(items: readonly ReelItem[], order: readonly ReelItem[], moved: ReadonlySet<ReelItemId>): readonly Step[] {
  let now = [...items];
  return order.flatMap((item, place): readonly Step[] => {
    if (!moved.has(item.id)) return [];
    const before = order[place - 1];
    const rest = now.filter((other) => other !== item);
    const index = before ? rest.indexOf(before) + 1 : 0;
    if (now[index] === item) return [];
    now = rest.toSpliced(index, 0, item);
    return [{ type: 'moveItem', itemId: item.id, index }];
  });
}

/** Moves items, together and in their order, before the one that is at `index` of those that stay (from 0); behind all where there are fewer. */
export function moveItems(project: Project, itemIds: readonly ReelItemId[], index: number): Outcome<Edit> {
  const placed = placedAll(project, itemIds);
  if (!placed.ok) return placed;
  const { items } = project.reel;
  const moved = new Set(itemIds);
  const rest = items.filter((item) => !moved.has(item.id));
  const target = Math.max(0, Math.min(index, rest.length));
  const order = rest.toSpliced(target, 0, ...placed.value.map(({ item }) => item));
  const steps = orderSteps(items, order, moved);
  if (steps.length === 0) return refused('It is there already.');
  const start = rest.slice(0, target).reduce((sum, item) => sum + framesOfItem(project, item), 0);
  return reelEdit(project, steps, startWords(project, placed.value, start), { words: `Move ${itemsWords(placed.value)}`, apart: itemIds });
}

const startWords = (project: Project, placed: readonly PlacedItem[], start: number): string => {
  const first = project.firstFrameNumber;
  return `${itemsWords(placed)} ${placed.length === 1 ? 'starts' : 'start'} on frame ${start + first}, was ${(placed[0]?.startFrame ?? 0) + first}`;
};

/** Items one place earlier or later: past the one that is before, or behind, all of them. */
export function moveItemsBy(project: Project, itemIds: readonly ReelItemId[], by: -1 | 1): Outcome<Edit> {
  const placed = placedAll(project, itemIds);
  if (!placed.ok) return placed;
  const moved = new Set(itemIds);
  const before = project.reel.items.slice(0, placed.value[0]?.index).filter((item) => !moved.has(item.id)).length;
  const target = by < 0 ? before - 1 : before + 1;
  if (target < 0) return refused('There is nothing before it on the reel.');
  if (target > project.reel.items.length - moved.size) return refused('There is nothing after it on the reel.');
  return moveItems(project, itemIds, target);
}

/** A place for items among those that stay: before the one at `index`, with frames of paper before and behind that make up for the gap they lie in. */
type Landing = {
  readonly index: number;
  readonly gap: { readonly before: number; readonly after: number; readonly itemId: ReelItemId } | null;
};

/** Where `frame` is among items one after another: on a cut, within a gap, or within a shot with the cuts at both ends. */
function placeAt(
  project: Project,
  rest: readonly ReelItem[],
  frame: number,
): { landing: Landing } | { cuts: readonly [number, number]; index: number; item: ReelItem } | { pastEnd: number } {
  let start = 0;
  for (const [index, item] of rest.entries()) {
    const end = start + framesOfItem(project, item);
    if (frame === start) return { landing: { index, gap: null } };
    if (frame < end) {
      if (item.kind === 'gap') return { landing: { index, gap: { before: frame - start, after: end - frame, itemId: item.id } } };
      return { cuts: [start, end], index, item };
    }
    start = end;
  }
  return { pastEnd: frame - start };
}

/** The steps that put items into a gap at a landing. */
function landInGap(project: Project, placed: readonly PlacedItem[], { index, gap }: Landing, newId: NewId): readonly Step[] {
  const moved = new Set(placed.map(({ item }) => item.id));
  const { items } = project.reel;
  const rest = items.filter((item) => !moved.has(item.id));
  const order = rest.toSpliced(gap ? index + 1 : index, 0, ...placed.map(({ item }) => item));
  const moves = orderSteps(items, order, moved);
  if (!gap) return moves;
  const taken = placed.reduce((sum, each) => sum + each.endFrame - each.startFrame, 0);
  const left = gap.after - taken;
  const behind: readonly Step[] =
    left > 0 ? [{ type: 'addItems', items: [{ item: newGap(newId(), left), index: index + 1 + placed.length }] }] : [];
  return [...moves, { type: 'setGapLength', itemId: gap.itemId, frames: gap.before }, ...behind];
}

/** Puts items, together and in their order, behind the end of what stays, so many frames later. */
function landBehind(project: Project, placed: readonly PlacedItem[], frames: number, newId: NewId): readonly Step[] {
  const moved = new Set(placed.map(({ item }) => item.id));
  const { items } = project.reel;
  const rest = items.filter((item) => !moved.has(item.id));
  const moves = orderSteps(items, [...rest, ...placed.map(({ item }) => item)], moved);
  if (frames === 0) return moves;
  return [...moves, { type: 'addItems', items: [{ item: newGap(newId(), frames), index: rest.length }] }];
}

/**
 * Lets go of items where the first of them would start on `frame` of the reel: on that very frame in a gap or behind the
 * end, else on the cut that is nearest. Counted as if what they leave were closed up.
 */
export function dropItems(project: Project, itemIds: readonly ReelItemId[], frame: number, newId: NewId): Outcome<Edit> {
  const placed = placedAll(project, itemIds);
  if (!placed.ok) return placed;
  const moved = new Set(itemIds);
  const rest = project.reel.items.filter((item) => !moved.has(item.id));
  const at = placeAt(project, rest, Math.max(0, frame));
  if ('cuts' in at) {
    const [before, after] = at.cuts;
    return moveItems(project, itemIds, frame - before < after - frame ? at.index : at.index + 1);
  }
  const start = Math.max(0, frame);
  const steps =
    'landing' in at ? landInGap(project, placed.value, at.landing, newId) : landBehind(project, placed.value, at.pastEnd, newId);
  if (steps.length === 0) return refused('It is there already.');
  return reelEdit(project, steps, startWords(project, placed.value, start), { words: `Move ${itemsWords(placed.value)}`, apart: itemIds });
}

/** The gap right before an item, and where the room begins that it could start in: where the one before that gap ends. */
function roomBefore(project: Project, placed: PlacedItem): { readonly gap: PlacedItem | undefined; readonly roomStart: number } {
  const before = placedItems(project).find(({ endFrame }) => endFrame === placed.startFrame);
  const gap = before?.item.kind === 'gap' ? before : undefined;
  return { gap, roomStart: gap ? gap.startFrame : placed.startFrame };
}

/**
 * Starts an item on a frame of the reel (from 0). Later than it does, or within the gap before it, that gap becomes as long
 * as it takes, and what follows moves along. Earlier, the item is moved there, where there is a cut or a gap. Refuses frames
 * within another item, naming the cuts next to it, and frames outside ten hours.
 */
export function startItemOn(project: Project, itemId: ReelItemId, frame: number, newId: NewId): Outcome<Edit> {
  const found = placedAll(project, [itemId]);
  if (!found.ok) return found;
  const placed = found.value[0] as PlacedItem;
  const first = project.firstFrameNumber;
  const most = longestReelFrames(project.rate);
  if (!Number.isInteger(frame) || frame < 0 || frame >= most)
    return refused(`An item starts on a frame of the reel: a whole number from ${first} to ${countText(most - 1 + first)}.`);
  if (frame === placed.startFrame) return refused('It starts there already.');
  const { gap, roomStart } = roomBefore(project, placed);
  if (frame >= roomStart) {
    const frames = frame - roomStart;
    const step: Step = gap
      ? frames === 0
        ? { type: 'removeItems', itemIds: [gap.item.id] }
        : { type: 'setGapLength', itemId: gap.item.id, frames }
      : { type: 'addItems', items: [{ item: newGap(newId(), frames), index: placed.index }] };
    return reelEdit(project, [step], startWords(project, [placed], frame), { apart: [itemId] });
  }
  const rest = project.reel.items.filter((item) => item.id !== itemId);
  const at = placeAt(project, rest, frame);
  if ('cuts' in at) {
    const inside = placedItems(project).find(({ item }) => item === at.item);
    return refused(
      `Frame ${frame + first} is within ${inside?.source?.name ?? 'another item'}: an item starts on a cut or in a gap. The cuts there are on ${at.cuts[0] + first} and ${at.cuts[1] + first}.`,
    );
  }
  return dropItems(project, [itemId], frame, newId);
}
