'use client';
import { consequencesOfRate } from '@/core/document/ruledOut';
import { KNOWN_RATES, parseRate, rateFraction } from '@/core/time/rate';
import { Consequences } from '@/features/format/Consequences';
import { Choice } from '@/ui/Choice';
import { Field } from '@/ui/Field';

/** Choosing a rate by its value, with its exact parts and what it brings with it. */
export function RateFields({
  text,
  onChange,
  label = 'Frames a second',
}: {
  text: string;
  onChange: (text: string) => void;
  label?: string;
}) {
  const rate = parseRate(text);
  return (
    <div className="space-y-1.5">
      <p className="text-soft text-xs">{label}</p>
      <Choice
        label={label}
        value={text}
        options={KNOWN_RATES.map((known) => ({
          value: known.name,
          label: known.name,
          title: `${rateFraction(known.rate)} frames a second`,
        }))}
        onChange={onChange}
      />
      <Field
        label="or another rate, as 24000/1001"
        value={text}
        onChange={onChange}
        said={rate.ok ? `exactly ${rateFraction(rate.value)}` : undefined}
        wrong={rate.ok ? undefined : rate.reason}
      />
      {rate.ok && <Consequences told={consequencesOfRate(rate.value)} />}
    </div>
  );
}
