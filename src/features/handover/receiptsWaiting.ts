import { type NewReceipt, type Receipt, waitingReceiptReader } from '@/contracts/receipt';
import { postReceipt } from '@/features/sync/api';
import { Unreachable } from '@/features/sync/ports';
import { useProjectStore } from '@/features/sync/projectStore';
import { serverRetryer } from '@/features/sync/server';

/*
 * A receipt is made when its file is safe; the server may not answer then. It waits in the browser's own
 * storage until it is saved there too, also over a reload.
 */

const KEY = 'lime-tick-receipts';

/** Everything that is stored, as it is: what can't be read is left where it lies. */
function stored(): unknown[] {
  try {
    const value: unknown = JSON.parse(localStorage.getItem(KEY) ?? '[]');
    return Array.isArray(value) ? value : [];
  } catch {
    return [];
  }
}

const load = () =>
  stored().flatMap((each) => {
    const read = waitingReceiptReader.read(each);
    return read.ok ? [read.value] : [];
  });

/** Whether there was room. */
function store(waiting: readonly unknown[]): boolean {
  try {
    localStorage.setItem(KEY, JSON.stringify(waiting));
    return true;
  } catch {
    return false;
  }
}

const forget = (id: string): boolean =>
  store(
    stored().filter((each) => {
      const read = waitingReceiptReader.read(each);
      return !read.ok || read.value.receipt.id !== id;
    }),
  );

const show = (projectId: string, receipt: Receipt): void =>
  useProjectStore.setState((state) =>
    state.project?.id === projectId ? { receipts: [receipt, ...state.receipts.filter((each) => each.id !== receipt.id)] } : {},
  );

async function send(projectId: string, receipt: NewReceipt): Promise<void> {
  for (;;) {
    try {
      show(projectId, await postReceipt(projectId, receipt));
      forget(receipt.id);
      return;
    } catch (error) {
      // What the server refuses it will not take later; it stays with the page and in this browser.
      if (!(error instanceof Unreachable)) throw error;
      await serverRetryer.wait();
    }
  }
}

/** Shows a receipt at once and sees to it that the server saves it, however long that takes; tells what went wrong. */
export function keepReceipt(projectId: string, receipt: NewReceipt, tell: (error: unknown) => void): void {
  const madeAt = new Date().toISOString();
  const waiting = { version: waitingReceiptReader.version, projectId, madeAt, receipt };
  // The digests of a long film may find no room there: without them it is still a receipt. With no room for that either it waits in memory.
  if (!store([...stored(), waiting])) store([...stored(), { ...waiting, receipt: { ...receipt, frameDigests: null } }]);
  show(projectId, { ...receipt, madeAt });
  void send(projectId, receipt).catch(tell);
}

/** Sends receipts of earlier visits that still wait. */
export function sendWaitingReceipts(projectId: string): void {
  for (const { receipt, madeAt } of load().filter((each) => each.projectId === projectId)) {
    show(projectId, { ...receipt, madeAt });
    void send(projectId, receipt).catch(() => undefined);
  }
}
