import { create } from 'zustand';
import type { Aside, HistoryEntry } from '@/contracts/local';
import type { Receipt } from '@/contracts/receipt';
import type { Project } from '@/core/document/model';

/** Where the work is: acknowledged by the database, on its way, or waiting for a server that doesn't answer. */
export type KeptState = 'kept' | 'sending' | 'waiting';

type ProjectState = {
  /** The document with every step made here, acknowledged or not; null until it is open. */
  readonly project: Project | null;
  /** Why it can't be opened. */
  readonly failure: string | null;
  readonly kept: KeptState;
  /** Why it waits, when the server answers but not as the project's; null when it just doesn't answer. */
  readonly waitingFor: string | null;
  /** Steps that wait for the database, safe in the browser's own store. */
  readonly waitingSteps: number;
  /** Strokes and steps on their way into that store: not safe yet. */
  readonly settling: number;
  readonly keptAt: Date | null;
  readonly undo: readonly HistoryEntry[];
  readonly redo: readonly HistoryEntry[];
  readonly receipts: readonly Receipt[];
  /** What was made here and is in no document: it waits for a person to decide. */
  readonly aside: readonly Aside[];
  /** How many other windows of this browser were closed since the project was opened: what they left may be to be drawn. */
  readonly windowsGone: number;
};

const CLOSED: ProjectState = {
  project: null,
  failure: null,
  kept: 'kept',
  waitingFor: null,
  waitingSteps: 0,
  settling: 0,
  keptAt: null,
  undo: [],
  redo: [],
  receipts: [],
  aside: [],
  windowsGone: 0,
};

/** The open project as the page sees it. It is changed by `@/features/sync/session` alone. */
export const useProjectStore = create<ProjectState>(() => CLOSED);

const whatCloses: (() => void)[] = [];

/** Has something done whenever a project is closed: what was kept for it is let go. */
export const whenClosed = (letGo: () => void): void => void whatCloses.push(letGo);

export function closeProjectStore(): void {
  useProjectStore.setState(CLOSED, true);
  for (const letGo of whatCloses) letGo();
}
