import { newGap, type Project, type ReelItem, type ReelItemId, type ShotId, shotById, wholeShot } from '@/core/document/model';
import type { Edit } from '@/core/edit/edit';
import type { Step } from '@/core/edit/step';
import { type Outcome, refused } from '@/core/outcome';
import { framesOfReel, placedItems } from '@/core/reel/reel';
import { checkReelLength, itemsWords, itemWords, placedAll, reelEdit } from '@/core/reel/reelEdit';
import type { NewId } from '@/core/reel/shotEdits';
import { trimOf } from '@/core/reel/trimItems';
import { plural } from '@/core/time/counts';
import { someOf } from '@/core/words';

/** Puts paper of so many frames before the item at a place of the reel (from 0), or at its end. */
export function insertGap(project: Project, index: number, frames: number, newId: NewId): Outcome<Edit> {
  const before = placedItems(project)[index];
  const where = before ? `before ${itemWords(before)}` : 'at the end';
  return reelEdit(
    project,
    [{ type: 'addItems', items: [{ item: newGap(newId(), frames), index }] }],
    `A gap of ${plural(frames, 'frame')} ${where}`,
  );
}

/** Makes a gap so many frames long; 0 closes it. */
export function setGapLength(project: Project, itemId: ReelItemId, frames: number): Outcome<Edit> {
  if (frames === 0) return closeGaps(project, [itemId]);
  return reelEdit(project, [{ type: 'setGapLength', itemId, frames }], `A gap of ${plural(frames, 'frame')}`);
}

/** Takes gaps off the reel; what follows moves up. Of other items among those named nothing changes. */
export function closeGaps(project: Project, itemIds: readonly ReelItemId[]): Outcome<Edit> {
  const named = new Set(itemIds);
  const gaps = placedItems(project).filter(({ item }) => item.kind === 'gap' && named.has(item.id));
  if (gaps.length === 0) return refused('There is no gap to close there.');
  const frames = gaps.reduce((sum, gap) => sum + gap.endFrame - gap.startFrame, 0);
  return reelEdit(
    project,
    [{ type: 'removeItems', itemIds: gaps.map(({ item }) => item.id) }],
    `Close ${plural(gaps.length, 'gap')}, ${plural(frames, 'frame')}`,
  );
}

/** Leaves items out of the film; the shots they show stay in the project. */
export function leaveOut(project: Project, itemIds: readonly ReelItemId[]): Outcome<Edit> {
  const placed = placedAll(project, itemIds);
  if (!placed.ok) return placed;
  const left = new Set(itemIds);
  const shown = new Set(placedItems(project).flatMap(({ item, shot }) => (shot && !left.has(item.id) ? [shot.id] : [])));
  const gone = placed.value.flatMap(({ shot }) => (shot && !shown.has(shot.id) ? [shot.code] : []));
  const stays =
    gone.length === 0
      ? ''
      : `; ${[...new Set(gone)].slice(0, 3).join(', ')}${gone.length > 3 ? ' and others' : ''} ${gone.length === 1 ? 'stays' : 'stay'} in the project`;
  return reelEdit(project, [{ type: 'removeItems', itemIds }], `Leave ${itemsWords(placed.value)} out${stays}`);
}

/** Lays items on the reel once more, together and in their order, behind the last of them. */
export function repeatItems(project: Project, itemIds: readonly ReelItemId[], newId: NewId): Outcome<Edit> {
  const placed = placedAll(project, itemIds);
  if (!placed.ok) return placed;
  const index = (placed.value.at(-1)?.index ?? 0) + 1;
  const items = placed.value.map(({ item }, place) => ({ item: { ...item, id: newId() }, index: index + place }));
  return reelEdit(project, [{ type: 'addItems', items }], `Use ${itemsWords(placed.value)} again`);
}

/** Leaves the finish of the film off items, or lays it over them again where one has none. */
export function finishItems(project: Project, itemIds: readonly ReelItemId[]): Outcome<Edit> {
  const placed = placedAll(project, itemIds);
  if (!placed.ok) return placed;
  const finished = placed.value.some(({ item }) => !item.finished);
  const steps = placed.value
    .filter(({ item }) => item.finished !== finished)
    .map(({ item }): Step => ({ type: 'finishItem', itemId: item.id, finished }));
  return reelEdit(project, steps, `${finished ? 'The finish lies over' : 'No finish over'} ${itemsWords(placed.value)}`);
}

/** Lays a shot whole at a place of the reel (from 0). */
export function layShot(project: Project, shotId: ShotId, index: number, newId: NewId): Outcome<Edit> {
  const shot = shotById(project, shotId);
  if (!shot) return refused('That shot is no longer in the project.');
  const item: ReelItem = { ...wholeShot(shotId), id: newId() };
  return reelEdit(
    project,
    [{ type: 'addItems', items: [{ item, index }] }],
    `Lay ${shot.code} on the reel, ${plural(shot.frames, 'frame')}`,
  );
}

/** The steps that end the reel after `frames` frames, and what that cuts, in words. */
function shorten(project: Project, frames: number): { readonly steps: readonly Step[]; readonly cut: readonly string[] } {
  const steps: Step[] = [];
  const cut: string[] = [];
  const gone: ReelItemId[] = [];
  for (const placed of placedItems(project)) {
    const { item, startFrame, endFrame } = placed;
    if (endFrame <= frames) continue;
    if (startFrame >= frames) {
      gone.push(item.id);
      cut.push(itemWords(placed));
      continue;
    }
    const left = frames - startFrame;
    steps.push(
      item.kind === 'gap'
        ? { type: 'setGapLength', itemId: item.id, frames: left }
        : { type: 'trimItem', itemId: item.id, trim: { ...trimOf(placed), frames: left } },
    );
    cut.push(`the last ${plural(endFrame - frames, 'frame')} of ${itemWords(placed)}`);
  }
  if (gone.length > 0) steps.push({ type: 'removeItems', itemIds: gone });
  return { steps, cut };
}

/** Makes the reel so many frames long: longer, there is paper at its end; shorter, what is cut is named. */
export function setReelLength(project: Project, frames: number, newId: NewId): Outcome<Edit> {
  const total = framesOfReel(project);
  if (!Number.isInteger(frames) || frames < 1) return refused('A reel has at least one frame.');
  const length = checkReelLength(frames, project.rate);
  if (!length.ok) return length;
  if (frames === total) return refused(`The reel has ${plural(frames, 'frame')} already.`);
  if (frames < total) {
    const { steps, cut } = shorten(project, frames);
    return reelEdit(project, steps, `Cut ${someOf(cut, 4)}`, { words: `Reel of ${plural(frames, 'frame')}` });
  }
  const last = placedItems(project).at(-1);
  const by = frames - total;
  if (last?.item.kind === 'gap')
    return reelEdit(
      project,
      [{ type: 'setGapLength', itemId: last.item.id, frames: last.item.frames + by }],
      `${plural(by, 'frame')} of paper more at the end`,
    );
  return insertGap(project, project.reel.items.length, by, newId);
}
