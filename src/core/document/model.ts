import type { Checks } from '@/core/document/checks';
import type { Sound } from '@/core/document/sound';
import type { TimingChart } from '@/core/document/timingChart';
import type { Rate } from '@/core/time/rate';

/** SHA-256 of a picture's canonical pixels, 64 lowercase hexadecimal digits. See `@/core/raster/digest`. */
export type Digest = string;

/** Names of things in the document; made once by whoever makes the thing, never reused. */
export type ProjectId = string;
export type ShotId = string;
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
 * `guide` shows its exposures while working and never leaves in a handover.
 */
export type LevelKind = 'animated' | 'still' | 'guide';

/**
 * How a level's colours meet those below: the separable blend modes of the W3C Compositing and Blending
 * Level 1 specification, clause 5.1.
 */
export const BLEND_MODES = [
  'normal',
  'multiply',
  'screen',
  'overlay',
  'darken',
  'lighten',
  'color-dodge',
  'color-burn',
  'hard-light',
  'soft-light',
  'difference',
  'exclusion',
] as const;
export type BlendMode = (typeof BLEND_MODES)[number];

/** How a clip became a guide: every frame of it one of the film's, or the clip keeping its time. */
export type ClipReading = 'readAs' | 'converted';

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

/** A whole project. `startFrame` is the number the first frame is shown with, `palette` the colours its drawings are drawn with. */
export type Project = {
  readonly id: ProjectId;
  readonly title: string;
  readonly rate: Rate;
  readonly size: Size;
  readonly startFrame: number;
  readonly palette: readonly Colour[];
  readonly checks: Checks;
  readonly shots: readonly Shot[];
};

/** The shot of that id; undefined when there is none. */
export const shotById = (project: Project, shotId: ShotId): Shot | undefined => project.shots.find((shot) => shot.id === shotId);

/** The level of that id; undefined when there is none. */
export const levelById = (shot: Shot, levelId: LevelId): Level | undefined => shot.levels.find((level) => level.id === levelId);

/** Lists of drawings that were asked before, by id: lists never change, and a sheet asks one for every cell. */
const askedBefore = new WeakMap<readonly Drawing[], Map<DrawingId, Drawing> | null>();

/** The drawing of that id; undefined when there is none. */
export function drawingById(level: Level, drawingId: DrawingId | null): Drawing | undefined {
  if (drawingId === null) return undefined;
  let byId = askedBefore.get(level.drawings);
  if (byId === undefined) {
    askedBefore.set(level.drawings, null);
    return level.drawings.find((drawing) => drawing.id === drawingId);
  }
  if (byId === null) {
    byId = new Map(level.drawings.map((drawing) => [drawing.id, drawing]));
    askedBefore.set(level.drawings, byId);
  }
  return byId.get(drawingId);
}

/** The list with one element replaced; the same list when nothing changed. */
export function replaceById<T extends { readonly id: string }>(list: readonly T[], id: string, change: (item: T) => T): readonly T[] {
  const index = list.findIndex((item) => item.id === id);
  const before = list[index];
  if (before === undefined) return list;
  const after = change(before);
  return after === before ? list : list.with(index, after);
}
