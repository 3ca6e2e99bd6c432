import { newGap, type Project, type ReelItem, wholeShot } from '@/core/document/model';
import { matchingOf, sourceFor, type Unit } from '@/core/editorial/matching';
import type { EditorialTimeline, PlacedClip } from '@/core/format/editorial';

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
export function itemsAfter(
  project: Project,
  timeline: EditorialTimeline,
  isChosen: (id: string) => boolean,
  newId: () => string,
): readonly ReelItem[] {
  const { units, wanted, unitOf, moved, end, endFrames, wantedEndFrames } = matchingOf(project, timeline);
  const placeOf = new Map(unitOf.flatMap((unit, place): [number, number][] => (unit >= 0 ? [[unit, place]] : [])));
  const trimmed = ({ placed, gap, gapFrames }: Unit, place: number | undefined): Built => {
    const want = place === undefined ? undefined : wanted[place];
    const { item } = placed;
    const isTrimmed = want !== undefined && isChosen(`trimmed:${item.id}`);
    const takesGap = want !== undefined && (isChosen(`gap:${item.id}`) || isChosen(`moved:${item.id}`));
    const whole = isTrimmed && want.clip.sourceFrame === 0 && want.clip.frames === placed.source?.frames;
    const trim = isTrimmed ? (whole ? null : { fromFrame: want.clip.sourceFrame, frames: want.clip.frames }) : null;
    return { item: isTrimmed && item.kind !== 'gap' ? { ...item, trim } : item, gap, gapFrames: takesGap ? want.gapFrames : gapFrames };
  };
  const built: (Built & { readonly place: number | null })[] = units.flatMap((unit, index) => {
    const place = placeOf.get(index);
    if (place === undefined && isChosen(`gone:${unit.placed.item.id}`)) return [];
    if (place !== undefined && moved.has(place) && isChosen(`moved:${unit.placed.item.id}`)) return [];
    // One that has moved and is left where it is stands for no place of the timeline.
    return [{ ...trimmed(unit, place), place: place !== undefined && moved.has(place) ? null : (place ?? null) }];
  });
  for (const [place, { clip, gapFrames }] of wanted.entries()) {
    const unit = units[unitOf[place] as number];
    const isNew = !unit && isChosen(`new:${place}`);
    const isMoved = unit !== undefined && moved.has(place) && isChosen(`moved:${unit.placed.item.id}`);
    if (!isNew && !isMoved) continue;
    const made: Built = unit ? trimmed(unit, place) : { item: newItem(project, clip, newId), gap: null, gapFrames };
    const before = built.findLastIndex((other) => other.place !== null && other.place < place);
    built.splice(before + 1, 0, { ...made, place });
  }
  const gapOf = (gap: ReelItem | null, frames: number): readonly ReelItem[] =>
    frames === 0 ? [] : [gap?.kind === 'gap' ? { ...gap, frames } : newGap(newId(), frames)];
  const last = isChosen('gap:end') ? wantedEndFrames : endFrames;
  return [...built.flatMap(({ item, gap, gapFrames }) => [...gapOf(gap, gapFrames), item]), ...gapOf(end, last)];
}
