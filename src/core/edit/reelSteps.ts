import { checkClip } from '@/core/document/clip';
import type { Project, ReelItem, ReelItemId, Shot, Trim } from '@/core/document/model';
import { shotById } from '@/core/document/model';
import { asItIs, checkSameRate, type Mapping, mapMove, mapPlace } from '@/core/edit/mapping';
import type { StepRules } from '@/core/edit/rule';
import type { ItemOnReel } from '@/core/edit/step';
import { done, mustBeDone, type Outcome, refused } from '@/core/outcome';
import { checkLength, LONGEST_SHOT_FRAMES } from '@/core/time/counts';

/** Most items of a reel. */
export const MOST_ITEMS = 100_000;

const withReelItems = (project: Project, items: readonly ReelItem[]): Project => ({ ...project, reel: { ...project.reel, items } });

function insertItem(project: Project, item: ReelItem, index: number): Outcome<Project> {
  const { items } = project.reel;
  if (index < 0 || index > items.length)
    return refused(`Place ${index + 1} on the reel doesn't exist: there are ${items.length} before it.`);
  return done(withReelItems(project, items.toSpliced(index, 0, item)));
}

/** Refuses frames that can't be shown: a trim shows a frame at least, and starts on one that there can be. */
export function checkTrim(trim: Trim | null): Outcome<Trim | null> {
  if (trim === null) return done(null);
  const { fromFrame, frames } = trim;
  const length = checkLength(frames);
  if (!length.ok) return length;
  return Number.isInteger(fromFrame) && fromFrame >= 0 && fromFrame < LONGEST_SHOT_FRAMES
    ? done(trim)
    : refused(`A trim can’t start ${fromFrame} frames into what it shows: use a whole number from 0.`);
}

function checkItem(project: Project, item: ReelItem): Outcome<null> {
  if (project.reel.items.some((other) => other.id === item.id)) return refused('That item is on the reel already.');
  if (item.kind === 'gap') {
    const length = checkLength(item.frames);
    return length.ok ? done(null) : length;
  }
  if (item.kind === 'clip') {
    const clip = checkClip(item.clip);
    if (!clip.ok) return clip;
  } else if (!shotById(project, item.shotId)) return refused('The shot that was to come to the reel is no longer in the project.');
  const trim = checkTrim(item.trim);
  return trim.ok ? done(null) : trim;
}

function addItems(project: Project, items: readonly ItemOnReel[]): Outcome<Project> {
  if (project.reel.items.length + items.length > MOST_ITEMS) return refused(`A reel has at most ${MOST_ITEMS} items.`);
  let next = done(project) as Outcome<Project>;
  for (const { item, index } of items) {
    if (!next.ok) return next;
    const checked = checkItem(next.value, item);
    if (!checked.ok) return checked;
    next = insertItem(next.value, item, index);
  }
  return next;
}

/** The project with items that show a shot on its reel, one after another at their places. Refuses items of another shot, and ids in use. */
export function withItems(project: Project, shot: Shot, items: readonly ItemOnReel[]): Outcome<Project> {
  if (items.some(({ item }) => item.kind !== 'shot' || item.shotId !== shot.id))
    return refused(`What comes to the reel with shot ${shot.code} shows another shot.`);
  return addItems(project, items);
}

/** Items with their places, such that adding them one after another to a reel without them puts each where it is. */
export const placesOf = (project: Project, isMeant: (item: ReelItem) => boolean): readonly ItemOnReel[] =>
  project.reel.items.flatMap((item, index) => (isMeant(item) ? [{ item, index }] : []));

/** Where items that were to come to one reel belong on another. Each place counts those that come before it. */
export const mapItems = ({ from, to }: Mapping, items: readonly ItemOnReel[]): readonly ItemOnReel[] =>
  items.map(({ item, index }, place) => ({ item, index: mapPlace(from.reel.items, to.reel.items, index - place) + place }));

function findItem(project: Project, itemId: ReelItemId): Outcome<ReelItem> {
  const item = project.reel.items.find((other) => other.id === itemId);
  return item ? done(item) : refused('What was to be changed is no longer on the reel.');
}

const KIND_WORDS: Readonly<Record<ReelItem['kind'], string>> = { shot: 'shot', clip: 'clip', gap: 'gap' };

function findItemOf<K extends ReelItem['kind']>(
  project: Project,
  itemId: ReelItemId,
  ...kinds: readonly K[]
): Outcome<ReelItem & { kind: K }> {
  const item = findItem(project, itemId);
  if (!item.ok) return item;
  const isOfKind = (each: ReelItem): each is ReelItem & { kind: K } => kinds.some((kind) => each.kind === kind);
  return isOfKind(item.value)
    ? done(item.value)
    : refused(`What was to be changed on the reel is not a ${kinds.map((kind) => KIND_WORDS[kind]).join(' or ')}.`);
}

const withItem = (project: Project, item: ReelItem): Project =>
  withReelItems(
    project,
    project.reel.items.map((other) => (other.id === item.id ? item : other)),
  );

