'use client';
import { useMemo } from 'react';
import { changesOfLength, type RatePlan } from '@/core/conform/conform';
import { stepEvenly } from '@/core/conform/evenStepping';
import { plural } from '@/core/time/counts';
import { rateName } from '@/core/time/rate';
import { secondsText } from '@/core/time/seconds';

/** A rate change before and after, in the figures that matter; of the lengths of exposures, so many. */
export function BeforeAfter({ plan, lengthsShown = 7 }: { plan: RatePlan; lengthsShown?: number }) {
  const { from, to, oldFrames, newFrames } = plan;
  const lengths = useMemo(() => changesOfLength(plan), [plan]);
  const rows: (readonly [string, string, string])[] = [
    ['frames', String(oldFrames), String(newFrames)],
    ['length', `${secondsText(oldFrames, from)} s`, `${secondsText(newFrames, to)} s`],
    ...(plan.way === 'keepTime'
      ? lengths.map(({ oldFrames: old, newFrames: now, times }) => [`${times} ×`, plural(old, 'frame'), plural(now, 'frame')] as const)
      : []),
  ];
  const shown = rows.slice(0, 2 + lengthsShown);
  return (
    <table className="numbers w-full text-left text-xs" data-testid="before-after">
      <thead className="text-soft">
        <tr>
          <td />
          <th scope="col" className="font-normal">
            {rateName(from)}
          </th>
          <th scope="col" className="font-normal">
            {rateName(to)}
          </th>
        </tr>
      </thead>
      <tbody>
        {shown.map(([words, before, after]) => (
          <tr key={`${words} ${before} ${after}`}>
            <th scope="row" className="py-px pr-2 font-normal text-soft">
              {words}
            </th>
            <td>{before}</td>
            <td className={before === after ? 'text-soft' : 'font-semibold'}>{after}</td>
          </tr>
        ))}
        {lengthsShown > 0 && rows.length > shown.length && (
          <tr>
            <td colSpan={3} className="text-soft">
              and {rows.length - shown.length} lengths more
            </td>
          </tr>
        )}
        {plan.way === 'keepTime' && (
          <tr>
            <th scope="row" className="py-px pr-2 font-normal text-soft">
              most drift
            </th>
            <td />
            <td>{plan.mostDriftMilliseconds} ms</td>
          </tr>
        )}
      </tbody>
    </table>
  );
}

/** What stepping the finished frames evenly would do instead. */
export function SteppingWords({ plan, firstNumber }: { plan: RatePlan; firstNumber: number }) {
  if (plan.way !== 'keepTime') {
    const ratio = (plan.to.num * plan.from.den) / (plan.to.den * plan.from.num);
    return (
      <p className="text-soft text-xs">
        Every exposure keeps its frames, so everything goes {ratio > 1 ? 'faster' : 'slower'}: {((ratio - 1) * 100).toFixed(2)} %.
        {plan.way === 'keepCounts' ? ' Words and accents on the sheet keep their time.' : ' Words and accents keep their frames.'}
      </p>
    );
  }
  const stepped = stepEvenly(plan.oldFrames, plan.from, plan.to);
  const list = (frames: readonly number[]) => {
    const shown = frames.slice(0, 6).map((frame) => frame + firstNumber);
    return `${shown.join(', ')}${frames.length > shown.length ? ' …' : ''}`;
  };
  const parts = [
    ...[...new Set(stepped.repeated.map(({ times }) => times))]
      .toSorted((a, b) => a - b)
      .map((times) => {
        const frames = stepped.repeated.filter((each) => each.times === times).map(({ frame }) => frame);
        return `show ${plural(frames.length, 'frame')} ${times === 2 ? 'twice' : `${times} times`} (${list(frames)})`;
      }),
    ...(stepped.lost.length > 0 ? [`lose ${plural(stepped.lost.length, 'frame')} (${list(stepped.lost)})`] : []),
  ];
  return (
    <p className="text-soft text-xs" data-testid="stepping">
      No drawing is repeated. Stepping the finished frames evenly would{' '}
      {parts.length > 0 ? parts.join(' and ') : 'show every frame once too'}.
    </p>
  );
}
