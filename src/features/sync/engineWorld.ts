import type { WaitingStep } from '@/contracts/local';
import type { Project } from '@/core/document/model';
import type { MadeBy } from '@/core/edit/madeBy';
import type { Stacks } from '@/features/sync/history';
import type { OutboxPort, ServerPort, SyncNews } from '@/features/sync/ports';
import type { Retryer } from '@/features/sync/retryer';

/** How far what was made here has come. */
export type SendState =
  | { readonly kind: 'all' }
  | { readonly kind: 'sending' }
  /** The server doesn't answer, or answers as one that isn't the project's; `sentence` is null when it just doesn't answer. */
  | { readonly kind: 'waiting'; readonly sentence: string | null };

/** What the page shows of an engine. */
export type EngineView = {
  readonly project: Project;
  readonly revision: number;
  readonly sent: SendState;
  /** Steps that wait for the database, safe in the browser's own store or on their way. */
  readonly waitingSteps: number;
  /** Steps on their way into the browser's own store: not safe yet. */
  readonly storingSteps: number;
  readonly stacks: Stacks;
  readonly savedAt: number;
};

/** What an engine needs of the world. */
export type EngineWorld = {
  readonly server: ServerPort;
  readonly outbox: OutboxPort;
  readonly retryer: Retryer;
  readonly madeBy: MadeBy;
  readonly nextOrder: () => number;
  readonly newId: () => string;
  readonly now: () => number;
  /** Has work done while no other window of this browser sends for this project. */
  readonly alone: <T>(work: () => Promise<T>) => Promise<T>;
  /** Resolves when the next sending may begin. */
  readonly turn: () => Promise<void>;
  readonly tell: (told: SyncNews) => void;
  readonly onChange: (view: EngineView) => void;
};

/** What an engine begins with: the document at a revision, and what waits and can be undone on top of it. */
export type EngineStart = {
  readonly project: Project;
  readonly revision: number;
  readonly savedAt: number;
  readonly waiting: readonly WaitingStep[];
  readonly stacks: Stacks;
};

/** What a step is made with: pictures it names that were made here with their bytes, the stroke it comes from, and where it belongs among what can be undone. */
export type MadeWith = {
  readonly pictures?: readonly string[];
  readonly pictureBytes?: number;
  readonly draftOrder?: number | undefined;
  readonly order?: number | undefined;
};
