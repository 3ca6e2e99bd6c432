import { chainReader, type WaitingStep } from '@/contracts/local';
import type { EngineWorld } from '@/features/sync/engineWorld';
import type { Rewrite } from '@/features/sync/ports';

/** What is to be written into the browser's own store besides where the window's chain is. */
export type PendingRewrite = Omit<Rewrite, 'chain'>;

const NOTHING_OWED: PendingRewrite = { dropped: [], put: [], draftsDropped: [], history: [], historyDropped: [], aside: [] };

/**
 * Writes steps, and what came of them, into the browser's own store. What finds no room is owed, and written with
 * what comes next: steps mean something else without those before them, and a chain that moved on without its
 * steps would have them made again.
 */
export class Ledger {
  private owed: PendingRewrite = NOTHING_OWED;
  private noCopyTold = false;

  constructor(private readonly world: EngineWorld) {}

  /** Whether steps found no room, and are in the page's memory alone. */
  get owesSteps(): boolean {
    return this.owed.put.length > 0;
  }

  /** Writes a change with what is owed; `waiting` gives the steps as they wait now, on `baseRevision`. Never rejects: no room is told once. */
  async write(
    change: Partial<PendingRewrite>,
    waiting: () => readonly WaitingStep[],
    projectId: string,
    baseRevision: number,
  ): Promise<void> {
    const owed: PendingRewrite = {
      dropped: [...this.owed.dropped, ...(change.dropped ?? [])],
      put: [...this.owed.put, ...(change.put ?? [])],
      draftsDropped: [...this.owed.draftsDropped, ...(change.draftsDropped ?? [])],
      history: [...this.owed.history, ...(change.history ?? [])],
      historyDropped: [...this.owed.historyDropped, ...(change.historyDropped ?? [])],
      aside: [...this.owed.aside, ...(change.aside ?? [])],
    };
    this.owed = owed;
    const current = new Map(waiting().map((entry) => [entry.id, entry]));
    const chain = { version: chainReader.version, windowId: this.world.madeBy.windowId, projectId, baseRevision };
    try {
      // Of a step that was mapped more than once, or is gone by now, the last counts.
      const put = [...new Set(owed.put.map((entry) => entry.id))].flatMap((id) => current.get(id) ?? []);
      await this.world.outbox.rewrite({ ...owed, put, chain });
      if (this.owed === owed) this.owed = NOTHING_OWED;
    } catch {
      // Without room for a copy steps are sent straight away; that is said once.
      if (!this.noCopyTold) this.world.tell({ kind: 'no-copy' });
      this.noCopyTold = true;
    }
  }
}
