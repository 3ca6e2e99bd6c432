import { create } from 'zustand';

export const BOARDS = ['picture', 'cards', 'path'] as const;
export const TABS = ['chart', 'shots', 'graph'] as const;
export const SIDES = ['work', 'shot'] as const;

type PlanState = {
  /** What the plan board shows. */
  readonly board: (typeof BOARDS)[number];
  /** What stands beneath it. */
  readonly tab: (typeof TABS)[number];
  /** What stands beside it. */
  readonly side: (typeof SIDES)[number];
  /** Whether the next stroke on the board draws the way between the keys of now. */
  readonly drawingPath: boolean;
};

/** How the plan is looked at; none of it is part of the document. */
export const usePlanStore = create<PlanState>(() => ({ board: 'path', tab: 'chart', side: 'work', drawingPath: false }));
