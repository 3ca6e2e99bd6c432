'use client';
import { Fragment, useMemo } from 'react';
import { effectWords } from '@/core/document/finish';
import { sizeText } from '@/core/document/size';
import { done, type Outcome } from '@/core/outcome';
import { CONTAINERS, type Container, optionsIn } from '@/core/output/film';
import { type FormatOptions, formatChoices, formatOf, isTransparent } from '@/core/output/format';
import { isLoopKind, loopOptionsIn } from '@/core/output/loop';
import { PICTURE_KINDS, type PictureKind, pictureOptionsIn, startPictureOptions } from '@/core/output/pictures';
import { chosenRange, framesToChoose, type NamedLeaving, type Recipe, recipeOf } from '@/core/output/recipe';
import type { RenderPlan } from '@/core/render/renderPlan';
import { undrawnIn } from '@/core/render/undrawn';
import { countText, lengthSentence, plural } from '@/core/time/counts';
import { rateFraction } from '@/core/time/rate';
import { someOf } from '@/core/words';
import { FilmPanel } from '@/features/handover/FilmPanel';
import { formatFor, useHandoverStore } from '@/features/handover/handoverStore';
import { handOver } from '@/features/handover/queueStore';
import { SavedRecipes } from '@/features/handover/SavedRecipes';
import { TakingPanel } from '@/features/handover/TakingPanel';
import { WhichFrames } from '@/features/handover/WhichFrames';
import { WhichLevel } from '@/features/handover/WhichLevel';
import { DeskSwitch } from '@/features/path/DeskSwitch';
import { useFindings } from '@/features/path/useFindings';
import { useProject, useShot } from '@/features/project/hooks';
import { useProjectStore } from '@/features/sync/projectStore';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { Field } from '@/ui/Field';
import { Later, part } from '@/ui/later';
import { FORMATS } from '@/workers/client';

// A film is asked for first.
const loopPanel = part(async () => (await import('@/features/handover/LoopPanel')).LoopPanel);
const nameParts = part(async () => (await import('@/features/handover/NameParts')).NameParts);
const picturesPanel = part(async () => (await import('@/features/handover/PicturesPanel')).PicturesPanel);
const timingPanel = part(async () => (await import('@/features/handover/TimingPanel')).TimingPanel);
const wholeProject = part(async () => (await import('@/features/handover/WholeProject')).WholeProject);

function GroundWords({ recipe }: { recipe: Recipe }) {
  const isClear = isTransparent(formatFor(recipe), recipe.options);
  if (recipe.levelId !== null)
    return (
      <p className="text-soft text-xs">
        That level alone, at full opacity, without the finish and without sound{isClear ? ', with transparency' : ', on white'}.
      </p>
    );
  const words = recipe.withBackground
    ? 'Still and animated levels on white paper. Guides are never handed over.'
    : isClear
      ? 'Animated levels only, with transparency.'
      : 'Animated levels only, on white.';
  return <p className="text-soft text-xs">{words}</p>;
}

/** The names of what is written: of the first, the middle and the last file, where there are several. */
function FileNames({ names: { whole, pictures } }: { names: NamedLeaving['names'] }) {
  if (pictures.length === 0) return <p className="numbers break-all text-xs">{whole}</p>;
  const middle = pictures.length > 2 ? pictures[Math.floor(pictures.length / 2)] : null;
  return (
    <div className="numbers break-all text-soft text-xs">
      {whole && <p className="text-ink">{whole}, holding</p>}
      <p>{pictures[0]}</p>
      {middle && <p>{middle}</p>}
      {pictures.length > 1 && <p>{pictures.at(-1)}</p>}
      <p>{pictures.length > 1 ? `${countText(pictures.length)} files, no clashes` : '1 file'}</p>
    </div>
  );
}

/** Every format there is, by group. */
const FormatChoices = ({ recipe, onChange }: { recipe: Recipe; onChange: (formatId: string) => void }) =>
  formatChoices(FORMATS).map(({ group, label, words, options }) => (
    <Fragment key={group}>
      <p className="text-soft text-xs">{words}</p>
      <Choice label={label} value={recipe.formatId} options={options} onChange={onChange} />
    </Fragment>
  ));

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

