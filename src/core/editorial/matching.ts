import type { ClipItem, Project, ReelItem, Shot } from '@/core/document/model';
import { type EditorialTimeline, framesOfTrack, type PlacedClip, placedClips } from '@/core/format/editorial';
import { type PlacedItem, placedItems } from '@/core/reel/reel';

/*
 * A timeline that comes back, changed or made elsewhere, held against the reel. Its clips are matched with the items that show the
 * same by the longest run of both in one order, the same frames counting for more; what is left of both by name is what has moved,
 * and the rest is new or gone. Each difference can be taken by itself; all of them make the reel what the timeline says.
 *
 * A gap belongs to the item it stands before, and the last one to the end.
 */

/** An item that shows something, with the gap before it. */
export type Unit = { readonly placed: PlacedItem; readonly gap: ReelItem | null; readonly gapFrames: number };
export type Wanted = { readonly clip: PlacedClip; readonly gapFrames: number };

/** A name as it is told from others: what lists write large and without signs is the same. */
export const keyOf = (name: string): string =>
  name
    .normalize('NFKD')
    .replace(/[^\p{Letter}\p{Number}]/gu, '')
    .toUpperCase();

function unitsOf(project: Project): { readonly units: readonly Unit[]; readonly end: ReelItem | null; readonly endFrames: number } {
  const units: Unit[] = [];
  let [gap, gapFrames]: [ReelItem | null, number] = [null, 0];
  for (const placed of placedItems(project)) {
    if (placed.source) {
      units.push({ placed, gap, gapFrames });
      [gap, gapFrames] = [null, 0];
    } else [gap, gapFrames] = [placed.item, gapFrames + placed.endFrame - placed.startFrame];
  }
  return { units, end: gap, endFrames: gapFrames };
}

function wantedOf({ tracks }: EditorialTimeline): { readonly wanted: readonly Wanted[]; readonly endFrames: number } {
  const picture = tracks.find(({ kind }) => kind === 'picture');
  if (!picture) return { wanted: [], endFrames: 0 };
  let end = 0;
  const wanted = placedClips(picture).map((clip): Wanted => {
    const gapFrames = clip.startFrame - end;
    end = clip.startFrame + clip.frames;
    return { clip, gapFrames };
  });
  return { wanted, endFrames: framesOfTrack(picture) - end };
}

export const framesOf = ({ startFrame, endFrame }: PlacedItem): number => endFrame - startFrame;
export const showsSame = ({ placed }: Unit, { clip }: Wanted): boolean =>
  placed.fromFrame === clip.sourceFrame && framesOf(placed) === clip.frames;

/** For each clip the unit it is, -1 for none: the heaviest run of both in one order, where the same frames weigh twice. */
function inOrder(units: readonly Unit[], wanted: readonly Wanted[]): readonly number[] {
  const [own, theirs] = [units.map(({ placed }) => keyOf(placed.source?.name ?? '')), wanted.map(({ clip }) => keyOf(clip.name))];
  const width = theirs.length + 1;
  const best = new Int32Array((own.length + 1) * width);
  const weight = (a: number, b: number) => (own[a] !== theirs[b] ? 0 : showsSame(units[a] as Unit, wanted[b] as Wanted) ? 3 : 2);
  for (let a = own.length - 1; a >= 0; a--)
    for (let b = theirs.length - 1; b >= 0; b--) {
      const [skipA, skipB] = [best[(a + 1) * width + b] as number, best[a * width + b + 1] as number];
      const same = weight(a, b);
      best[a * width + b] = Math.max(skipA, skipB, same === 0 ? 0 : same + (best[(a + 1) * width + b + 1] as number));
    }
  const matched = theirs.map(() => -1);
  for (let a = 0, b = 0; a < own.length && b < theirs.length; ) {
    const here = best[a * width + b] as number;
    const same = weight(a, b);
    if (same > 0 && here === same + (best[(a + 1) * width + b + 1] as number)) matched[b++] = a++;
    else if (here === best[(a + 1) * width + b]) a++;
    else b++;
  }
  return matched;
}

/** How a timeline and a reel belong together. `moved` are the clips (by place) whose items have moved. */
export type Matching = {
  readonly units: readonly Unit[];
  readonly wanted: readonly Wanted[];
  readonly unitOf: readonly number[];
  readonly moved: ReadonlySet<number>;
  readonly end: ReelItem | null;
  readonly endFrames: number;
  readonly wantedEndFrames: number;
};

export function matchingOf(project: Project, timeline: EditorialTimeline): Matching {
  const { units, end, endFrames } = unitsOf(project);
  const { wanted, endFrames: wantedEndFrames } = wantedOf(timeline);
  const unitOf = [...inOrder(units, wanted)];
  const taken = new Set(unitOf.filter((unit) => unit >= 0));
  const moved = new Set<number>();
  for (const [place, { clip }] of wanted.entries()) {
    if (unitOf[place] !== -1) continue;
    const free = units.flatMap(({ placed }, unit) =>
      !taken.has(unit) && keyOf(placed.source?.name ?? '') === keyOf(clip.name) ? [unit] : [],
    );
    const unit = free.find((each) => showsSame(units[each] as Unit, wanted[place] as Wanted)) ?? free[0];
    if (unit === undefined) continue;
    unitOf[place] = unit;
    taken.add(unit);
    moved.add(place);
  }
  return { units, wanted, unitOf, moved, end, endFrames, wantedEndFrames };
}

/** What a clip shows that is not on the reel: a shot of the project, or a clip that is on the reel elsewhere; null where neither is known. */
export function sourceFor(project: Project, name: string): { readonly shot: Shot } | { readonly clip: ClipItem } | null {
  const key = keyOf(name);
  const shot = project.shots.find(({ code }) => keyOf(code) === key);
  if (shot) return { shot };
  const placed = placedItems(project).find(({ item, source }) => item.kind === 'clip' && keyOf(source?.name ?? '') === key);
  return placed?.item.kind === 'clip' ? { clip: placed.item } : null;
}
