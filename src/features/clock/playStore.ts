import { create } from 'zustand';

/** What playback had to say: how many ticks are over and how many were late. Null before anything played. */
type PlayState = { readonly ticks: number; readonly late: number; readonly lateFrames: readonly number[]; readonly preparing: boolean };

export const usePlayStore = create<PlayState>(() => ({ ticks: 0, late: 0, lateFrames: [], preparing: false }));
