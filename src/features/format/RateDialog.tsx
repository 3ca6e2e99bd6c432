'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef } from 'react';
import type { RatePlan } from '@/core/conform/conform';
import { plural } from '@/core/time/counts';
import { rateName } from '@/core/time/rate';
import { CANCEL } from '@/core/words';
import { BeforeAfter, SteppingWords } from '@/features/format/BeforeAfter';
import { useFormatStore } from '@/features/format/formatStore';
import { RateFields } from '@/features/format/RateFields';
import { RateForm } from '@/features/format/RateForm';
import { useRateChange } from '@/features/format/useRateChange';
import { take } from '@/features/project/editContext';
import { Button } from '@/ui/Button';
import { Dialog } from '@/ui/Dialog';

const ROW_PX = 20;
const COLUMNS = 'grid grid-cols-[1.1fr_1.4fr_0.8fr_1fr_0.8fr_1fr_0.8fr_0.9fr] gap-2';

/** Every exposure of a rate change: where it begins and how long it is held for, before and after, and how far it drifts. */
function EveryExposure({ plan, firstNumber }: { plan: RatePlan; firstNumber: number }) {
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useMemo(
    () =>
      plan.shots.flatMap(({ shot, levels }) =>
        levels.flatMap(({ level, table }) => Array.from(table, (row) => ({ ...row, shot: shot.code, level: level.name }))),
      ),
    [plan],
  );
  const virtualizer = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_PX,
    overscan: 8,
  });
  if (rows.length === 0) return <p className="text-soft">No exposure changes: only the clock does.</p>;
  return (
    <div className="rounded-lg border border-line">
      <div className={`${COLUMNS} border-line border-b px-2 py-1 text-soft text-xs`} aria-hidden="true">
        <span>shot</span>
        <span>level</span>
        <span>drawing</span>
        <span>from, old</span>
        <span>frames</span>
        <span>from, new</span>
        <span>frames</span>
        <span>drift, ms</span>
      </div>
      <section ref={scroller} className="h-40 overflow-y-auto" aria-label="Every exposure before and after">
        <div className="relative" style={{ height: virtualizer.getTotalSize() }}>
          {virtualizer.getVirtualItems().map((item) => {
            const row = rows[item.index];
            if (!row) return null;
            const changed = row.oldFrames !== row.newFrames;
            return (
              <div
                key={item.key}
                className={`${COLUMNS} numbers absolute inset-x-0 px-2 text-xs ${changed ? 'bg-lime-wash' : ''}`}
                style={{ top: item.start, height: ROW_PX }}
              >
                <span>{row.shot}</span>
                <span className="truncate">{row.level}</span>
                <span>{row.number}</span>
                <span>{row.oldStart + firstNumber}</span>
                <span>{row.oldFrames}</span>
                <span>{row.newStart + firstNumber}</span>
                <span className={row.newFrames === 0 ? 'text-rust' : ''}>{row.newFrames === 0 ? 'none' : row.newFrames}</span>
                <span>{row.driftMilliseconds}</span>
              </div>
            );
          })}
        </div>
      </section>
    </div>
  );
}

function RateChanging({ onClose }: { onClose: () => void }) {
  const change = useRateChange();
  const { project, plan } = change;
  const edit = plan.ok ? plan.value.edit : plan;
  return (
    <div className="mt-3 space-y-3">
      <RateFields
        text={change.rateText}
        onChange={(rateText) => change.think({ rateText })}
        label={change.scopeKind === 'project' ? `From ${rateName(project.rate)} to` : 'The shot was planned at'}
      />
      <RateForm change={change} />
      {plan.ok && (
        <>
          <BeforeAfter plan={plan.value} lengthsShown={0} />
          <EveryExposure plan={plan.value} firstNumber={project.firstFrameNumber} />
          <SteppingWords plan={plan.value} firstNumber={project.firstFrameNumber} />
        </>
      )}
      <p className={edit.ok ? 'font-semibold' : 'text-rust'}>
        {edit.ok ? `${edit.value.says}${plan.ok ? `, in ${plural(plan.value.shots.length, 'shot')}` : ''}` : edit.reason}
      </p>
      <div className="flex justify-end gap-2">
        <Button kind="quiet" onClick={onClose}>
          {CANCEL}
        </Button>
        <Button
          kind="go"
          disabled={!edit.ok}
          onClick={() => {
            if (!take(edit, true)) return;
            change.think({ rateText: null });
            onClose();
          }}
        >
          Change the rate
        </Button>
      </div>
    </div>
  );
}

/** The window for going to another rate, with every exposure before and after. */
export function RateDialog() {
  const open = useFormatStore((state) => state.open === 'rate');
  const close = () => useFormatStore.setState({ open: null });
  return (
    <Dialog
      title="Another rate"
      about="Three ways to another rate; nothing changes until you confirm, and one undo reverts it."
      open={open}
      onOpenChange={(next) => !next && close()}
    >
      <RateChanging onClose={close} />
    </Dialog>
  );
}
