import type { BlendMode } from '@/core/document/blendModes';
import type { ChecksChange } from '@/core/document/checks';
import type { ClipReading } from '@/core/document/clip';
import type { EffectId, FinishEffect } from '@/core/document/finish';
import type {
  Colour,
  Digest,
  Drawing,
  DrawingId,
  DrawingRole,
  Exposure,
  Level,
  LevelId,
  LevelKind,
  ReelItem,
  ReelItemId,
  SheetNote,
  Shot,
  ShotId,
  Size,
  Trim,
} from '@/core/document/model';
import type { Sound, SoundChange, SoundId } from '@/core/document/sound';
import type { TimingChart } from '@/core/document/timingChart';
import type { Rate } from '@/core/time/rate';

type OnShot = { readonly shotId: ShotId };
/** Sounds of a shot, or of the reel itself when `shotId` is null. */
type OnSounds = { readonly shotId: ShotId | null };
type OnLevel = OnShot & { readonly levelId: LevelId };
type OnDrawing = OnLevel & { readonly drawingId: DrawingId };

/** Whether what stands after a changed exposure moves with it, or keeps its frames and is covered. */
export type RestRule = 'push' | 'overwrite';

/** What can be said about a level apart from what it shows. */
export type LevelDescription = {
  readonly name?: string;
  readonly kind?: LevelKind;
  readonly visible?: boolean;
  readonly locked?: boolean;
  readonly opacityPercent?: number;
  readonly blend?: BlendMode;
};

/** A drawing with the number it is to have. */
export type NumberedDrawing = { readonly drawingId: DrawingId; readonly number: string };

/** An item with its place on the reel. */
export type ItemOnReel = { readonly item: ReelItem; readonly index: number };

/** The counts of a level: its column. */
type LevelTiming = { readonly levelId: LevelId; readonly exposures: readonly Exposure[] };
type SoundTiming = { readonly soundId: SoundId; readonly startFrame: number };

/** The counts of an item of the reel: the trim of a shot or a clip (null when it is whole), or how long a gap is. */
export type ItemTiming = { readonly itemId: ReelItemId; readonly trim?: Trim | null; readonly frames?: number };

/** The counts of a shot: its length, where its notes and sounds stand, and columns; levels and sounds left out stay as they are. */
export type ShotTiming = {
  readonly shotId: ShotId;
  readonly frames: number;
  readonly notes: readonly SheetNote[];
  readonly sounds: readonly SoundTiming[];
  readonly levels: readonly LevelTiming[];
};

/**
 * Every change a document can have, as plain JSON. Frames count from 0 at the shot's first frame;
 * `frames` are lengths from 1. The meaning of each is its entry in `@/core/edit/table`.
 */
