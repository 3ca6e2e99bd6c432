'use client';
import { memo, useMemo, useState } from 'react';
import { savingsOf, workByRole } from '@/core/chart/workload';
import type { Project, Shot } from '@/core/document/model';
import { setStepKeepingTime } from '@/core/edit/blockEdits';
import { timingShare, workOfShot } from '@/core/sheet/work';
import { countText, plural } from '@/core/time/counts';
import { framesInWords } from '@/core/time/frameWords';
import type { Rate } from '@/core/time/rate';
import { useCalmView } from '@/features/project/calmProject';
import { contextNow, take } from '@/features/project/editContext';
import { inView } from '@/features/project/hooks';
import { useCalm } from '@/features/project/useCalm';
import { useViewStore } from '@/features/project/viewStore';
import { Choice } from '@/ui/Choice';

type Scope = 'shot' | 'film';

const COLOURS = { ones: 'bg-ink', twos: 'bg-moss', threes: 'bg-lime', longer: 'bg-edge', holds: 'bg-[#bfd3ce]' } as const;

function Share({ shots, rate }: { shots: readonly Shot[]; rate: Rate }) {
  const share = timingShare(shots, rate);
  const parts = (Object.keys(COLOURS) as (keyof typeof COLOURS)[]).flatMap((words) =>
    share[words] > 0 ? [{ words, frames: share[words] }] : [],
  );
  const total = parts.reduce((sum, part) => sum + part.frames, 0);
  if (total === 0) return null;
  const percent = (frames: number) => Math.round((frames * 100) / total);
  return (
    <>
      <div
        className="flex h-3 overflow-hidden rounded-full"
        role="img"
        aria-label={parts.map((part) => `${part.words} ${percent(part.frames)} %`).join(', ')}
      >
        {parts.map((part) => (
          <span key={part.words} className={COLOURS[part.words]} style={{ width: `${(part.frames * 100) / total}%` }} />
        ))}
      </div>
      <ul
        className="flex flex-wrap gap-x-3 gap-y-0.5 text-xs"
        title={`Of ${countText(total)} exposed frames on animated levels; a hold is longer than a third of a second.`}
      >
        {parts.map((part) => (
          <li key={part.words} className="flex items-center gap-1.5">
            <span className={`inline-block size-2 rounded-sm ${COLOURS[part.words]}`} />
            <span>
              {part.words} <span className="tabular-nums">{percent(part.frames)} %</span>
            </span>
          </li>
        ))}
      </ul>
    </>
  );
}

/** What a slower step would save in the block that is chosen, else in the whole shot; the first three, each made with a press. */
function Savings({ shot, firstNumber }: { shot: Shot; firstNumber: number }) {
  const selection = useCalm(useViewStore((state) => state.selection));
  const savings = useMemo(() => {
    const levels = selection ? shot.levels.filter((level) => selection.levelIds.includes(level.id)) : shot.levels;
    return levels
      .flatMap((level) => savingsOf(level, 2, selection?.fromFrame, selection?.toFrame))
      .toSorted((a, b) => b.saved.length - a.saved.length);
  }, [shot, selection]);
  const total = savings.reduce((sum, saving) => sum + saving.saved.length, 0);
  if (total === 0) return null;
  return (
    <div className="text-xs">
      <p>
        From ones to twos {selection ? 'in the block' : 'here'} saves <b>{plural(total, 'drawing')}</b>:
      </p>
      <ul>
        {savings.slice(0, 3).map((saving) => (
          <li key={`${saving.levelId} ${saving.fromFrame}`}>
            <button
              type="button"
              className="min-h-6 w-full rounded px-1 text-left text-soft underline decoration-line underline-offset-2 hover:bg-sunk hover:text-ink"
              title={`Sets them on twos at the same length; ${saving.saved.join(', ')} would not be exposed any more`}
              onClick={() => {
                const view = inView();
                const block = { levelIds: [saving.levelId], fromFrame: saving.fromFrame, toFrame: saving.toFrame };
                if (view) take(setStepKeepingTime(contextNow(view), block, saving.step), true);
              }}
            >
              {saving.levelName}, {framesInWords(saving.fromFrame, saving.toFrame, firstNumber)}: {saving.saved.length}
            </button>
          </li>
        ))}
        {savings.length > 3 && <li className="px-1 text-soft">and {savings.length - 3} more</li>}
      </ul>
    </div>
  );
}

/** The work in the open shot or the whole film: drawings to make by role, drawings a second, how long they stand, what twos would save. */
export const WorkPanel = memo(function WorkPanel() {
  const { project, shot } = useCalmView();
  return shot ? <WorkOf project={project} shot={shot} /> : null;
});

function WorkOf({ project, shot }: { project: Project; shot: Shot }) {
  const [scope, setScope] = useState<Scope>('shot');
  const shots = scope === 'shot' ? [shot] : project.shots;
  const work = shots
    .map(workOfShot)
    .reduce((sum, each) => ({ drawings: sum.drawings + each.drawings, drawn: sum.drawn + each.drawn }), { drawings: 0, drawn: 0 });
  const frames = shots.reduce((sum, each) => sum + each.frames, 0);
  const roles = workByRole(shots);
  const perSecond = ((work.drawings * project.rate.num) / (frames * project.rate.den)).toFixed(1);
  return (
    <section aria-label="The work" className="space-y-2 p-3.5">
      <div className="flex items-center justify-between">
        <h2 className="font-bold">The work</h2>
        <Choice
          label="Work of"
          value={scope}
          options={[
            { value: 'shot', label: `shot ${shot.code}` },
            { value: 'film', label: 'film' },
          ]}
          onChange={setScope}
        />
      </div>
      <div className="flex items-center gap-3">
        <span className="font-bold font-head text-4xl tabular-nums leading-9">{countText(work.drawings)}</span>
        <span className="text-soft leading-4">
          drawings for {plural(frames, 'frame')}
          <br />
          {perSecond} a second, {countText(work.drawings - work.drawn)} left to draw
        </span>
      </div>
      <p className="text-soft text-xs tabular-nums">
        drawn of all: keys {roles.key.drawn}/{roles.key.drawings}, breakdowns {roles.breakdown.drawn}/{roles.breakdown.drawings},
        in-betweens {roles.inbetween.drawn}/{roles.inbetween.drawings}
      </p>
      <Share shots={shots} rate={project.rate} />
      <Savings shot={shot} firstNumber={project.firstFrameNumber} />
    </section>
  );
}
