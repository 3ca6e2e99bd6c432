'use client';
import type { Receipt } from '@/contracts/receipt';
import { judge } from '@/core/handover/receipt';
import { useHandoverStore } from '@/features/handover/handoverStore';
import { saveFile } from '@/features/handover/ownFiles';
import { Button } from '@/ui/Button';

const bytesText = (bytes: number) => (bytes < 1024 * 1024 ? `${Math.ceil(bytes / 1024)} KiB` : `${(bytes / 1024 / 1024).toFixed(1)} MiB`);

/** A receipt: what was asked beside what was counted by opening the written file again. */
export function ReceiptCard({ receipt }: { receipt: Receipt }) {
  const file = useHandoverStore((state) => state.files.get(receipt.id));
  const verdict = judge(receipt.asked, receipt.counted);
  return (
    <article aria-label={`Receipt for ${receipt.fileName}`} className="rounded-xl border border-line bg-sunk p-3.5">
      <header className="flex items-baseline justify-between gap-2">
        <h3 className="break-all font-bold">{receipt.fileName}</h3>
        <strong className={verdict.agrees ? 'text-moss' : 'text-rust'} data-testid="verdict">
          {verdict.agrees ? 'agrees' : verdict.isWhole ? 'disagrees' : 'not proved'}
        </strong>
      </header>
      <p className="mb-1.5 text-2xs text-soft">
        {new Date(receipt.madeAt).toLocaleString()} · {bytesText(receipt.fileBytes)} · {receipt.pictures} pictures made ·{' '}
        {receipt.withBackground ? 'with' : 'without'} background
        {receipt.holdColours && ` · colours held within ${receipt.holdColours.from}–${receipt.holdColours.to}`}
      </p>
      <table className="w-full text-xs">
        <thead>
          <tr className="text-soft">
            <th scope="col" className="sr-only">
              What
            </th>
            <th scope="col" className="text-right font-normal">
              asked
            </th>
            <th scope="col" className="text-right font-normal">
              counted
            </th>
          </tr>
        </thead>
        <tbody>
          {verdict.lines.map((line) => (
            <tr key={line.what}>
              <th scope="row" className="py-0.5 text-left font-normal">
                {line.what}
              </th>
              <td className="numbers text-right">{line.asked}</td>
              <td className={`numbers text-right font-semibold ${line.agrees ? 'text-moss' : 'text-rust'}`}>
                {line.counted}
                {!line.agrees && ' ✕'}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <ul className="mt-1.5 space-y-1 text-soft text-xs">
        {verdict.sentences.map((sentence) => (
          <li key={sentence}>{sentence}</li>
        ))}
        <li>* pictures repeated where the sheet has no hold</li>
      </ul>
      {receipt.fileDigest && (
        <p className="numbers mt-1 truncate text-2xs text-soft" title={`SHA-256 of the file: ${receipt.fileDigest}`}>
          SHA-256 {receipt.fileDigest}
        </p>
      )}
      {file && (
        <Button className="mt-2" onClick={() => void saveFile(file.storedAs, file.fileName)}>
          Save again
        </Button>
      )}
    </article>
  );
}
