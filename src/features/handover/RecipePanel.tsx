'use client';
import { Fragment, useEffect, useMemo, useState } from 'react';
import { sizeText } from '@/core/document/size';
import type { Outcome } from '@/core/outcome';
import { fileNamesOf, formatChoices } from '@/core/output/format';
import { baseNameOf, chosenRange, framesToChoose, type Recipe } from '@/core/output/recipe';
import { everySound } from '@/core/reel/sounds';
import type { RenderPlan } from '@/core/render/renderPlan';
import { undrawnIn } from '@/core/render/undrawn';
import { countText, lengthSentence, plural } from '@/core/time/counts';
import { rateFraction } from '@/core/time/rate';
import { formatFor, handOver, useHandoverStore } from '@/features/handover/handoverStore';
import { useFindings } from '@/features/path/useFindings';
import { useProject, useShot } from '@/features/project/hooks';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { Field } from '@/ui/Field';
import { FORMATS } from '@/workers/client';

function GroundWords({ recipe }: { recipe: Recipe }) {
  const words = recipe.withBackground
    ? 'Still and animated levels on white paper. Guides are never handed over.'
    : formatFor(recipe).carries.transparency
      ? 'Animated levels only, with transparency.'
      : 'Animated levels only, on white: these films have no transparency.';
  return <p className="text-soft text-xs">{words}</p>;
}

function FileNames({ recipe, plan }: { recipe: Recipe; plan: RenderPlan }) {
  const project = useProject();
  const format = formatFor(recipe);
  const { firstNumber, frames } = plan;
  const base = baseNameOf(project, recipe, format);
  const { whole, pictures } = useMemo(() => fileNamesOf(format, base, firstNumber, frames), [format, base, firstNumber, frames]);
  if (pictures.length === 0) return <p className="numbers break-all text-xs">{whole}</p>;
  return (
    <div className="numbers break-all text-soft text-xs">
      {whole && <p className="text-ink">{whole}, holding</p>}
      <p>{pictures[0]}</p>
      {pictures.length > 2 && <p>… {countText(pictures.length - 2)} more</p>}
      {pictures.length > 1 && <p>{pictures.at(-1)}</p>}
    </div>
  );
}

/** Every format there is, by group. */
function FormatChoices({ recipe, onChange }: { recipe: Recipe; onChange: (formatId: string) => void }) {
  const [canPickFolder, setCanPickFolder] = useState(false);
  useEffect(() => setCanPickFolder('showDirectoryPicker' in window), []);
  return formatChoices(FORMATS, canPickFolder).map(({ group, label, words, options }) => (
    <Fragment key={group}>
      <p className="text-soft text-xs">{words}</p>
      <Choice label={label} value={recipe.formatId} options={options} onChange={onChange} />
    </Fragment>
  ));
}

/** What the chosen destination refuses, and flashes: what Check found of it is shown here too, before the press. */
function Refusals() {
  const { open } = useFindings(useProject());
  const refused = open.filter((finding) => finding.group === 'refusals');
  if (refused.length === 0) return null;
  return (
    <section aria-label="What would be refused" className="rounded-lg bg-rust-wash p-2 text-rust text-xs">
      <ul className="space-y-1">
        {refused.map((finding) => (
          <li key={finding.id}>{finding.sentence}</li>
        ))}
      </ul>
    </section>
  );
}

const MOST_NAMED = 6;

