'use client';
import { useId, useState } from 'react';
import { bytesText } from '@/core/bytes';
import { DITHERS, LEAST_COLOURS, LOOP_KIND_FACTS, type LoopKind, type LoopOptions, MOST_COLOURS, MOST_PLAYS } from '@/core/output/loop';
import type { RenderPlan } from '@/core/render/renderPlan';
import { durationWords, heldTimesOf, LEAST_GIF_CENTISECONDS, loopMicroseconds, roundedDurations } from '@/core/time/heldTimes';
import { useHandoverStore } from '@/features/handover/handoverStore';
import { NumberField } from '@/features/handover/NumberField';
import { QualityOptions } from '@/features/handover/QualityOptions';
import { Row } from '@/features/handover/Row';
import { TransparencyChoice } from '@/features/handover/TransparencyChoice';
import { fitLoop, useTrialStore } from '@/features/handover/trialStore';
import { useProject } from '@/features/project/hooks';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { Field } from '@/ui/Field';

type Props = {
  readonly kind: LoopKind;
  readonly options: LoopOptions;
  readonly onChange: (options: LoopOptions) => void;
  readonly plan: RenderPlan | null;
  readonly withBackground: boolean;
};

const DITHER_NAMES = { off: 'Off', ordered: 'Ordered', diffused: 'Diffused' } as const;

function ColourOptions({ options, onChange }: Pick<Props, 'options' | 'onChange'>) {
  return (
    <>
      <div className="grid grid-cols-2 gap-2">
        <NumberField
          label="Colours, 2 to 256"
          value={options.colours}
          least={LEAST_COLOURS}
          most={MOST_COLOURS}
          onChange={(colours) => onChange({ ...options, colours })}
        />
      </div>
      <Row name="Palette">
        <Choice
          label="Palette"
          value={options.palette}
          options={[
            { value: 'whole', label: 'For all' },
            { value: 'each', label: 'For each picture' },
          ]}
          onChange={(palette) => onChange({ ...options, palette })}
        />
      </Row>
      <Row name="Dither">
        <Choice
          label="Dither"
          value={options.dither}
          options={DITHERS.map((dither) => ({ value: dither, label: DITHER_NAMES[dither] }))}
          onChange={(dither) => onChange({ ...options, dither })}
        />
      </Row>
    </>
  );
}

/** Whether what isn't covered stays transparent, and what half-covered edges are laid on where they can't be half seen. */
function TransparencyOptions({ kind, options, onChange }: Pick<Props, 'kind' | 'options' | 'onChange'>) {
  const id = useId();
  const isEitherOr = LOOP_KIND_FACTS[kind].hasPalette;
  return (
    <>
      <TransparencyChoice isKept={options.transparency} onChange={(transparency) => onChange({ ...options, transparency })} />
      {isEitherOr && options.transparency && (
        <>
          <div className="flex items-center gap-2 text-xs">
            <label htmlFor={id} className="text-soft">
              Edges laid on
            </label>
            <input
              id={id}
              type="color"
              value={options.matte}
              onChange={(event) => onChange({ ...options, matte: event.target.value })}
              className="h-7 w-10 rounded border border-line bg-paper"
            />
            <span className="numbers">{options.matte}</span>
          </div>
          <p className="text-soft text-xs">
            A pixel of a GIF is seen or not: half-transparent edges are laid on this colour, the page’s own at best.
          </p>
        </>
      )}
    </>
  );
}

