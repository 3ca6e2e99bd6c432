import type { BlendMode } from '@/core/document/blendModes';
import type { Checks } from '@/core/document/checks';
import type { Clip, ClipReading } from '@/core/document/clip';
import type { Finish } from '@/core/document/finish';
import type { Sound } from '@/core/document/sound';
import type { TimingChart } from '@/core/document/timingChart';
import type { Rate } from '@/core/time/rate';

/** SHA-256 of a picture's canonical pixels, 64 lowercase hexadecimal digits. See `@/core/raster/digest`. */
export type Digest = string;

/** Names of things in the document; made once by whoever makes the thing, never reused. */
export type ProjectId = string;
export type ShotId = string;
export type ReelItemId = string;
export type LevelId = string;
export type DrawingId = string;

/** What a drawing is in the movement: an extreme, a pose on the way, or one in between. */
export type DrawingRole = 'key' | 'breakdown' | 'inbetween';

/** A drawing: its number on the level (text, since an added one may be `12a`), role and picture; no picture means planned. */
export type Drawing = {
  readonly id: DrawingId;
  readonly number: string;
  readonly role: DrawingRole;
  readonly picture: Digest | null;
};

/** One drawing held for `frames` frames (from 1); a null drawing is blank. */
export type Exposure = { readonly drawing: DrawingId | null; readonly frames: number };

/**
 * What a level does: `animated` shows its exposures; `still` shows its first drawing for the whole shot;
 * `guide` shows its exposures while working and is never handed over.
 */
export type LevelKind = 'animated' | 'still' | 'guide';

/** The clip a level was made from: its pictures, how long they last together, and how they were read. */
export type LevelMedia = {
  readonly fileName: string;
  readonly frames: number;
  readonly lengthMicroseconds: number;
  readonly way: ClipReading;
};

/**
 * One level of a shot. On a locked one neither drawings nor exposures can be changed. Exposures run from the shot's first frame without a gap; neighbours never hold
 * the same drawing, and a blank never stands last, so that equal sheets are equal values.
 */
export type Level = {
  readonly id: LevelId;
  readonly name: string;
  readonly kind: LevelKind;
  readonly visible: boolean;
  readonly locked: boolean;
  readonly opacityPercent: number;
  readonly blend: BlendMode;
  readonly drawings: readonly Drawing[];
  readonly exposures: readonly Exposure[];
  readonly charts: readonly TimingChart[];
  readonly media: LevelMedia | null;
};

/** A level with nothing on it yet. */
export const newLevel = (id: LevelId, name: string, kind: LevelKind = 'animated'): Level => ({
  id,
  name,
  kind,
  visible: true,
  locked: false,
  opacityPercent: kind === 'guide' ? 40 : 100,
  blend: 'normal',
  drawings: [],
  exposures: [],
  charts: [],
  media: null,
});

/** What words on the sheet are: a note to whoever draws, a word that is spoken, or an accent of the sound. */
export const NOTE_KINDS = ['note', 'word', 'accent'] as const;
export type NoteKind = (typeof NOTE_KINDS)[number];

/** Words written beside a frame of the sheet, at most one of a kind on each; `frame` counts from 0. */
export type SheetNote = { readonly frame: number; readonly kind: NoteKind; readonly words: string };

/** Most characters of a shot's note. */
export const LONGEST_SHOT_NOTE = 4000;

/** A shot: `frames` long, levels from the lowest (behind) to the highest (in front), notes in order of frame, and the sounds that start in it. */
export type Shot = {
  readonly id: ShotId;
  readonly code: string;
  readonly name: string;
  readonly note: string;
  readonly frames: number;
  readonly levels: readonly Level[];
  readonly notes: readonly SheetNote[];
  readonly sounds: readonly Sound[];
};

/** The picture size every drawing of a project has, in pixels. */
export type Size = { readonly width: number; readonly height: number };

/** A colour as `#rrggbb`, lower case. */
export type Colour = string;

/** Which frames of a shot are shown: `frames` (from 1) from `fromFrame` (from 0 in the shot) on. They may run past the end of the shot, where there is paper. */
export type Trim = { readonly fromFrame: number; readonly frames: number };

/** What every item of the reel has: its name, and whether the finish of the film lies over it. */
type OnReel = { readonly id: ReelItemId; readonly finished: boolean };

