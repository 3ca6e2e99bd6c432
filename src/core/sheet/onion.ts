import { type Digest, type DrawingId, drawingById, type Level, type LevelId, type Shot } from '@/core/document/model';
import { drawingShownAt, neighbourDrawing } from '@/core/sheet/reading';
import { type PlacedRun, runAt } from '@/core/sheet/runs';

/** Where a sheet of the onion skin comes from: earlier, later, or pinned to be compared with. */
export type OnionSide = 'before' | 'after' | 'pinned';

/** How a neighbour is shown: its shape filled with the tint, or only its lines. */
export type OnionLook = 'filled' | 'outline';

/** What shines through the paper, and how. Percents are 0 to 100; `fadePercent` is how much of a neighbour the next further one loses. */
export type OnionSkin = {
  readonly on: boolean;
  /** Neighbours are counted by drawings, holds passed over, or by frames. */
  readonly by: 'drawing' | 'frame';
  readonly before: number;
  readonly after: number;
  readonly beforePercent: number;
  readonly afterPercent: number;
  readonly fadePercent: number;
  readonly beforeTint: string;
  readonly afterTint: string;
  readonly beforeLook: OnionLook;
  readonly afterLook: OnionLook;
  /** Drawings that don't shine through though they are in reach. */
  readonly off: readonly DrawingId[];
  /** Drawings that shine through wherever one is. */
  readonly pinned: readonly { readonly levelId: LevelId; readonly drawingId: DrawingId }[];
  /** Levels whose neighbours shine through besides those of the level that is drawn on. */
  readonly alsoLevelIds: readonly LevelId[];
};

/** Furthest reach to either side. */
export const MOST_NEIGHBOURS = 6;

const PINNED_ALPHA = 0.5;

/** Ochre behind, violet ahead; ahead only in lines, so that both are told apart without colour too. */
export const FIRST_ONION: OnionSkin = {
  on: true,
  by: 'drawing',
  before: 2,
  after: 1,
  beforePercent: 60,
  afterPercent: 60,
  fadePercent: 40,
  beforeTint: '#c8841c',
  afterTint: '#6d59c7',
  beforeLook: 'filled',
  afterLook: 'outline',
  off: [],
  pinned: [],
  alsoLevelIds: [],
};

/** A neighbouring drawing that shines through: its picture, how much of it, and from which side. */
export type OnionSheet = { readonly picture: Digest; readonly alpha: number; readonly side: OnionSide };

/** A neighbour in reach: its exposure, how far away it is counted, and whether it was switched off. */
export type Neighbour = { readonly run: PlacedRun; readonly side: 'before' | 'after'; readonly distance: number; readonly isOff: boolean };

/** The frames the current drawing stands: from `startFrame` (inclusive) to `endFrame` (exclusive); on a blank the frame itself. */
function standing(level: Level, frame: number): { startFrame: number; endFrame: number; drawing: DrawingId | null } {
  const run = runAt(level.exposures, frame);
  return run?.drawing ? run : { startFrame: frame, endFrame: frame + 1, drawing: null };
}

/** Neighbours within reach on a level, the nearest first, before and then after. The current drawing is none, wherever else it shows. */
export function neighboursInReach(level: Level, frame: number, onion: OnionSkin): readonly Neighbour[] {
  if (level.kind !== 'animated') return [];
  const now = standing(level, frame);
  const found: Neighbour[] = [];
  for (const side of ['before', 'after'] as const) {
    const taken = new Set<DrawingId>();
    for (let distance = 1; distance <= onion[side]; distance++) {
      const run =
        onion.by === 'drawing'
          ? neighbourDrawing(level, side === 'before' ? now.startFrame : now.endFrame - 1, side, distance)
          : runAt(level.exposures, side === 'before' ? frame - distance : frame + distance);
      if (!run?.drawing || run.drawing === now.drawing || taken.has(run.drawing)) continue;
      taken.add(run.drawing);
      found.push({ run, side, distance, isOff: onion.off.includes(run.drawing) });
    }
  }
  return found;
}

