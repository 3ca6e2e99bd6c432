import { type Clip, framesOfClip } from '@/core/document/clip';
import type { Project, ReelItem, ReelItemId, Shot, ShotId, ShotItem } from '@/core/document/model';
import { remembered } from '@/core/remembered';
import { titleOfFile } from '@/core/sheet/fileTitle';

/**
 * What an item shows: a shot, or a clip as it is read at the film's rate. `frames` is how many of the film's frames there are
 * of it, `name` what it is called.
 */
export type ReelSource = { readonly name: string; readonly frames: number } & (
  | { readonly shot: Shot; readonly clip: null }
  | { readonly shot: null; readonly clip: Clip }
);

/**
 * An item where it lies: it covers the reel's frames from `startFrame` (inclusive, from 0) to `endFrame` (exclusive).
 * `index` is its place among the items. It shows its source from that one's frame `fromFrame` (from 0) on; a gap has none.
 * `shot` is the shot it shows; null for all else.
 */
export type PlacedItem = {
  readonly item: ReelItem;
  readonly index: number;
  readonly source: ReelSource | null;
  readonly shot: Shot | null;
  readonly fromFrame: number;
  readonly startFrame: number;
  readonly endFrame: number;
};

/** A shot where it lies on the reel. */
export type PlacedShot = PlacedItem & { readonly item: ShotItem; readonly shot: Shot; readonly source: ReelSource };

/** What an item shows, and for how long. */
type Extent = { readonly source: ReelSource | null; readonly fromFrame: number; readonly frames: number };

const shotsById = remembered((shots: readonly Shot[]) => new Map(shots.map((shot) => [shot.id, shot])));

const extentOfSource = (source: ReelSource, trim: ShotItem['trim']): Extent => ({
  source,
  fromFrame: trim?.fromFrame ?? 0,
  frames: trim?.frames ?? source.frames,
});

/** What a kind of item is on the reel; each kind has its entry, and what it shows has one in `@/core/render/itemRuns`. */
const EXTENT_OF: {
  readonly [Kind in ReelItem['kind']]: (project: Project, item: ReelItem & { kind: Kind }) => Extent | undefined;
} = {
  shot: ({ shots }, { shotId, trim }) => {
    const shot = shotsById(shots).get(shotId);
    // Steps take an item away with its shot; one that is left over covers nothing.
    return shot && extentOfSource({ name: shot.code, frames: shot.frames, shot, clip: null }, trim);
  },
  clip: ({ rate }, { clip, way, trim }) =>
    extentOfSource({ name: titleOfFile(clip.fileName), frames: framesOfClip(clip, way, rate), shot: null, clip }, trim),
  gap: (_project, { frames }) => ({ source: null, fromFrame: 0, frames }),
};

/** The extent of an item; the table holds for each kind what that kind is, which the compiler can't follow through an index. */
const extentOf = (project: Project, item: ReelItem): Extent | undefined =>
  (EXTENT_OF[item.kind] as (project: Project, item: ReelItem) => Extent | undefined)(project, item);

/** How many frames an item covers. */
export const framesOfItem = (project: Project, item: ReelItem): number => extentOf(project, item)?.frames ?? 0;

/** The items of the reel one after another, each with the frames it covers. */
export const placedItems = remembered((project: Project): readonly PlacedItem[] => {
  let startFrame = 0;
  return project.reel.items.flatMap((item, index) => {
    const extent = extentOf(project, item);
    if (!extent) return [];
    const { source, fromFrame, frames } = extent;
    const placed = { item, index, source, shot: source?.shot ?? null, fromFrame, startFrame, endFrame: startFrame + frames };
    startFrame = placed.endFrame;
    return placed;
  });
});

/** Whether a placed item shows a shot. */
export const isShot = (placed: PlacedItem): placed is PlacedShot => placed.shot !== null;

/** The shots on the reel in order, as often as each is on it. */
export const placedShots = remembered((project: Project): readonly PlacedShot[] => placedItems(project).filter(isShot));

/** How many frames the reel has. */
export const framesOfReel = (project: Project): number => placedItems(project).at(-1)?.endFrame ?? 0;

/** The item on the reel at `frame` (from 0); undefined outside it. Found by halving. */
export function itemAt(project: Project, frame: number): PlacedItem | undefined {
  const items = placedItems(project);
  let [low, high] = [0, items.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((items[middle] as PlacedItem).endFrame <= frame) low = middle + 1;
    else high = middle;
  }
  const placed = items[low];
  return placed && frame >= placed.startFrame ? placed : undefined;
}

/** The shot on the reel at `frame` (from 0); undefined over a gap and past the end. */
export function shotAt(project: Project, frame: number): PlacedShot | undefined {
  const placed = itemAt(project, frame);
  return placed && isShot(placed) ? placed : undefined;
}

/** The item of that id where it lies; undefined when it is not on the reel. */
export const placedById = (project: Project, itemId: ReelItemId): PlacedItem | undefined =>
  placedItems(project).find(({ item }) => item.id === itemId);

/** Where a shot lies on the reel first; undefined when it is not on it. */
export const firstPlaceOf = (project: Project, shotId: ShotId): PlacedShot | undefined =>
  placedShots(project).find(({ shot }) => shot.id === shotId);

/** The first item that shows a frame of a shot, and the reel's frame that is; undefined when none shows it. */
export function reelFrameOf(project: Project, shotId: ShotId, shotFrame: number): { placed: PlacedShot; frame: number } | undefined {
  for (const placed of placedShots(project)) {
    const frame = placed.startFrame + shotFrame - placed.fromFrame;
    if (placed.shot.id === shotId && frame >= placed.startFrame && frame < placed.endFrame) return { placed, frame };
  }
  return undefined;
}

/** Whether an item shows all there is of its source. */
export const isWhole = ({ fromFrame, startFrame, endFrame, source }: PlacedItem): boolean =>
  source !== null && fromFrame === 0 && endFrame - startFrame === source.frames;

/** Every shot once, in the order in which it first comes on the reel; those that are not on it follow. */
export const shotsInOrder = remembered((project: Project): readonly Shot[] => {
  const shots = new Set(placedShots(project).map(({ shot }) => shot));
  for (const shot of project.shots) shots.add(shot);
  return [...shots];
});

/** Shots of the project that are not on its reel. */
export function shotsLeftOut(project: Project): readonly Shot[] {
  const shown = new Set(placedShots(project).map(({ shot }) => shot.id));
  return project.shots.filter((shot) => !shown.has(shot.id));
}

/** The place on the reel of the first item that shows a shot; −1 when none does. */
export const reelIndexOf = (project: Project, shotId: ShotId): number =>
  project.reel.items.findIndex((item) => item.kind === 'shot' && item.shotId === shotId);
