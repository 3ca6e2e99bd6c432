import type { Aside, Chain, HistoryEntry, WaitingStep } from '@/contracts/local';
import type { AcceptedStep, Changes, Sending } from '@/contracts/project';
import type { Digest, Project } from '@/core/document/model';

/** The server gave no answer of its own: it can't be reached, is starting, or something else answered in its place. */
export class Unreachable extends Error {
  override readonly name = 'Unreachable';
}

/** What the server said to a sending of steps. Not to be reached is thrown as Unreachable. */
export type SendingAnswer =
  /** `changes`, where others came between: all that was accepted since, the steps of the sending as they were taken last. */
  | ({ readonly kind: 'accepted' } & Changes)
  | ({ readonly kind: 'stale' } & Changes)
  /** This server knows less than the window: another data folder, or an older copy. */
  | { readonly kind: 'ahead'; readonly sentence: string }
  /** This server has no such project. */
  | { readonly kind: 'unknown'; readonly sentence: string }
  /** It will never take these steps as they are. */
  | { readonly kind: 'refused'; readonly sentence: string }
  /** It failed at them. */
  | { readonly kind: 'failed'; readonly sentence: string };

/** The server, as the engine sees it. */
export type ServerPort = {
  readonly send: (projectId: string, sending: Sending, pictures: ReadonlyMap<Digest, Uint8Array>) => Promise<SendingAnswer>;
  readonly changesSince: (
    projectId: string,
    revision: number,
  ) => Promise<({ readonly kind: 'changes' } & Changes) | { readonly kind: 'ahead' | 'unknown'; readonly sentence: string }>;
  readonly open: (projectId: string) => Promise<{ readonly project: Project; readonly revision: number }>;
};

/** A change of what a window keeps of its own, made as one or not at all. */
export type Rewrite = {
  readonly dropped: readonly WaitingStep[];
  /** Steps that are new here or are others by now, with the pictures that are held for them. */
  readonly put: readonly WaitingStep[];
  /** Strokes that have become steps. */
  readonly draftsDropped: readonly number[];
  readonly chain: Chain;
  readonly history: readonly HistoryEntry[];
  readonly historyDropped: readonly number[];
  readonly aside: readonly Aside[];
};

/** The browser's own store, as the engine sees it. Every call rejects when there is no room, or no store. */
export type OutboxPort = {
  readonly rewrite: (change: Rewrite) => Promise<void>;
  readonly pictures: (digests: readonly Digest[]) => Promise<ReadonlyMap<Digest, Uint8Array>>;
};

/** What a person is told. */
export type SyncNews =
  | { readonly kind: 'others'; readonly changes: readonly AcceptedStep[] }
  | { readonly kind: 'aside'; readonly aside: readonly Aside[] }
  | { readonly kind: 'no-copy' };