/**
 * A shot on the reel. Without a trim it is shown whole, as long as it is and following it; with one it shows the same frames
 * whatever becomes of the shot's length. One shot may lie on the reel several times. An item that was laid when its shot was
 * added has the shot's id.
 */
export type ShotItem = OnReel & { readonly kind: 'shot'; readonly shotId: ShotId; readonly trim: Trim | null };

/**
 * A clip that was brought in, on the reel. Read as the film's, each of its frames is one of the film's; converted, it keeps
 * its time. A trim counts the film's frames the clip covers when it is whole; its pictures lie in the middle of the film's,
 * as large as they fit.
 */
export type ClipItem = OnReel & { readonly kind: 'clip'; readonly clip: Clip; readonly way: ClipReading; readonly trim: Trim | null };

/** Paper for `frames` frames (from 1). */
export type GapItem = OnReel & { readonly kind: 'gap'; readonly frames: number };

/** What lies on the reel. */
export type ReelItem = ShotItem | ClipItem | GapItem;

/** A new gap. */
export const newGap = (id: ReelItemId, frames: number): GapItem => ({ id, kind: 'gap', finished: true, frames });

/** The item of a whole shot that is laid on the reel as the shot is added. */
export const wholeShot = (shotId: ShotId): ShotItem => ({
  id: shotId,
  kind: 'shot',
  shotId,
  trim: null,
  finished: true,
});

/**
 * The film: items one after another. Where each starts is worked out (`@/core/reel/reel`), never stored. `sounds` belong to
 * the reel and not to a shot: they start on a frame of the reel (from 0) and stay there whatever the items do.
 */
export type Reel = { readonly items: readonly ReelItem[]; readonly sounds: readonly Sound[] };

/** The form documents are written in; `@/core/document/upgrade` brings those of earlier forms to it. */
export const DOCUMENT_VERSION = 4;

/**
 * A whole project. `firstFrameNumber` is the number the first frame is shown with, `palette` the colours its drawings are drawn with.
 * The order of `shots` means nothing; the film's order is that of the reel.
 */
export type Project = {
  readonly version: typeof DOCUMENT_VERSION;
  readonly id: ProjectId;
  readonly title: string;
  readonly rate: Rate;
  readonly size: Size;
  readonly firstFrameNumber: number;
  readonly palette: readonly Colour[];
  readonly checks: Checks;
  readonly shots: readonly Shot[];
  readonly reel: Reel;
  readonly finish: Finish;
};

/** The shot of that id; undefined when there is none. */
export const shotById = (project: Project, shotId: ShotId): Shot | undefined => project.shots.find((shot) => shot.id === shotId);

/** The level of that id; undefined when there is none. */
export const levelById = (shot: Shot, levelId: LevelId): Level | undefined => shot.levels.find((level) => level.id === levelId);

/** Lists of drawings that were asked for one: the first time they are searched, from the second on they have an index by id. */
const askedLists = new WeakMap<readonly Drawing[], 'searched once' | ReadonlyMap<DrawingId, Drawing>>();

/** The drawings of a level by their ids, for whoever asks for many. */
export function drawingsById({ drawings }: Level): ReadonlyMap<DrawingId | null, Drawing> {
  const known = askedLists.get(drawings);
  if (known !== undefined && known !== 'searched once') return known;
  const index = new Map(drawings.map((drawing) => [drawing.id, drawing]));
  askedLists.set(drawings, index);
  return index;
}

/**
 * The drawing of that id; undefined when there is none. An index is made only for a list that is asked again, since a long
 * chain of steps makes a new list each and asks it once. The sheet asks for one with every cell.
 */
export function drawingById(level: Level, drawingId: DrawingId | null): Drawing | undefined {
  if (drawingId === null) return undefined;
  if (askedLists.has(level.drawings)) return drawingsById(level).get(drawingId);
  askedLists.set(level.drawings, 'searched once');
  return level.drawings.find((drawing) => drawing.id === drawingId);
}

/** The list with one element replaced; the same list when nothing changed. */
export function replaceById<T extends { readonly id: string }>(list: readonly T[], id: string, change: (item: T) => T): readonly T[] {
  const index = list.findIndex((item) => item.id === id);
  const before = list[index];
  if (before === undefined) return list;
  const after = change(before);
  return after === before ? list : list.with(index, after);
}
