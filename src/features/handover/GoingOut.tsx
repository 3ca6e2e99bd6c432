'use client';
import { type JobState, partDone } from '@/core/output/jobState';
import { countText, plural } from '@/core/time/counts';
import { STOP } from '@/core/words';
import { useHandoverStore } from '@/features/handover/handoverStore';
import { ReceiptCard } from '@/features/handover/ReceiptCard';
import { useProjectStore } from '@/features/sync/projectStore';
import { Button } from '@/ui/Button';

/** What is being done, in words. */
function jobWords(job: JobState): string {
  if (job.kind === 'writing') return `writing frames, ${plural(job.progress.composited, 'picture')} made`;
  return job.kind === 'counting' ? 'opening the file again and counting' : 'starting';
}

function Progress() {
  const running = useHandoverStore((state) => state.running);
  if (!running) return null;
  const { job } = running;
  const part = partDone(job);
  const progress = 'progress' in job ? job.progress : null;
  const elapsedSeconds = (performance.now() - running.startedAt) / 1000;
  const left = part > 0.05 ? Math.ceil((elapsedSeconds * (1 - part)) / part) : null;
  return (
    <section aria-label="Handing over" className="border-line border-b p-4">
      <h2 className="font-bold">Handing over</h2>
      <div className="mt-1.5 flex justify-between gap-2">
        <span className="break-all font-semibold">{running.fileName}</span>
        <span className="numbers whitespace-nowrap text-xs">
          {countText(progress?.framesDone ?? 0)} / {countText(progress?.frames ?? 0)}
        </span>
      </div>
      <div
        role="progressbar"
        aria-label="Handover"
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round(part * 100)}
        className="my-1.5 h-1.5 overflow-hidden rounded-full bg-line"
      >
        <div className="h-full bg-lime" style={{ width: `${part * 100}%` }} />
      </div>
      <div className="flex items-center justify-between gap-2">
        <p className="text-soft text-xs tabular-nums">
          {jobWords(job)}
          {left !== null && ` · about ${left} s left`}
        </p>
        <Button kind="warn" onClick={running.stop}>
          {STOP}
        </Button>
      </div>
    </section>
  );
}

/** What is going out, and the receipts of what has gone. */
export function GoingOut() {
  const receipts = useProjectStore((state) => state.receipts);
  const trouble = useHandoverStore((state) => state.trouble);
  return (
    <section className="panel flex flex-col overflow-hidden">
      <Progress />
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
