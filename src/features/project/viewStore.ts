import { create } from 'zustand';
import type { LevelId, ReelItemId, ShotId } from '@/core/document/model';
import type { RestRule } from '@/core/edit/step';
import type { Block } from '@/core/sheet/block';
import { FIRST_ONION, type OnionSkin } from '@/core/sheet/onion';
import { type PaperView, WHOLE_PAPER } from '@/features/project/paperView';

/** A range of frames of the open shot, both ends inclusive, from 0. */
export type FrameRange = { readonly fromFrame: number; readonly toFrame: number };

/** What the pen does: draw, rub out, fill an area, take a colour, or pick up a part of the drawing. */
export const TOOLS = ['brush', 'eraser', 'fill', 'colour', 'part'] as const;
export type Tool = (typeof TOOLS)[number];

export type Brush = {
  readonly tool: Tool;
  readonly colour: string;
  readonly sizePx: number;
  readonly eraserPx: number;
  readonly hardnessPercent: number;
  readonly smoothingPercent: number;
  readonly taperPx: number;
  /** Gaps in lines up to this wide hold a fill back. */
  readonly gapPx: number;
  readonly tolerance: number;
  /** What a fill looks at for its borders: this drawing alone, or everything that shows. */
  readonly borders: 'drawing' | 'all';
};

type ViewState = {
  /** Which shot is open; null for the first. */
  readonly shotId: ShotId | null;
  /** The current frame in the open shot, from 0. */
  readonly frame: number;
  readonly levelId: LevelId | null;
  /** The one level that shows on the desk while it is looked at alone; null for all. It never changes what leaves. */
  readonly aloneLevelId: LevelId | null;
  /** The block chosen on the sheet. */
  readonly selection: Block | null;
  /** What was chosen before a drag and after it: undo takes the choice back with the drag. */
  readonly movedSelection: { readonly from: Block | null; readonly to: Block } | null;
  readonly loop: FrameRange | null;
  /** Whether the stage shows the open shot's sheet. */
  readonly sheetInSight: boolean;
  /** Whether it is the reel that is stepped, scrubbed and played, and not the open shot alone. */
  readonly onReel: boolean;
  /** The current frame of the reel, from 0; while `onReel`, the open shot and its frame follow it. */
  readonly reelFrame: number;
  /** The range of the reel that is played; null for all of it. */
  readonly reelLoop: FrameRange | null;
  /** Items chosen on the reel, in no order. */
  readonly reelSelection: readonly ReelItemId[];
  /** Whether the picture is seen without the finish, as long as a key is held. */
  readonly finishOff: boolean;
  readonly playing: boolean;
  /** How many drawings are flipped over while the key is held. */
  readonly flipRoll: 3 | 5;
  /** While flipping, the frame it began on; null else. */
  readonly flippingFrom: number | null;
  readonly following: RestRule;
  /** How wide the sheet's columns are, in px; null when they share the room there is. */
  readonly columnWidthPx: number | null;
  /** Whether the sheet shows beside in-betweens where they lie on their charts. */
  readonly showsPlaces: boolean;
  readonly onion: OnionSkin;
  /** Whether guides show only their lines on the desk. */
  readonly guideLines: boolean;
  readonly brush: Brush;
  readonly paperView: PaperView;
  /** Whether all but the paper, its tools and the clock has stepped aside. */
  readonly paperAlone: boolean;
  /** How many papers are in sight. */
  readonly papers: number;
};

const START: ViewState = {
  shotId: null,
  frame: 0,
  levelId: null,
  aloneLevelId: null,
  selection: null,
  movedSelection: null,
  loop: null,
  sheetInSight: false,
  onReel: false,
  reelFrame: 0,
  reelLoop: null,
  reelSelection: [],
  finishOff: false,
  playing: false,
  flipRoll: 3,
  flippingFrom: null,
  following: 'push',
  columnWidthPx: null,
  showsPlaces: false,
  onion: FIRST_ONION,
  guideLines: false,
  brush: {
    tool: 'brush',
    colour: '#1d2a23',
    sizePx: 6,
    eraserPx: 24,
    hardnessPercent: 100,
    smoothingPercent: 50,
    taperPx: 0,
    gapPx: 8,
    tolerance: 24,
    borders: 'drawing',
  },
  paperView: WHOLE_PAPER,
  paperAlone: false,
  papers: 0,
};

/** What is being looked at and with which tools; none of it is part of the document. */
export const useViewStore = create<ViewState>(() => START);

export const resetView = () => useViewStore.setState(START, true);

/** Changes something about the onion skin. */
export const changeOnion = (change: Partial<OnionSkin>): void => useViewStore.setState(({ onion }) => ({ onion: { ...onion, ...change } }));
