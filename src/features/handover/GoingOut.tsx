'use client';
import { useHandoverStore } from '@/features/handover/handoverStore';
import { QueueList } from '@/features/handover/QueueList';
import { ReceiptCard } from '@/features/handover/ReceiptCard';
import { useProjectStore } from '@/features/sync/projectStore';

/** What is going out, and the receipts of what has gone. */
export function GoingOut() {
  const receipts = useProjectStore((state) => state.receipts);
  const trouble = useHandoverStore((state) => state.trouble);
  return (
    <section className="panel flex flex-col overflow-hidden">
      <QueueList />
      {trouble && (
        <p role="alert" className="border-line border-b bg-rust-wash p-4 text-rust">
          {trouble}
        </p>
      )}
      <div className="min-h-0 flex-1 overflow-y-auto p-4">
        <h2 className="mb-2 font-bold">Receipts</h2>
        {receipts.length === 0 && (
          <p className="text-soft">None yet. Every handover is opened again and counted, and what was found is kept here.</p>
        )}
        <div className="space-y-3">
          {receipts.map((receipt) => (
            <ReceiptCard key={receipt.id} receipt={receipt} />
          ))}
        </div>
      </div>
    </section>
  );
}
