import { type Aside, type Chain, chainReader, type HistoryEntry, type WaitingStep } from '@/contracts/local';
import type { AcceptedStep } from '@/contracts/project';
import type { Project } from '@/core/document/model';
import { rebase, shotRemoved } from '@/core/edit/rebase';
import type { Step } from '@/core/edit/step';
import { applyStep } from '@/core/edit/table';
import { asideOf } from '@/features/sync/asideOf';
import { historyRewrites, NO_STACKS, type Stacks } from '@/features/sync/history';
import type { Adoption } from '@/features/sync/outbox';

/*
 * What windows that are gone have left: steps that wait, each window's made one after another on the revision
 * its chain says, and what could be undone there. One window takes it over: the steps are mapped to the document
 * as it is now, with this window's own waiting steps on it, and wait on top of those.
 */

/** What one window left: its steps in order, what could be undone, and the revision they were made on; null when that was not kept. */
export type Orphan = {
  readonly windowId: string;
  readonly waiting: readonly WaitingStep[];
  readonly stacks: Stacks;
  readonly baseRevision: number | null;
};

/** What was left by windows that are not among `alive`, the longest ago first. */
export function orphansAmong(
  waiting: readonly WaitingStep[],
  history: readonly HistoryEntry[],
  chains: readonly Chain[],
  alive: ReadonlySet<string>,
): readonly Orphan[] {
  const windowIds = new Set([...waiting, ...history, ...chains].map((entry) => entry.windowId));
  const lastOrder = ({ waiting: steps, stacks }: Orphan) =>
    Math.max(0, ...[...steps, ...stacks.undo, ...stacks.redo].map((entry) => entry.order));
  return [...windowIds]
    .filter((windowId) => !alive.has(windowId))
    .map((windowId): Orphan => {
      const own = history.filter((entry) => entry.windowId === windowId);
      return {
        windowId,
        waiting: waiting.filter((entry) => entry.windowId === windowId),
        stacks: { undo: own.filter((entry) => entry.stack === 'undo'), redo: own.filter((entry) => entry.stack === 'redo') },
        baseRevision: chains.find((chain) => chain.windowId === windowId)?.baseRevision ?? null,
      };
    })
    .sort((a, b) => lastOrder(a) - lastOrder(b));
}

/** The document an orphan's steps were made on, and what has been accepted since; null when that can't be worked out any more. */
export type Base = { readonly project: Project; readonly changes: readonly AcceptedStep[] } | null;

/**
 * Where a window is that takes over: the document it has acknowledged, its own waiting steps on top, and numbers for
 * what comes on top of those: in the order of these steps are read again.
 */
export type Here = {
  readonly windowId: string;
  readonly project: Project;
  readonly revision: number;
  readonly mine: readonly Step[];
  readonly nextOrder: () => number;
};

/** What was taken over: the document with it, what to write, and what can be undone now. */
export type Takeover = { readonly project: Project; readonly adoption: Adoption; readonly stacks: Stacks };

const NO_BASE = 'The film as it was when this was made can’t be worked out any more.';

/** Takes over what orphans left; `baseOf` gives what each was made on. */
export function takeOver(orphans: readonly Orphan[], baseOf: (orphan: Orphan) => Base, here: Here, now: Date): Takeover {
  let project = here.mine.reduce((document, step) => {
    const next = applyStep(document, step);
    return next.ok ? next.value : document;
  }, here.project);
  const adopted: WaitingStep[] = [];
  const aside: Aside[] = [];
  let stacks = NO_STACKS;
  for (const orphan of orphans) {
    const base = baseOf(orphan);
    const onTop = [...here.mine, ...adopted.map((entry) => entry.step)];
    if (!base) {
      for (const entry of orphan.waiting) aside.push(asideOf(entry, 'conflict', NO_BASE, null, now));
      continue;
    }
    // What the server had accepted before its answer was lost comes first among the changes.
    let own = 0;
    while (base.changes[own]?.stepId != null && base.changes[own]?.stepId === orphan.waiting[own]?.id) own++;
    const accepted = base.changes.slice(0, own).reduce((document, change) => {
      const next = applyStep(document, change.step);
      return next.ok ? next.value : document;
    }, base.project);
    const left = orphan.waiting.slice(own);
    const there = new Set(base.changes.map((change) => change.stepId));
    const others = [...base.changes.slice(own).map((change) => change.step), ...onTop];
    const result = rebase(
      accepted,
      others,
      left.map((entry) => entry.step),
      (index) => there.has(left[index]?.id ?? ''),
    );
    for (const [index, entry] of left.entries()) {
      const came = result.mine[index];
      if (came?.kind === 'made' && came.step) adopted.push({ ...entry, order: here.nextOrder(), windowId: here.windowId, step: came.step });
      else if (came?.kind === 'conflict')
        aside.push(asideOf(entry, 'conflict', came.reason, shotRemoved(result.mapping.from, result.project, entry.step) ?? null, now));
    }
    project = result.project;
    // What could be undone in the window that was used last can be undone again.
    stacks = historyRewrites(orphan.stacks, result.mapping).stacks;
  }
  const mine = (entries: readonly HistoryEntry[]) => entries.map((entry) => ({ ...entry, windowId: here.windowId }));
  stacks = { undo: mine(stacks.undo), redo: mine(stacks.redo) };
  const kept = new Set([...stacks.undo, ...stacks.redo].map((entry) => entry.order));
  return {
    project,
    stacks,
    adoption: {
      chain: { version: chainReader.version, windowId: here.windowId, projectId: here.project.id, baseRevision: here.revision },
      waiting: adopted,
      history: [...stacks.undo, ...stacks.redo],
      aside,
      waitingDropped: orphans.flatMap((orphan) => orphan.waiting.map((entry) => entry.order)),
      historyDropped: orphans.flatMap(({ stacks: { undo, redo } }) =>
        [...undo, ...redo].flatMap(({ order }) => (kept.has(order) ? [] : order)),
      ),
      windowsDropped: orphans.map((orphan) => orphan.windowId),
    },
  };
}
