import { create } from 'zustand';
import type { SeenChange } from '@/core/render/seenReel';

/** What stands at the right of Assemble. */
export const TABS = ['reel', 'item', 'sounds', 'finish'] as const;
export type AssembleTab = (typeof TABS)[number];

/** The open tab, and what is told of the reel since somebody was here last, until it is dismissed. */
export const useAssembleStore = create<{ readonly tab: AssembleTab; readonly told: readonly SeenChange[] }>(() => ({
  tab: 'reel',
  told: [],
}));
