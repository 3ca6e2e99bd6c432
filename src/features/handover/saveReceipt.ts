import type { Receipt } from '@/contracts/receipt';
import { receiptReader } from '@/contracts/receipt';
import { saveText } from '@/features/project/saveText';
import { fetchReceipt } from '@/features/sync/api';

/** Gives a receipt to the person as a JSON file, with the digest of every frame. Rejects when the server does not answer. */
export async function saveReceipt(projectId: string, { id, fileName }: Receipt): Promise<void> {
  const receipt = await fetchReceipt(projectId, id);
  const text = JSON.stringify({ file: 'lime-tick-receipt', version: receiptReader.version, ...receipt }, null, 2);
  saveText(`${text}\n`, `${fileName}.receipt.json`, 'application/json');
}
