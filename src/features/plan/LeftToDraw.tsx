'use client';
import { addBusinessDays, addDays, format } from 'date-fns';
import { useEffect, useState } from 'react';
import { daysOfWork, leftToDraw } from '@/core/chart/workload';
import type { Level, Project, Shot } from '@/core/sheet/document';
import { exposuresOf } from '@/core/sheet/reading';
import { workOfProject, workOfShot } from '@/core/sheet/work';
import { plural } from '@/core/time/counts';
import { useProject } from '@/features/project/hooks';
import { goToFrame } from '@/features/project/navigation';
import { useViewStore } from '@/features/project/viewStore';
import { Field } from '@/ui/Field';

const MOST_SHOWN = 24;

function LevelLeft({ level }: { level: Level }) {
  const left = leftToDraw(level);
  if (left.length === 0) return null;
  return (
    <li className="flex items-baseline justify-between gap-3">
      <span className="shrink-0 font-semibold">{level.name}</span>
      <span className="numbers text-right text-xs">
        {left.slice(0, MOST_SHOWN).map((drawing, index) => {
          const first = exposuresOf(level, drawing.id)[0];
          return (
            <span key={drawing.id}>
              {index > 0 && ', '}
              <button
                type="button"
                className="underline decoration-line underline-offset-2 hover:decoration-ink"
                title={first ? `Go to ${drawing.number}` : `${drawing.number} is exposed nowhere`}
                onClick={() => {
                  useViewStore.setState({ levelId: level.id });
                  if (first) goToFrame(first.startFrame);
                }}
              >
                {drawing.number}
              </button>
            </span>
          );
        })}
        {left.length > MOST_SHOWN && `, ${left.length - MOST_SHOWN} more`}
      </span>
    </li>
  );
}

const PER_DAY_KEY = 'lime-tick drawings a day';

/** When all is drawn at so many drawings a day, told for every day and for working days. */
function Target({ project, shot }: { project: Project; shot: Shot }) {
  const [perDayText, setPerDayText] = useState('12');
  useEffect(() => setPerDayText(localStorage.getItem(PER_DAY_KEY) ?? '12'), []);
  const perDay = /^\d{1,4}$/.test(perDayText.trim()) ? Number(perDayText) : 0;
  const leftOf = ({ drawings, drawn }: { drawings: number; drawn: number }) => drawings - drawn;
  const rows = [
    { words: `shot ${shot.code}`, left: leftOf(workOfShot(shot)) },
    { words: 'the film', left: leftOf(workOfProject(project)) },
  ].filter((row) => row.left > 0);
  if (rows.length === 0) return <p className="text-soft text-xs">Everything planned is drawn.</p>;
  const day = (date: Date) => format(date, 'EEE d MMM yyyy');
  return (
    <div className="space-y-1">
      <Field
        label="Drawings a day"
        inputMode="numeric"
        className="w-28"
        value={perDayText}
        onChange={(text) => {
          setPerDayText(text);
          localStorage.setItem(PER_DAY_KEY, text);
        }}
        wrong={perDay >= 1 ? undefined : 'Write a number from 1.'}
      />
      {perDay >= 1 &&
        rows.map(({ words, left }) => {
          const days = daysOfWork(left, perDay);
          const today = new Date();
          return (
            <p key={words} className="text-xs">
              {plural(left, 'drawing')} of {words}: {plural(days, 'day')}, done <b>{day(addDays(today, days - 1))}</b>
              <span className="text-soft"> or, on working days only, {day(lastWorkingDay(today, days))}</span>
            </p>
          );
        })}
    </div>
  );
}

/** The last of so many working days, beginning today or with the next one. */
function lastWorkingDay(today: Date, days: number): Date {
  const yesterday = addDays(today, -1);
  return addBusinessDays(yesterday, days);
}

/** What is planned and not drawn yet, level by level, and when it will be done. */
export function LeftToDraw({ shot }: { shot: Shot }) {
  const project = useProject();
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
}
