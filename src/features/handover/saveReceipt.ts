import type { Receipt } from '@/contracts/receipt';
import { receiptReader } from '@/contracts/receipt';
import { receiptPage } from '@/features/handover/receiptPage';
import { saveText } from '@/features/project/saveText';
import { fetchReceipt } from '@/features/sync/api';

/** Gives a receipt to the person as a JSON file, with the digest of every frame. Rejects when the server does not answer. */
export async function saveReceipt(projectId: string, { id, fileName }: Receipt): Promise<void> {
  const receipt = await fetchReceipt(projectId, id);
  const text = JSON.stringify({ file: 'lime-tick-receipt', version: receiptReader.version, ...receipt }, null, 2);
  saveText(`${text}\n`, `${fileName}.receipt.json`, 'application/json');
}

/** Opens a receipt as a page by itself, to be printed or saved. Rejects when the server does not answer; says false where the browser opens no window. */
export async function openReceiptPage(projectId: string, { id }: Receipt): Promise<boolean> {
  // Within the press, as browsers want it: what it shows comes when it is there.
  const page = window.open('', '_blank');
  if (!page) return false;
  try {
    const receipt = await fetchReceipt(projectId, id);
    const address = URL.createObjectURL(new Blob([receiptPage(receipt)], { type: 'text/html' }));
    page.location.replace(address);
    setTimeout(() => URL.revokeObjectURL(address), 60_000);
    return true;
  } catch (error) {
    page.close();
    throw error;
  }
}