/** How the loop's times come out in units of its format. */
function TimeWords({ kind, options, plan }: { kind: LoopKind; options: LoopOptions; plan: RenderPlan }) {
  const { unitsPerSecond } = LOOP_KIND_FACTS[kind];
  const held = heldTimesOf(
    plan.runs.map(({ frames }) => frames),
    options.times,
  );
  const length = `${(loopMicroseconds(held, plan.rate) / 1_000_000).toFixed(3)} s`;
  // Times in millionths of a second are exact to whoever looks at them.
  if (unitsPerSecond === null || unitsPerSecond > 1000)
    return (
      <p className="numbers text-xs">
        Times are exact: {plan.runs.length} pictures, {length}.
      </p>
    );
  const durations = roundedDurations(held, plan.rate, unitsPerSecond);
  const units = durations.reduce((sum, each) => sum + each, 0);
  const unit = unitsPerSecond === 100 ? '1/100 s' : 'ms';
  const tooShort = kind === 'gif' ? durations.filter((duration) => duration < LEAST_GIF_CENTISECONDS).length : 0;
  return (
    <div className="space-y-1 text-xs">
      <p className="numbers">
        In {unit}: {durationWords(durations)}, together {(units / unitsPerSecond).toFixed(unitsPerSecond === 100 ? 2 : 3)} s of {length}.
      </p>
      {tooShort > 0 && (
        <p className="text-rust">
          {tooShort} of the pictures last less than 2/100 s: browsers slow those down. Hand over fewer frames a second, or an APNG or a
          WebP.
        </p>
      )}
    </div>
  );
}

/** A size to stay below, and the way to come there. */
function SizeLimit({ options, onChange }: Pick<Props, 'options' | 'onChange'>) {
  const project = useProject();
  const recipe = useHandoverStore((state) => state.recipe);
  const isMaking = useTrialStore(({ trial }) => trial.kind === 'making');
  const [text, setText] = useState(options.mostBytes === null ? '' : String(options.mostBytes / 1_000_000));
  const megabytes = Number(text.replace(',', '.'));
  const isNumber = text.trim() !== '' && Number.isFinite(megabytes) && megabytes > 0;
  return (
    <div className="space-y-1">
      <div className="flex items-end gap-2">
        <Field
          label="Stay below, MB"
          inputMode="decimal"
          placeholder="any size"
          value={text}
          onChange={setText}
          {...(text.trim() !== '' && !isNumber ? { wrong: `“${text}” is not a number of MB.` } : {})}
        />
        <Button
          disabled={!isNumber || isMaking}
          onClick={() => void fitLoop(project, recipe, Math.floor(megabytes * 1_000_000))}
          className="min-h-8 shrink-0"
        >
          Fit
        </Button>
      </div>
      {options.mostBytes !== null && (
        <p className="text-soft text-xs">
          It is refused where it comes to more than {bytesText(options.mostBytes)}.{' '}
          <button
            type="button"
            className="underline"
            onClick={() => {
              setText('');
              onChange({ ...options, mostBytes: null });
            }}
          >
            Any size
          </button>
        </p>
      )}
    </div>
  );
}

/** What is asked of a loop: how often it is played, its colours, its transparency, its times and its size. */
export function LoopPanel({ kind, options, onChange, plan, withBackground }: Props) {
  const { hasPalette, hasQuality, saysSrgb, words } = LOOP_KIND_FACTS[kind];
  return (
    <div className="space-y-2">
      <Row name="Played">
        <Choice
          label="Played"
          value={options.plays === 0 ? 'ever' : 'times'}
          options={[
            { value: 'ever', label: 'On a loop' },
            { value: 'times', label: 'n times' },
          ]}
          onChange={(value) => onChange({ ...options, plays: value === 'ever' ? 0 : 1 })}
        />
      </Row>
      {options.plays > 0 && (
        <NumberField
          label="Times"
          value={options.plays}
          least={1}
          most={MOST_PLAYS}
          onChange={(plays) => onChange({ ...options, plays })}
        />
      )}
      {hasPalette && <ColourOptions options={options} onChange={onChange} />}
      {hasQuality && <QualityOptions quality={options.quality} canKeepAll onChange={(quality) => onChange({ ...options, quality })} />}
      {!withBackground && <TransparencyOptions kind={kind} options={options} onChange={onChange} />}
      <SizeLimit options={options} onChange={onChange} />
      {plan && <TimeWords kind={kind} options={options} plan={plan} />}
      <p className="text-soft text-xs">
        {words} Colours are sRGB{saysSrgb ? ', and the file says so' : ': the format has no place to say it, and browsers take it so'}.
      </p>
    </div>
  );
}