const isContainer = (formatId: string): formatId is Container => CONTAINERS.some((container) => container === formatId);

const isPictureKind = (formatId: string): formatId is PictureKind => PICTURE_KINDS.some((kind) => kind === formatId);

/** What is asked of another format: what was asked of the last, as far as it carries that. */
function optionsFor(formatId: string, { options }: Recipe): FormatOptions {
  if (options.kind === 'film' && isContainer(formatId)) return optionsIn(formatId, options);
  // How far pixels are kept is a matter of the kind: a JPEG's quality is none of a WebP's.
  if (options.kind === 'pictures' && isPictureKind(formatId))
    return { ...pictureOptionsIn(formatId, options), quality: startPictureOptions(formatId).quality };
  if (options.kind === 'loop' && isLoopKind(formatId)) return loopOptionsIn(formatId, options);
  return formatOf(FORMATS, formatId)?.start ?? options;
}

const areFilesApart = ({ options }: Recipe): boolean =>
  options.kind === 'pictures' && (options.each === 'drawing' || options.split === 'levels');

/** How much leaves: frames and how long they last, or files where one is for a drawing or a level. */
const leavingWords = (recipe: Recipe, plan: RenderPlan): string =>
  areFilesApart(recipe)
    ? `${plural(plan.frames, 'file')} of ${plural(plan.stacks.length, 'distinct picture')}`
    : recipe.options.kind === 'loop'
      ? `${lengthSentence(plan.frames, plan.rate)}, as ${plural(plan.runs.length, 'picture')}`
      : lengthSentence(plan.frames, plan.rate);

/** What the button does: frames that leave, or files where one is for a drawing or a level. */
function handOverWords(recipe: Recipe, plan: Outcome<RenderPlan>): string {
  return plan.ok ? `Hand over ${plural(plan.value.frames, areFilesApart(recipe) ? 'file' : 'frame')}` : 'Hand over';
}

const MOST_NAMED = 6;

/** Hands over once more by what the last receipt was asked for. */
function AsLastTime() {
  const project = useProject();
  const last = useProjectStore((state) => state.receipts[0]);
  const recipe = last && recipeOf(project, last, formatOf(FORMATS, last.formatId));
  if (!last || !recipe) return null;
  return (
    <Button
      title={`As for ${last.fileName}`}
      onClick={() => {
        useHandoverStore.setState({ recipe });
        void handOver(recipe);
      }}
      className="ml-2 min-h-9 px-3"
    >
      As last time
    </Button>
  );
}

