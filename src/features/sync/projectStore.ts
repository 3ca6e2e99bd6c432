import { create } from 'zustand';
import type { Receipt } from '@/contracts/receipt';
import type { Step } from '@/core/edit/step';
import type { Project } from '@/core/sheet/document';

/** Where the work is: acknowledged by the database, on its way, or waiting for a server that doesn't answer. */
export type KeptState = 'kept' | 'sending' | 'waiting';

/** An undoable act: the step that undoes it, and what the act was called; entries made later have a larger `order`. */
export type UndoEntry = { readonly order: number; readonly step: Step; readonly words: string };

type ProjectState = {
  /** The document with every step made here, acknowledged or not; null until it is open. */
  readonly project: Project | null;
  /** Why it can't be opened. */
  readonly failure: string | null;
  readonly kept: KeptState;
  /** Steps that wait for the database, safe in the browser's own store. */
  readonly waitingSteps: number;
  /** Strokes and steps on their way into that store: not safe yet. */
  readonly settling: number;
  readonly keptAt: Date | null;
  readonly undo: readonly UndoEntry[];
  readonly redo: readonly UndoEntry[];
  readonly receipts: readonly Receipt[];
};

const CLOSED: ProjectState = {
  project: null,
  failure: null,
  kept: 'kept',
  waitingSteps: 0,
  settling: 0,
  keptAt: null,
  undo: [],
  redo: [],
  receipts: [],
};

/** The open project as the page sees it. It is changed by `@/features/sync/session` alone. */
export const useProjectStore = create<ProjectState>(() => CLOSED);

export const closeProjectStore = () => useProjectStore.setState(CLOSED, true);