export type Step =
  | { readonly type: 'renameProject'; readonly title: string }
  | { readonly type: 'setFormat'; readonly rate?: Rate; readonly size?: Size; readonly firstFrameNumber?: number }
  /** The rate of the project and the counts of its shots and its reel at once; shots, items and sounds of the reel left out stay as they are. */
  | {
      readonly type: 'setTiming';
      readonly words: string;
      readonly rate: Rate;
      readonly shots: readonly ShotTiming[];
      readonly items: readonly ItemTiming[];
      readonly reelSounds: readonly SoundTiming[];
    }
  | { readonly type: 'setPalette'; readonly palette: readonly Colour[] }
  | { readonly type: 'setChecks'; readonly change: ChecksChange }
  /** Keeps a finding as intended, with a note; a note of null keeps it no longer. */
  | { readonly type: 'keepFinding'; readonly finding: string; readonly note: string | null }
  /** Adds a shot at `index` of the shots, and what shows it to the reel, one after another at their places there. */
  | { readonly type: 'addShot'; readonly shot: Shot; readonly index: number; readonly items: readonly ItemOnReel[] }
  /** Removes a shot, and whatever shows it from the reel. */
  | (OnShot & { readonly type: 'removeShot' })
  /** Lays items on the reel, one after another at their places. */
  | { readonly type: 'addItems'; readonly items: readonly ItemOnReel[] }
  /** Takes items off the reel; the shots they show stay in the project. */
  | { readonly type: 'removeItems'; readonly itemIds: readonly ReelItemId[] }
  | { readonly type: 'moveItem'; readonly itemId: ReelItemId; readonly index: number }
  /** Trims the item of a shot or a clip, or shows it whole with a trim of null. */
  | { readonly type: 'trimItem'; readonly itemId: ReelItemId; readonly trim: Trim | null }
  | { readonly type: 'setGapLength'; readonly itemId: ReelItemId; readonly frames: number }
  /** Reads a clip another way, with the trim it has then. */
  | { readonly type: 'readClip'; readonly itemId: ReelItemId; readonly way: ClipReading; readonly trim: Trim | null }
  /** Whether the finish of the film lies over an item. */
  | { readonly type: 'finishItem'; readonly itemId: ReelItemId; readonly finished: boolean }
  /** What an effect of the finish is from now on; one that is not there yet comes at `index`, and null takes it away. */
  | { readonly type: 'setEffect'; readonly effectId: EffectId; readonly effect: FinishEffect | null; readonly index: number }
  | { readonly type: 'moveEffect'; readonly effectId: EffectId; readonly index: number }
  | (OnShot & { readonly type: 'describeShot'; readonly code?: string; readonly name?: string; readonly note?: string })
  | (OnShot & { readonly type: 'setShotLength'; readonly frames: number })
  | (OnShot & { readonly type: 'setNotes'; readonly notes: readonly SheetNote[] })
  | (OnSounds & { readonly type: 'addSound'; readonly sound: Sound; readonly index: number })
  | (OnSounds & { readonly type: 'removeSound'; readonly soundId: SoundId })
  | (OnSounds & { readonly type: 'changeSound'; readonly soundId: SoundId; readonly change: SoundChange })
  | (OnShot & { readonly type: 'addLevel'; readonly level: Level; readonly index: number })
  | (OnLevel & { readonly type: 'removeLevel' })
  | (OnLevel & { readonly type: 'moveLevel'; readonly index: number })
  | (OnLevel & { readonly type: 'describeLevel'; readonly change: LevelDescription })
  | (OnLevel & { readonly type: 'setCharts'; readonly charts: readonly TimingChart[] })
  | (OnLevel & { readonly type: 'addDrawing'; readonly drawing: Drawing; readonly index: number })
  | (OnLevel & {
      readonly type: 'copyDrawing';
      readonly sourceId: DrawingId;
      readonly copyId: DrawingId;
      readonly number: string;
      readonly index: number;
    })
  | (OnDrawing & { readonly type: 'deleteDrawing' })
  | (OnDrawing & { readonly type: 'describeDrawing'; readonly number?: string; readonly role?: DrawingRole })
  | (OnLevel & { readonly type: 'renumberDrawings'; readonly order: readonly NumberedDrawing[] })
  | (OnDrawing & { readonly type: 'setPicture'; readonly picture: Digest | null })
  | (OnDrawing & { readonly type: 'expose'; readonly startFrame: number; readonly frames: number })
  | (OnLevel & { readonly type: 'blank'; readonly startFrame: number; readonly frames: number })
  | (OnLevel & { readonly type: 'removeExposure'; readonly atFrame: number })
  | (OnLevel & { readonly type: 'setLength'; readonly atFrame: number; readonly frames: number; readonly following: RestRule })
  | (OnLevel & {
      readonly type: 'replaceRuns';
      readonly startFrame: number;
      readonly removedFrames: number;
      readonly runs: readonly Exposure[];
    })
  | { readonly type: 'together'; readonly words: string; readonly steps: readonly Step[] };

export type StepType = Step['type'];
export type StepOf<T extends StepType> = Extract<Step, { type: T }>;
