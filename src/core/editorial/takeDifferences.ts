import { newGap, type Project, type ReelItem, type ReelItemId, wholeShot } from '@/core/document/model';
import type { Edit } from '@/core/edit/edit';
import type { Step } from '@/core/edit/step';
import { sourceFor } from '@/core/editorial/againstReel';
import { matchingOf, type Unit } from '@/core/editorial/matching';
import type { EditorialTimeline, PlacedClip } from '@/core/format/editorial';
import { type Outcome, refused } from '@/core/outcome';
import { reelEdit } from '@/core/reel/reelEdit';
import { plural } from '@/core/time/counts';

/* The reel with some of the differences of a timeline taken, as one edit; all of them make it what the timeline says. */

/** A unit as it is put together anew: an item and how many frames of paper stand before it. */
type Built = { readonly item: ReelItem; readonly gap: ReelItem | null; readonly gapFrames: number };

function newItem(project: Project, { name, sourceFrame, frames }: PlacedClip, newId: () => string): ReelItem {
  const source = sourceFor(project, name);
  const id = newId();
  if (!source) return newGap(id, frames);
  const trim = { fromFrame: sourceFrame, frames };
  if ('clip' in source) return { ...source.clip, id, trim };
  const isAll = sourceFrame === 0 && frames === source.shot.frames;
  return { ...wholeShot(source.shot.id), id, trim: isAll ? null : trim };
}

/** The items of the reel once the chosen differences are taken. */
function itemsAfter(project: Project, timeline: EditorialTimeline, chosen: ReadonlySet<string>, newId: () => string): readonly ReelItem[] {
  const { units, wanted, unitOf, moved, end, endFrames, wantedEndFrames } = matchingOf(project, timeline);
  const placeOf = new Map(unitOf.flatMap((unit, place): [number, number][] => (unit >= 0 ? [[unit, place]] : [])));
  const trimmed = ({ placed, gap, gapFrames }: Unit, place: number | undefined): Built => {
    const want = place === undefined ? undefined : wanted[place];
    const { item } = placed;
    const isTrimmed = want !== undefined && chosen.has(`trimmed:${item.id}`);
    const takesGap = want !== undefined && (chosen.has(`gap:${item.id}`) || chosen.has(`moved:${item.id}`));
    const whole = isTrimmed && want.clip.sourceFrame === 0 && want.clip.frames === placed.source?.frames;
    const trim = isTrimmed ? (whole ? null : { fromFrame: want.clip.sourceFrame, frames: want.clip.frames }) : null;
    return { item: isTrimmed && item.kind !== 'gap' ? { ...item, trim } : item, gap, gapFrames: takesGap ? want.gapFrames : gapFrames };
  };
  const built: (Built & { readonly place: number | null })[] = units.flatMap((unit, index) => {
    const place = placeOf.get(index);
    if (place === undefined && chosen.has(`gone:${unit.placed.item.id}`)) return [];
    if (place !== undefined && moved.has(place) && chosen.has(`moved:${unit.placed.item.id}`)) return [];
    // One that has moved and is left where it is stands for no place of the timeline.
    return [{ ...trimmed(unit, place), place: place !== undefined && moved.has(place) ? null : (place ?? null) }];
  });
  for (const [place, { clip, gapFrames }] of wanted.entries()) {
    const unit = units[unitOf[place] as number];
    const isNew = !unit && chosen.has(`new:${place}`);
    const isMoved = unit !== undefined && moved.has(place) && chosen.has(`moved:${unit.placed.item.id}`);
    if (!isNew && !isMoved) continue;
    const made: Built = unit ? trimmed(unit, place) : { item: newItem(project, clip, newId), gap: null, gapFrames };
    const before = built.findLastIndex((other) => other.place !== null && other.place < place);
    built.splice(before + 1, 0, { ...made, place });
  }
  const gapOf = (gap: ReelItem | null, frames: number): readonly ReelItem[] =>
    frames === 0 ? [] : [gap?.kind === 'gap' ? { ...gap, frames } : newGap(newId(), frames)];
  const last = chosen.has('gap:end') ? wantedEndFrames : endFrames;
  return [...built.flatMap(({ item, gap, gapFrames }) => [...gapOf(gap, gapFrames), item]), ...gapOf(end, last)];
}

/** The steps that make one list of items another. */
function stepsTo(before: readonly ReelItem[], after: readonly ReelItem[]): readonly Step[] {
  const steps: Step[] = [];
  const kept = new Set(after.map(({ id }) => id));
  const gone = before.filter(({ id }) => !kept.has(id)).map(({ id }) => id);
  if (gone.length > 0) steps.push({ type: 'removeItems', itemIds: gone });
  const known = new Map<ReelItemId, ReelItem>(before.map((item) => [item.id, item]));
  const now = before.filter(({ id }) => kept.has(id)).map(({ id }) => id);
  for (const [index, item] of after.entries()) {
    const old = known.get(item.id);
    if (!old) {
      steps.push({ type: 'addItems', items: [{ item, index }] });
      now.splice(index, 0, item.id);
      continue;
    }
    if (now[index] !== item.id) {
      steps.push({ type: 'moveItem', itemId: item.id, index });
      now.splice(now.indexOf(item.id), 1);
      now.splice(index, 0, item.id);
    }
    if (item.kind === 'gap' && old.kind === 'gap' && item.frames !== old.frames)
      steps.push({ type: 'setGapLength', itemId: item.id, frames: item.frames });
    if (item.kind !== 'gap' && old.kind !== 'gap' && JSON.stringify(item.trim) !== JSON.stringify(old.trim))
      steps.push({ type: 'trimItem', itemId: item.id, trim: item.trim });
  }
  return steps;
}

/** The chosen differences (by id) as one edit that can be undone; refused where none of them changes the reel. */
export function takeDifferences(
  project: Project,
  timeline: EditorialTimeline,
  chosen: readonly string[],
  newId: () => string,
): Outcome<Edit> {
  const after = itemsAfter(project, timeline, new Set(chosen), newId);
  const steps = stepsTo(project.reel.items, after);
  if (steps.length === 0) return refused('There is nothing in that to take.');
  return reelEdit(project, steps, `${plural(chosen.length, 'difference')} of ${timeline.title || 'the timeline'} taken`, {
    words: 'Take a timeline',
  });
}
