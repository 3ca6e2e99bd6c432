'use client';
import { addBusinessDays, addDays } from 'date-fns';
import { Fragment, memo, useEffect, useState } from 'react';
import { daysOfWork, leftToDraw } from '@/core/chart/workload';
import type { Level, Project, Shot } from '@/core/document/model';
import { workOfProject, workOfShot } from '@/core/sheet/work';
import { plural } from '@/core/time/counts';
import { useCalmView } from '@/features/project/calmProject';
import { goToFrame } from '@/features/project/navigation';
import { useViewStore } from '@/features/project/viewStore';

const MOST_SHOWN = 24;

const LevelLeft = memo(function LevelLeft({ level }: { level: Level }) {
  const [showsAll, setShowsAll] = useState(false);
  const left = leftToDraw(level);
  if (left.length === 0) return null;
  const shown = left.slice(0, showsAll ? undefined : MOST_SHOWN);
  return (
    <li className="flex items-baseline justify-between gap-3">
      <span className="shrink-0 font-semibold">{level.name}</span>
      <span className="numbers text-right text-xs">
        {shown.map(({ drawing, firstFrame }) => (
          <Fragment key={drawing.id}>
            <button
              type="button"
              className="min-h-6 min-w-6 text-center underline decoration-line underline-offset-2 hover:decoration-ink"
              title={firstFrame !== null ? `Go to ${drawing.number}` : `${drawing.number} is exposed nowhere`}
              onClick={() => {
                useViewStore.setState({ levelId: level.id });
                if (firstFrame !== null) goToFrame(firstFrame);
              }}
            >
              {drawing.number}
            </button>{' '}
          </Fragment>
        ))}
        {left.length > MOST_SHOWN && (
          <button
            type="button"
            aria-expanded={showsAll}
            aria-label={showsAll ? `Fewer of ${level.name}` : `${left.length - MOST_SHOWN} more of ${level.name}`}
            className="font-sans underline decoration-line underline-offset-2 hover:decoration-ink"
            onClick={() => setShowsAll(!showsAll)}
          >
            {showsAll ? 'fewer' : `${left.length - MOST_SHOWN} more`}
          </button>
        )}
      </span>
    </li>
  );
});

const DAY = new Intl.DateTimeFormat('en', { weekday: 'short', day: 'numeric', month: 'short', year: 'numeric' });

/** A day as `Sat 28 Nov 2026`. */
function dayWords(date: Date): string {
  const part = Object.fromEntries(DAY.formatToParts(date).map(({ type, value }) => [type, value]));
  return `${part.weekday} ${part.day} ${part.month} ${part.year}`;
}

const PER_DAY_KEY = 'lime-tick drawings a day';

/** When all is drawn at so many drawings a day, told for every day and for working days. */
const Target = memo(function Target({ project, shot }: { project: Project; shot: Shot }) {
  const [perDayText, setPerDayText] = useState('12');
  useEffect(() => setPerDayText(localStorage.getItem(PER_DAY_KEY) ?? '12'), []);
  const perDay = /^\d{1,4}$/.test(perDayText.trim()) ? Number(perDayText) : 0;
  const leftOf = ({ drawings, drawn }: { drawings: number; drawn: number }) => drawings - drawn;
  const rows = [
    { words: `shot ${shot.code}`, left: leftOf(workOfShot(shot)) },
    { words: 'the film', left: leftOf(workOfProject(project)) },
  ].filter((row) => row.left > 0);
  if (rows.length === 0)
    return (
      <p className="text-soft text-xs">
        {workOfProject(project).drawings === 0 ? 'Nothing is planned yet.' : 'Everything planned is drawn.'}
      </p>
    );
  return (
    <div className="space-y-1 text-xs">
      <label className="flex items-center gap-2 text-soft">
        At
        <input
          inputMode="numeric"
          value={perDayText}
          aria-label="Drawings a day"
          aria-invalid={perDay >= 1 ? undefined : true}
          onChange={(event) => {
            setPerDayText(event.target.value);
            localStorage.setItem(PER_DAY_KEY, event.target.value);
          }}
          className={`numbers min-h-7 w-14 rounded-lg border bg-paper px-2 text-ink ${perDay >= 1 ? 'border-line hover:border-edge' : 'border-rust'}`}
        />
        drawings a day
      </label>
      {perDay < 1 && <p className="text-rust">Write a number from 1.</p>}
      {perDay >= 1 &&
        rows.map(({ words, left }) => {
          const days = daysOfWork(left, perDay);
          const today = new Date();
          const [everyDay, workingDays] = [dayWords(addDays(today, days - 1)), dayWords(addBusinessDays(addDays(today, -1), days))];
          return (
            <p key={words}>
              {plural(left, 'drawing')} of {words}: {plural(days, 'day')}, <b className="whitespace-nowrap">{everyDay}</b>
              {workingDays !== everyDay && (
                <span className="text-soft">
                  , or on working days <span className="whitespace-nowrap">{workingDays}</span>
                </span>
              )}
            </p>
          );
        })}
    </div>
  );
});

/** What is planned and not drawn yet, level by level, and when it will be done. */
export const LeftToDraw = memo(function LeftToDraw() {
  const { project, shot } = useCalmView();
  if (!shot) return null;
  const levels = shot.levels.filter((level) => level.kind !== 'guide').toReversed();
  return (
    <section aria-label="Left to draw" className="space-y-1.5 border-line border-t p-3.5">
      <h2 className="font-bold">Left to draw</h2>
      <ul className="space-y-0.5">
        {levels.map((level) => (
          <LevelLeft key={level.id} level={level} />
        ))}
      </ul>
      <Target project={project} shot={shot} />
    </section>
  );
});