function sheetsOfLevel(level: Level, frame: number, onion: OnionSkin): readonly OnionSheet[] {
  const sheets = neighboursInReach(level, frame, onion).flatMap(({ run, side, distance, isOff }): (OnionSheet & { distance: number })[] => {
    const picture = drawingById(level, run.drawing)?.picture;
    const percent = side === 'before' ? onion.beforePercent : onion.afterPercent;
    const alpha = (percent / 100) * (1 - onion.fadePercent / 100) ** (distance - 1);
    return picture && !isOff && alpha > 0 ? [{ picture, side, alpha, distance }] : [];
  });
  const furthestFirst = (side: OnionSide) => sheets.filter((sheet) => sheet.side === side).sort((a, b) => b.distance - a.distance);
  return [...furthestFirst('after'), ...furthestFirst('before')].map(({ picture, alpha, side }) => ({ picture, alpha, side }));
}

function pinnedSheets(shot: Shot, level: Level, frame: number, onion: OnionSkin): readonly OnionSheet[] {
  const shownId = drawingShownAt(level, frame)?.id;
  return onion.pinned.flatMap(({ levelId, drawingId }): OnionSheet[] => {
    const on = shot.levels.find((candidate) => candidate.id === levelId);
    const picture = on && drawingId !== shownId ? drawingById(on, drawingId)?.picture : null;
    return picture ? [{ picture, alpha: PINNED_ALPHA, side: 'pinned' }] : [];
  });
}

/** Everything that shines through at a frame, what lies lowest first: pinned drawings, then other levels' neighbours, then the level's own, the nearest on top. Still and guide levels have no neighbours. */
export function onionSheets(shot: Shot, level: Level, frame: number, onion: OnionSkin): readonly OnionSheet[] {
  if (!onion.on) return [];
  const others = shot.levels.filter((other) => other.id !== level.id && other.visible && onion.alsoLevelIds.includes(other.id));
  return [...pinnedSheets(shot, level, frame, onion), ...[...others, level].flatMap((each) => sheetsOfLevel(each, frame, onion))];
}

/** Why no neighbour shows; null when one does. */
export function whyNoOnion(shot: Shot, level: Level | undefined, frame: number, onion: OnionSkin): string | null {
  if (!onion.on) return 'switched off';
  if (!level) return 'there is no level';
  if (onionSheets(shot, level, frame, onion).length > 0) return null;
  if (level.kind !== 'animated') return `${level.name} is a ${level.kind} level and has no neighbours`;
  if (onion.before === 0 && onion.after === 0) return 'it reaches over no drawing';
  if (onion.beforePercent === 0 && onion.afterPercent === 0) return 'its strength is 0';
  const inReach = neighboursInReach(level, frame, onion);
  if (inReach.length > 0 && inReach.every((neighbour) => neighbour.isOff)) return 'its neighbours are switched off on the sheet';
  return 'no drawn neighbour within its reach';
}

/**
 * The reach that pulling the onion skin's bracket to a frame means: how many neighbours to that side lie
 * between the current drawing and the frame, at most MOST_NEIGHBOURS.
 */
export function reachTo(level: Level, frame: number, toFrame: number, side: 'before' | 'after', by: OnionSkin['by']): number {
  const now = standing(level, frame);
  if (by === 'frame') return Math.max(0, Math.min(MOST_NEIGHBOURS, side === 'before' ? frame - toFrame : toFrame - frame));
  let reach = 0;
  while (reach < MOST_NEIGHBOURS) {
    const run = neighbourDrawing(level, side === 'before' ? now.startFrame : now.endFrame - 1, side, reach + 1);
    if (!run) return reach;
    const reached = side === 'before' ? toFrame < run.endFrame : toFrame >= run.startFrame;
    if (!reached) return reach;
    reach++;
  }
  return reach;
}
