'use client';
import { memo } from 'react';
import { KNOWN_RATES, rateFraction, rateName } from '@/core/time/rate';
import { BeforeAfter, SteppingWords } from '@/features/format/BeforeAfter';
import { useFormatStore } from '@/features/format/formatStore';
import { RateForm } from '@/features/format/RateForm';
import { useRateChange } from '@/features/format/useRateChange';
import { take } from '@/features/project/editContext';
import { Button } from '@/ui/Button';

/** The film at another rate, before and after, beside the plan. */
export const RatePanel = memo(function RatePanel() {
  const change = useRateChange();
  const { project, rateText, think, rate, plan, scopeKind } = change;
  const edit = plan.ok ? plan.value.edit : plan;
  // Until somebody has chosen a rate it is a proposal, and not the next thing to do.
  const isChosen = useFormatStore((state) => state.rate.rateText !== null);
  const known = rate.ok && KNOWN_RATES.some((each) => each.name === rateText.trim());
  return (
    <section aria-label="Another rate" className="space-y-2 border-line border-t p-3.5">
      <h2 className="font-bold">Another rate</h2>
      <div className="flex items-center gap-2">
        <span className="numbers text-xs" title={`${rateFraction(project.rate)} frames a second`}>
          {scopeKind === 'project' ? `${rateName(project.rate)} →` : 'planned at'}
        </span>
        <input
          aria-label="The other rate, as 25 or 24000/1001"
          aria-invalid={rate.ok ? undefined : true}
          list="known-rates"
          value={rateText}
          onChange={(event) => think({ rateText: event.target.value })}
          className={`numbers min-h-7 w-24 rounded-lg border bg-paper px-2 text-xs ${rate.ok ? 'border-line hover:border-edge' : 'border-rust'}`}
        />
        <datalist id="known-rates">
          {KNOWN_RATES.map((each) => (
            <option key={each.name} value={each.name} />
          ))}
        </datalist>
        {rate.ok && !known && <span className="numbers text-2xs text-soft">{rateFraction(rate.value)}</span>}
        {scopeKind === 'shot' && <span className="numbers text-xs">→ {rateName(project.rate)}</span>}
      </div>
      <RateForm change={change} />
      {plan.ok && <BeforeAfter plan={plan.value} />}
      {plan.ok && <SteppingWords plan={plan.value} firstNumber={project.firstFrameNumber} />}
      {!edit.ok && <p className="text-rust text-xs">{edit.reason}</p>}
      {edit.ok && plan.ok && plan.value.pastEnd.length > 0 && <p className="text-rust text-xs">{edit.value.says}</p>}
      <div className="flex gap-1.5">
        <Button tight onClick={() => useFormatStore.setState({ open: 'rate' })}>
          Every exposure …
        </Button>
        <Button tight kind={isChosen ? 'go' : undefined} disabled={!edit.ok} onClick={() => take(edit, true) && think({ rateText: null })}>
          Change the rate
        </Button>
      </div>
    </section>
  );
});
