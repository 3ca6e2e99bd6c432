import { z } from 'zod';
import { type NewReceipt, newReceiptSchema, type Receipt } from '@/contracts/receipt';
import { readerOf } from '@/contracts/versions';
import { postReceipt } from '@/features/sync/api';
import { Unreachable } from '@/features/sync/ports';
import { useProjectStore } from '@/features/sync/projectStore';
import { serverRetryer } from '@/features/sync/server';

/*
 * A receipt is made when its file is safe; the server may not answer then. It waits in the browser's own
 * storage until it is saved there too, also over a reload.
 */

const KEY = 'lime-tick-receipts';
const waitingReader = readerOf(
  'A receipt that waits',
  z.object({ version: z.number(), projectId: z.string(), madeAt: z.string(), receipt: newReceiptSchema }),
);

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
    const read = waitingReader.read(each);
    return read.ok ? [read.value] : [];
  });

function store(waiting: readonly unknown[]): void {
  try {
    localStorage.setItem(KEY, JSON.stringify(waiting));
  } catch {
    // No room: it waits in memory, as long as the page is open.
  }
}

const forget = (id: string): void =>
  store(
    stored().filter((each) => {
      const read = waitingReader.read(each);
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
  store([...stored(), { version: waitingReader.version, projectId, madeAt, receipt }]);
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