/** Whether two trims show the same frames. */
export const sameTrim = (a: Trim | null, b: Trim | null): boolean =>
  a === b || (a !== null && b !== null && a.fromFrame === b.fromFrame && a.frames === b.frames);

/** Steps on what lies on the reel. */
export const reelSteps: StepRules<'addItems' | 'removeItems' | 'moveItem' | 'trimItem' | 'setGapLength' | 'readClip' | 'finishItem'> = {
  addItems: {
    apply: (project, { items }) => addItems(project, items),
    invert: (_before, { items }) => ({ type: 'removeItems', itemIds: items.map(({ item }) => item.id) }),
    map(mapping, step) {
      const rate = checkSameRate(mapping, null);
      return rate.ok ? done({ ...step, items: mapItems(mapping, step.items) }) : rate;
    },
    expects: () => null,
  },
  removeItems: {
    apply(project, { itemIds }) {
      const ids = new Set(itemIds);
      const kept = project.reel.items.filter((item) => !ids.has(item.id));
      if (kept.length !== project.reel.items.length - ids.size) return refused('What was to be taken off the reel is no longer on it.');
      return done(ids.size === 0 ? project : withReelItems(project, kept));
    },
    invert: (before, { itemIds }) => ({ type: 'addItems', items: placesOf(before, (item) => itemIds.includes(item.id)) }),
    map: (_mapping, step) => done(step),
    expects: (before, { itemIds }) => before.reel.items.filter((item) => itemIds.includes(item.id)),
  },
  moveItem: {
    apply(project, { itemId, index }) {
      const { items } = project.reel;
      const item = items.find((other) => other.id === itemId);
      if (!item) return refused('What was to be moved is no longer on the reel.');
      if (items[index] === item) return done(project);
      return insertItem(
        withReelItems(
          project,
          items.filter((other) => other !== item),
        ),
        item,
        index,
      );
    },
    invert: (before, { itemId }) => ({ type: 'moveItem', itemId, index: before.reel.items.findIndex((item) => item.id === itemId) }),
    map({ from, to }, step) {
      const place = mapMove(from.reel.items, to.reel.items, step.itemId, step.index, 'What was to be moved on the reel');
      return place.ok ? done({ ...step, index: place.value }) : place;
    },
    expects: () => null,
  },
  trimItem: {
    apply(project, { itemId, trim }) {
      const item = findItemOf(project, itemId, 'shot', 'clip');
      if (!item.ok) return item;
      const checked = checkTrim(trim);
      if (!checked.ok) return checked;
      return done(sameTrim(item.value.trim, trim) ? project : withItem(project, { ...item.value, trim }));
    },
    invert: (before, { itemId }) => ({ type: 'trimItem', itemId, trim: mustBeDone(findItemOf(before, itemId, 'shot', 'clip')).trim }),
    map(mapping, step) {
      const rate = checkSameRate(mapping, step.trim?.frames ?? null);
      return rate.ok ? done(step) : rate;
    },
    expects: (before, { itemId }) => mustBeDone(findItemOf(before, itemId, 'shot', 'clip')).trim,
  },
  setGapLength: {
    apply(project, { itemId, frames }) {
      const item = findItemOf(project, itemId, 'gap');
      if (!item.ok) return item;
      const length = checkLength(frames);
      if (!length.ok) return length;
      return done(item.value.frames === frames ? project : withItem(project, { ...item.value, frames }));
    },
    invert: (before, { itemId }) => ({ type: 'setGapLength', itemId, frames: mustBeDone(findItemOf(before, itemId, 'gap')).frames }),
    map(mapping, step) {
      const rate = checkSameRate(mapping, step.frames);
      return rate.ok ? done(step) : rate;
    },
    expects: (before, { itemId }) => mustBeDone(findItemOf(before, itemId, 'gap')).frames,
  },
  readClip: {
    apply(project, { itemId, way, trim }) {
      const item = findItemOf(project, itemId, 'clip');
      if (!item.ok) return item;
      const checked = checkTrim(trim);
      if (!checked.ok) return checked;
      const isSame = item.value.way === way && sameTrim(item.value.trim, trim);
      return done(isSame ? project : withItem(project, { ...item.value, way, trim }));
    },
    invert(before, { itemId }) {
      const { way, trim } = mustBeDone(findItemOf(before, itemId, 'clip'));
      return { type: 'readClip', itemId, way, trim };
    },
    map(mapping, step) {
      const rate = checkSameRate(mapping, step.trim?.frames ?? null);
      return rate.ok ? done(step) : rate;
    },
    expects(before, { itemId }) {
      const { way, trim } = mustBeDone(findItemOf(before, itemId, 'clip'));
      return { way, trim };
    },
  },
  finishItem: {
    apply(project, { itemId, finished }) {
      const item = findItem(project, itemId);
      if (!item.ok) return item;
      return done(item.value.finished === finished ? project : withItem(project, { ...item.value, finished }));
    },
    invert: (before, { itemId }) => ({ type: 'finishItem', itemId, finished: mustBeDone(findItem(before, itemId)).finished }),
    map: asItIs,
    expects: (before, { itemId }) => mustBeDone(findItem(before, itemId)).finished,
  },
};
