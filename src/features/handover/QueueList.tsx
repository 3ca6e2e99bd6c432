'use client';
import { ArrowDown, ArrowUp, Pause, Play, RotateCcw, X } from 'lucide-react';
import { isOver, type JobState, partDone } from '@/core/output/jobState';
import { HELD, type QueuedJob } from '@/core/output/queue';
import { countText, plural } from '@/core/time/counts';
import { STOP } from '@/core/words';
import { againInQueue, holdInQueue, moveInQueue, stopInQueue, takeOutOfQueue, useQueueStore } from '@/features/handover/queueStore';
import { useProject } from '@/features/project/hooks';
import { Button } from '@/ui/Button';

/** What is being done, in words. */
function jobWords(state: JobState): string {
  if ('progress' in state && state.progress.frames === 0) return 'starting';
  if (state.kind === 'sending') return `sending ${plural(state.progress.composited, 'picture')} to the encoder`;
  if (state.kind === 'looking') return `looking at the colours, ${plural(state.progress.composited, 'picture')} made`;
  if (state.kind === 'writing' && state.progress.before === 'sending') return 'the encoder writes frames';
  if (state.kind === 'writing') return `writing frames, ${plural(state.progress.composited, 'picture')} made`;
  return state.kind === 'counting' ? 'opening the file again and counting' : 'starting';
}

function BeingMade({ job }: { job: QueuedJob }) {
  const startedAt = useQueueStore((state) => state.startedAt);
  const part = partDone(job.state);
  const goesOn = job.recipe.options.kind === 'pictures' ? 'goes on where it was: ' : 'begun anew after the page was left: ';
  const progress = 'progress' in job.state ? job.state.progress : null;
  const elapsedSeconds = (performance.now() - startedAt) / 1000;
  const left = part > 0.05 ? Math.ceil((elapsedSeconds * (1 - part)) / part) : null;
  return (
    <li aria-label={job.fileName}>
      <div className="flex justify-between gap-2">
        <span className="break-all font-semibold">{job.fileName}</span>
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
          {job.wasBegun && goesOn}
          {jobWords(job.state)}
          {left !== null && ` · about ${left} s left`}
        </p>
        <Button kind="warn" onClick={() => stopInQueue(job.id)}>
          {STOP}
        </Button>
      </div>
    </li>
  );
}

const ICON = { size: 14, 'aria-hidden': true } as const;

function Waiting({ job, place, isElsewhere }: { job: QueuedJob; place: string; isElsewhere: boolean }) {
  const goesOn = job.recipe.options.kind === 'pictures' ? ', goes on where it was' : ', begins anew';
  const waits = isElsewhere ? 'waits until its project is open' : 'waits';
  const words = `${job.held ?? waits}${job.wasBegun ? goesOn : ''}`;
  return (
    <li aria-label={job.fileName} className="flex items-center gap-1">
      <span className="min-w-0 flex-1">
        <span className="block truncate font-semibold text-xs" title={job.fileName}>
          {job.fileName}
        </span>
        <span className="text-2xs text-soft">
          {place}, {words}
        </span>
      </span>
      <Button tight kind="quiet" aria-label={`Move ${job.fileName} up`} onClick={() => moveInQueue(job.id, -1)}>
        <ArrowUp {...ICON} />
      </Button>
      <Button tight kind="quiet" aria-label={`Move ${job.fileName} down`} onClick={() => moveInQueue(job.id, 1)}>
        <ArrowDown {...ICON} />
      </Button>
      {job.held === null ? (
        <Button tight kind="quiet" aria-label={`Hold ${job.fileName}`} onClick={() => void holdInQueue(job.id, HELD)}>
          <Pause {...ICON} />
        </Button>
      ) : (
        <Button tight kind="quiet" aria-label={`Let ${job.fileName} go`} onClick={() => void holdInQueue(job.id, null)}>
          <Play {...ICON} />
        </Button>
      )}
      <Button tight kind="quiet" aria-label={`Take ${job.fileName} out`} onClick={() => takeOutOfQueue(job.id)}>
        <X {...ICON} />
      </Button>
    </li>
  );
}

/** A job that ended without a file, and why. */
function Over({ job }: { job: QueuedJob }) {
  const { state } = job;
  return (
    <li aria-label={job.fileName} className={state.kind === 'failed' ? 'rounded-lg bg-rust-wash p-2' : ''}>
      <div className="flex items-center gap-1">
        <span className="min-w-0 flex-1 truncate font-semibold text-xs" title={job.fileName}>
          {job.fileName} {state.kind === 'stopped' && <span className="font-normal text-soft">stopped</span>}
        </span>
        <Button tight kind="quiet" aria-label={`Hand ${job.fileName} over again`} onClick={() => void againInQueue(job.id)}>
          <RotateCcw {...ICON} />
        </Button>
        <Button tight kind="quiet" aria-label={`Take ${job.fileName} out`} onClick={() => takeOutOfQueue(job.id)}>
          <X {...ICON} />
        </Button>
      </div>
      {state.kind === 'failed' && (
        <p role="alert" className="text-rust text-xs">
          {state.reason}
        </p>
      )}
    </li>
  );
}

/** What is being handed over, what waits for it, and what ended without a file. */
export function QueueList() {
  const queue = useQueueStore((state) => state.queue);
  const { id: projectId } = useProject();
  const waiting = queue.filter(({ state }) => state.kind === 'planned');
  if (queue.length === 0) return null;
  return (
    <section aria-label="Handing over" className="max-h-[50%] shrink-0 overflow-y-auto border-line border-b p-4">
      <h2 className="mb-1.5 font-bold">Handing over</h2>
      <ol className="space-y-2">
        {queue.map((job) => {
          if (isOver(job.state)) return <Over key={job.id} job={job} />;
          if (job.state.kind !== 'planned') return <BeingMade key={job.id} job={job} />;
          const place = waiting.length === 1 ? 'next' : `${waiting.indexOf(job) + 1} of ${waiting.length}`;
          return <Waiting key={job.id} job={job} place={place} isElsewhere={job.projectId !== projectId} />;
        })}
      </ol>
    </section>
  );
}
