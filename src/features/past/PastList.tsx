'use client';
import { format } from 'date-fns';
import { ChevronDown, ChevronRight } from 'lucide-react';
import { useState } from 'react';
import type { NamedMoment } from '@/contracts/past';
import { shotById } from '@/core/document/model';
import type { PastMoment, Sitting } from '@/core/past/sittings';
import { plural } from '@/core/time/counts';
import { chooseMoment, openSitting, usePastStore } from '@/features/past/pastStore';
import { useProject } from '@/features/project/hooks';

const CHOSEN = 'bg-lime-wash';

function Moment({ moment }: { moment: PastMoment }) {
  const chosen = usePastStore((state) => state.chosen);
  const project = useProject();
  const shot = moment.shotId === null ? undefined : shotById(project, moment.shotId);
  return (
    <li>
      <button
        type="button"
        aria-pressed={chosen === moment.revision}
        onClick={() => void chooseMoment(moment.revision)}
        className={`grid w-full grid-cols-[3rem_minmax(0,1fr)] gap-x-2 rounded-md px-2 py-1 text-left text-xs hover:bg-sunk ${chosen === moment.revision ? CHOSEN : ''}`}
      >
        <span className="numbers text-soft">{format(moment.at, 'HH:mm')}</span>
        <span className="min-w-0">
          <span className="line-clamp-2">{moment.words}</span>
          <span className="block truncate text-soft">
            {[shot ? `shot ${shot.code}` : null, plural(moment.changes.length, 'change'), moment.who].filter(Boolean).join(' · ')}
          </span>
        </span>
      </button>
    </li>
  );
}

function SittingRow({ sitting, isLast }: { sitting: Sitting; isLast: boolean }) {
  const moments = usePastStore((state) => state.moments.get(sitting.fromRevision));
  const [isOpen, setOpen] = useState(isLast);
  const toggle = () => {
    if (!isOpen && !moments) void openSitting(sitting);
    setOpen(!isOpen);
  };
  const sameDay = format(sitting.startedAt, 'P') === format(sitting.endedAt, 'P');
  const Arrow = isOpen ? ChevronDown : ChevronRight;
  return (
    <li>
      <button
        type="button"
        aria-expanded={isOpen}
        onClick={toggle}
        className="flex w-full items-center gap-1.5 rounded-md px-1 py-1 text-left hover:bg-sunk"
      >
        <Arrow size={14} aria-hidden="true" className="shrink-0 text-soft" />
        <span className="min-w-0 flex-1 truncate font-semibold text-sm">{format(sitting.startedAt, 'EEE d MMM yyyy')}</span>
        <span className="numbers text-soft text-xs">
          {format(sitting.startedAt, 'HH:mm')}–{format(sitting.endedAt, sameDay ? 'HH:mm' : 'd MMM HH:mm')}
        </span>
      </button>
      <p className="numbers pl-6 text-soft text-xs">{plural(sitting.changes, 'change')}</p>
      {isOpen && !moments && <p className="pl-6 text-soft text-xs">Looking …</p>}
      {isOpen && moments && (
        <ul className="mt-0.5 ml-4 border-line border-l pl-1">
          {moments.map((moment) => (
            <Moment key={moment.revision} moment={moment} />
          ))}
          <li>
            <Begin revision={sitting.fromRevision - 1} />
          </li>
        </ul>
      )}
    </li>
  );
}

/** What there was before a sitting began. */
function Begin({ revision }: { revision: number }) {
  const chosen = usePastStore((state) => state.chosen);
  return (
    <button
      type="button"
      aria-pressed={chosen === revision}
      onClick={() => void chooseMoment(revision)}
      className={`w-full rounded-md px-2 py-1 text-left text-soft text-xs hover:bg-sunk ${chosen === revision ? CHOSEN : ''}`}
    >
      As it was before
    </button>
  );
}

function Named({ named }: { named: readonly NamedMoment[] }) {
  const chosen = usePastStore((state) => state.chosen);
  return (
    <ul className="mt-1 space-y-0.5">
      {named.map(({ revision, name }) => (
        <li key={revision}>
          <button
            type="button"
            aria-pressed={chosen === revision}
            onClick={() => void chooseMoment(revision)}
            className={`flex w-full items-center gap-2 rounded-md px-2 py-1 text-left text-sm hover:bg-sunk ${chosen === revision ? CHOSEN : ''}`}
          >
            <span className="min-w-0 flex-1 truncate">{name}</span>
            <span className="numbers text-soft text-xs">{revision}</span>
          </button>
        </li>
      ))}
    </ul>
  );
}

/** The past as a line of sittings, and the moments that were given a name. */
export function PastList() {
  const past = usePastStore((state) => state.past);
  const trouble = usePastStore((state) => state.trouble);
  return (
    <section className="panel h-full overflow-y-auto p-3" aria-label="Moments">
      {trouble && (
        <p role="alert" className="mb-2 text-rust text-sm">
          {trouble}
        </p>
      )}
      {!past && !trouble && <p className="text-soft">Looking through the past …</p>}
      {past && past.named.length > 0 && (
        <>
          <h2 className="font-bold font-head">Named</h2>
          <Named named={past.named} />
        </>
      )}
      {past && (
        <>
          <h2 className={`font-bold font-head ${past.named.length > 0 ? 'mt-3' : ''}`}>Sittings</h2>
          {past.sittings.length === 0 && (
            <p className="mt-1 text-soft text-sm">Nothing was changed yet. Every change from the first on will stand here.</p>
          )}
          <ul className="mt-1 space-y-2">
            {past.sittings.map((sitting, index) => (
              <SittingRow key={sitting.fromRevision} sitting={sitting} isLast={index === 0} />
            ))}
          </ul>
        </>
      )}
    </section>
  );
}
