import type { Project, ReelItem, Shot } from '@/core/document/model';
import { checkSamePlace, type Mapping, mapPlace } from '@/core/edit/mapping';
import type { StepRules } from '@/core/edit/rule';
import type { ItemOnReel } from '@/core/edit/step';
import { done, type Outcome, refused } from '@/core/outcome';

function insertItem(project: Project, item: ReelItem, index: number): Outcome<Project> {
  const { items } = project.reel;
  if (index < 0 || index > items.length)
    return refused(`Place ${index + 1} on the reel doesn't exist: there are ${items.length} before it.`);
  return done({ ...project, reel: { items: items.toSpliced(index, 0, item) } });
}

/** The project with items that show a shot on its reel, one after another at their places. Refuses items of another shot, and ids in use. */
export function withItems(project: Project, shot: Shot, items: readonly ItemOnReel[]): Outcome<Project> {
  let next = done(project) as Outcome<Project>;
  for (const { item, index } of items) {
    if (!next.ok) return next;
    if (item.shotId !== shot.id) return refused(`What comes to the reel with shot ${shot.code} shows another shot.`);
    if (next.value.reel.items.some((other) => other.id === item.id)) return refused(`Shot ${shot.code} is on the reel already.`);
    next = insertItem(next.value, item, index);
  }
  return next;
}

/** Where items that were to come to one reel belong on another. Each place counts those that come before it. */
export const mapItems = ({ from, to }: Mapping, items: readonly ItemOnReel[]): readonly ItemOnReel[] =>
  items.map(({ item, index }, place) => ({ item, index: mapPlace(from.reel.items, to.reel.items, index - place) + place }));

/** Steps on what lies on the reel. */
export const reelSteps: StepRules<'moveItem'> = {
  moveItem: {
    apply(project, { itemId, index }) {
      const { items } = project.reel;
      const item = items.find((other) => other.id === itemId);
      if (!item) return refused('What was to be moved is no longer on the reel.');
      if (items[index] === item) return done(project);
      return insertItem({ ...project, reel: { items: items.filter((other) => other !== item) } }, item, index);
    },
    invert: (before, { itemId }) => ({ type: 'moveItem', itemId, index: before.reel.items.findIndex((item) => item.id === itemId) }),
    map({ from, to }, step) {
      const place = checkSamePlace(from.reel.items, to.reel.items, step.itemId, 'The shot');
      return place.ok ? done({ ...step, index: mapPlace(from.reel.items, to.reel.items, step.index, step.itemId) }) : place;
    },
    expects: () => null,
  },
};
