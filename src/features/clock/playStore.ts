import { create } from 'zustand';
import { useShallow } from 'zustand/react/shallow';
import type { ColourRange } from '@/core/document/checks';
import { type PlayWay, ROUND_AND_ROUND } from '@/core/time/playing';

/** What playback had to say: how many ticks are over and how many were late. Null before anything played. */
type PlayState = {
  readonly ticks: number;
  readonly late: number;
  readonly lateFrames: readonly number[];
  readonly preparing: boolean;
  /** Whether frames come by the clock of the sound, and why sound that should be heard isn't. */
  readonly byTheSound: boolean;
  readonly soundTrouble: string | null;
};

export const usePlayStore = create<PlayState>(() => ({
  ticks: 0,
  late: 0,
  lateFrames: [],
  preparing: false,
  byTheSound: false,
  soundTrouble: null,
}));

/** How the player plays and what it shows over the picture; none of it is part of the document. */
export type PlayerState = PlayWay & {
  /** Whether sound is heard at all, and each frame's while stepping and scrubbing. */
  readonly soundOn: boolean;
  readonly scrubSound: boolean;
  /** The counts of now, large, over the picture. */
  readonly burnIn: boolean;
  /** Colours outside this range are marked on the still picture. */
  readonly marked: ColourRange | null;
  readonly fullWindow: boolean;
  /** Whether the large player is on the screen. */
  readonly isShown: boolean;
  /** By how much the sides of the picture on the screen are shorter than the film's. */
  readonly shrink: number;
};

const START: PlayerState = {
  ...ROUND_AND_ROUND,
  soundOn: true,
  scrubSound: true,
  burnIn: false,
  marked: null,
  fullWindow: false,
  isShown: false,
  shrink: 1,
};

export const usePlayerStore = create<PlayerState>(() => START);

/** The way of playing alone; the same value as long as it stays the same. */
export const usePlayWay = (): PlayWay =>
  usePlayerStore(useShallow(({ speed, backwards, rounds, everySecond }) => ({ speed, backwards, rounds, everySecond })));

/** How a range is played, and whether it is heard. */
export type PlaySettings = { readonly way: PlayWay; readonly soundOn: boolean };