/** What leaves and as what, in plain words; the names before anything is written; the button. */
export function RecipePanel({ leaving }: { leaving: Outcome<NamedLeaving> }) {
  const plan = leaving.ok ? done(leaving.value.plan) : leaving;
  const project = useProject();
  const shot = useShot();
  const recipe = useHandoverStore((state) => state.recipe);
  const change = (part: Partial<Recipe>) => useHandoverStore.setState({ recipe: { ...recipe, ...part } });
  const total = framesToChoose(project, recipe.shotId);
  const first = project.firstFrameNumber;
  const undrawn = useMemo(
    () =>
      plan.ok && recipe.levelId === null
        ? undrawnIn(project, { shotId: recipe.shotId, withBackground: recipe.withBackground, ...chosenRange(project, recipe) })
        : [],
    [plan, project, recipe],
  );
  return (
    <section aria-label="Recipe" className="panel flex flex-col overflow-hidden">
      <div className="min-h-0 flex-1 space-y-4 overflow-y-auto p-4">
        <DeskSwitch isCounting={false} />
        <div className="space-y-2.5">
          <h2 className="font-bold">What to hand over</h2>
          <SavedRecipes recipe={recipe} />
          <Choice
            label="From"
            value={recipe.shotId === null ? 'reel' : 'shot'}
            options={[
              { value: 'reel', label: `Whole reel, ${plural(project.shots.length, 'shot')}` },
              { value: 'shot', label: `Shot ${shot?.code ?? ''} alone`, disabled: !shot },
            ]}
            onChange={(value) => change({ shotId: value === 'shot' ? (shot?.id ?? null) : null, levelId: null, fromText: '', toText: '' })}
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
          {recipe.shotId !== null && shot && <WhichLevel recipe={recipe} shot={shot} onChange={change} />}
          <WhichFrames recipe={recipe} onChange={change} />
          {plan.ok ? <p className="text-xs">{leavingWords(recipe, plan.value)}</p> : <p className="text-rust text-xs">{plan.reason}</p>}
          {recipe.levelId === null && (
            <Choice
              label="Background"
              value={recipe.withBackground ? 'with' : 'without'}
              options={[
                { value: 'with', label: 'With background' },
                { value: 'without', label: 'Without' },
              ]}
              onChange={(value) => change({ withBackground: value === 'with' })}
            />
          )}
          <GroundWords recipe={recipe} />
          <TakingPanel taking={recipe.taking} onChange={(taking) => change({ taking })} />
          {plan.ok && plan.value.finish.length > 0 && (
            <p className="text-soft text-xs">
              Finished as set in Assemble: {plan.value.finish.map(effectWords).join('; ')}. The drawings stay as they are.
            </p>
          )}
        </div>
        <div className="space-y-2.5 border-line border-t pt-4">
          <h2 className="font-bold">Format</h2>
          <div className="space-y-1.5">
            <FormatChoices recipe={recipe} onChange={(formatId) => change({ formatId, options: optionsFor(formatId, recipe) })} />
          </div>
          {recipe.options.kind === 'film' && isContainer(recipe.formatId) && (
            <FilmPanel
              container={recipe.formatId}
              options={recipe.options}
              onChange={(options) => change({ options })}
              isHeard={leaving.ok && leaving.value.heard !== null}
              withBackground={recipe.withBackground}
            />
          )}
          {recipe.options.kind === 'pictures' && isPictureKind(recipe.formatId) && (
            <Later
              of={picturesPanel}
              props={{
                kind: recipe.formatId,
                options: recipe.options,
                onChange: (options) => change({ options }),
                onReel: recipe.shotId === null,
              }}
            />
          )}
          {recipe.options.kind === 'loop' && isLoopKind(recipe.formatId) && (
            <Later
              of={loopPanel}
              props={{
                kind: recipe.formatId,
                options: recipe.options,
                onChange: (options) => change({ options }),
                plan: plan.ok ? plan.value : null,
                withBackground: recipe.withBackground && recipe.levelId === null,
              }}
            />
          )}
          <p className="numbers text-xs">
            {sizeText(plan.ok ? plan.value.size : project.size)} · {rateFraction(plan.ok ? plan.value.rate : project.rate)}
          </p>
        </div>
        {(plan.ok || recipe.options.kind === 'pictures') && (
          <div className="space-y-1.5 border-line border-t pt-4">
            <h2 className="font-bold">Names</h2>
            {recipe.options.kind === 'pictures' && (
              <Later of={nameParts} props={{ options: recipe.options, onChange: (options) => change({ options }) }} />
            )}
            {leaving.ok && <FileNames names={leaving.value.names} />}
          </div>
        )}
        <Later of={timingPanel} props={{}} />
        <Later of={wholeProject} props={{}} />
      </div>
      <div className="shrink-0 border-line border-t p-4">
        <div className="-mx-1 -mt-1 mb-2 max-h-46 space-y-1.5 overflow-y-auto p-1 empty:hidden">
          <Refusals />
          {undrawn.length > 0 && (
            <p className="rounded-lg bg-sunk p-2 text-soft text-xs">
              {plural(undrawn.length, 'drawing')} in it {undrawn.length === 1 ? 'is' : 'are'} planned and not drawn yet, and will be blank:{' '}
              {someOf(undrawn, MOST_NAMED)}.
            </p>
          )}
        </div>
        <Button kind="go" disabled={!plan.ok} onClick={() => void handOver(recipe)} className="min-h-9 px-4 text-sm">
          {handOverWords(recipe, plan)}
        </Button>
        <AsLastTime />
      </div>
    </section>
  );
}
