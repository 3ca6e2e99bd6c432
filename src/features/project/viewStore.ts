import { create } from 'zustand';
import type { Following } from '@/core/edit/step';
import type { Block } from '@/core/sheet/block';
import type { LevelId, ShotId } from '@/core/sheet/document';

/** A range of frames of the open shot, both ends inclusive, from 0. */
export type FrameRange = { readonly fromFrame: number; readonly toFrame: number };

export type OnionSkin = {
  readonly on: boolean;
  readonly before: number;
  readonly after: number;
  readonly beforePercent: number;
  readonly afterPercent: number;
};

export type Brush = { readonly tool: 'brush' | 'eraser'; readonly colour: string; readonly sizePx: number; readonly eraserPx: number };

type ViewState = {
  /** Which shot is open; null for the first. */
  readonly shotId: ShotId | null;
  /** The frame of now in the open shot, from 0. */
  readonly frame: number;
  readonly levelId: LevelId | null;
  /** The block chosen on the sheet. */
  readonly selection: Block | null;
  readonly loop: FrameRange | null;
  readonly playing: boolean;
  readonly following: Following;
  /** How wide the sheet's columns are, in px; null when they share the room there is. */
  readonly columnWidthPx: number | null;
  /** Whether the sheet shows beside in-betweens where they lie on their charts. */
  readonly showsPlaces: boolean;
  readonly onion: OnionSkin;
  readonly brush: Brush;
};

const START: ViewState = {
  shotId: null,
  frame: 0,
  levelId: null,
  selection: null,
  loop: null,
  playing: false,
  following: 'push',
  columnWidthPx: null,
  showsPlaces: false,
  onion: { on: true, before: 2, after: 1, beforePercent: 60, afterPercent: 45 },
  brush: { tool: 'brush', colour: '#1d2a23', sizePx: 6, eraserPx: 24 },
};

/** What is being looked at and with which tools; none of it is part of the document. */
export const useViewStore = create<ViewState>(() => START);

export const resetView = () => useViewStore.setState(START, true);