/** What leaves and as what, in plain words; the names before anything is written; the button. */
export function RecipePanel({ plan }: { plan: Outcome<RenderPlan> }) {
  const project = useProject();
  const shot = useShot();
  const recipe = useHandoverStore((state) => state.recipe);
  const isRunning = useHandoverStore((state) => state.running !== null);
  const change = (part: Partial<Recipe>) => useHandoverStore.setState({ recipe: { ...recipe, ...part } });
  const total = framesToChoose(project, recipe.shotId);
  const first = project.firstFrameNumber;
  const undrawn = useMemo(
    () =>
      plan.ok ? undrawnIn(project, { shotId: recipe.shotId, withBackground: recipe.withBackground, ...chosenRange(project, recipe) }) : [],
    [plan, project, recipe],
  );
  return (
    <section aria-label="Recipe" className="panel flex flex-col overflow-hidden">
      <div className="min-h-0 flex-1 space-y-4 overflow-y-auto p-4">
        <div className="space-y-2.5">
          <h2 className="font-bold">What to hand over</h2>
          <Choice
            label="From"
            value={recipe.shotId === null ? 'reel' : 'shot'}
            options={[
              { value: 'reel', label: `Whole reel, ${plural(project.shots.length, 'shot')}` },
              { value: 'shot', label: `Shot ${shot?.code ?? ''} alone`, disabled: !shot },
            ]}
            onChange={(value) => change({ shotId: value === 'shot' ? (shot?.id ?? null) : null, fromText: '', toText: '' })}
          />
          <div className="grid grid-cols-2 gap-2">
            <Field
              label="From frame"
              inputMode="numeric"
              placeholder={String(first)}
              value={recipe.fromText}
              onChange={(fromText) => change({ fromText })}
            />
            <Field
              label="To frame"
              inputMode="numeric"
              placeholder={String(first + total - 1)}
              value={recipe.toText}
              onChange={(toText) => change({ toText })}
            />
          </div>
          {plan.ok ? (
            <p className="text-xs">{lengthSentence(plan.value.frames, plan.value.rate)}</p>
          ) : (
            <p className="text-rust text-xs">{plan.reason}</p>
          )}
          <Choice
            label="Background"
            value={recipe.withBackground ? 'with' : 'without'}
            options={[
              { value: 'with', label: 'With background' },
              { value: 'without', label: 'Without' },
            ]}
            onChange={(value) => change({ withBackground: value === 'with' })}
          />
          <GroundWords recipe={recipe} />
          {everySound(project).length > 0 && (
            <p className="text-soft text-xs">Only the picture is handed over, without the film’s sound.</p>
          )}
          {project.checks.holdColours && (
            <p className="text-soft text-xs">
              Colours are held within {project.checks.holdColours.from}–{project.checks.holdColours.to}, as set in Check; the drawings stay
              as they are.
            </p>
          )}
        </div>
        <div className="space-y-2.5 border-line border-t pt-4">
          <h2 className="font-bold">Format</h2>
          <div className="space-y-1.5">
            <FormatChoices recipe={recipe} onChange={(formatId) => change({ formatId })} />
          </div>
          <p className="numbers text-xs">
            {sizeText(project.size)} · {rateFraction(project.rate)}
          </p>
        </div>
        {plan.ok && (
          <div className="space-y-1.5 border-line border-t pt-4">
            <h2 className="font-bold">Names</h2>
            <FileNames recipe={recipe} plan={plan.value} />
          </div>
        )}
      </div>
      <div className="shrink-0 border-line border-t p-4">
        <div className="mb-3 max-h-44 space-y-1.5 overflow-y-auto empty:hidden">
          <Refusals />
          {undrawn.length > 0 && (
            <p className="rounded-lg bg-sunk p-2 text-soft text-xs">
              {plural(undrawn.length, 'drawing')} in it {undrawn.length === 1 ? 'is' : 'are'} planned and not drawn yet, and will be blank:{' '}
              {undrawn.slice(0, MOST_NAMED).join(', ')}
              {undrawn.length > MOST_NAMED && ` and ${undrawn.length - MOST_NAMED} more`}.
            </p>
          )}
        </div>
        <Button kind="go" disabled={!plan.ok || isRunning} onClick={() => void handOver(recipe)} className="min-h-9 px-4 text-sm">
          {plan.ok ? `Hand over ${plural(plan.value.frames, 'frame')}` : 'Hand over'}
        </Button>
      </div>
    </section>
  );
}
