'use client';
import { ArrowDown, ArrowUp, Plus, X } from 'lucide-react';
import { type EffectKind, type FinishEffect, LAY_MODES, type LayMode, MOST_DEVIATION_PX } from '@/core/document/finish';
import type { Project } from '@/core/document/model';
import { addEffect, changeEffect, newEffect, STARTING_POINTS } from '@/core/finish/finishEdits';
import { VIDEO_RANGES } from '@/core/raster/range';
import { plural } from '@/core/time/counts';
import { hint } from '@/features/commands/everyCommand';
import { takeOnReel } from '@/features/commands/reelCommands';
import { newId } from '@/features/project/editContext';
import { useProject } from '@/features/project/hooks';
import { useViewStore } from '@/features/project/viewStore';
import { make } from '@/features/sync/session';
import { Button } from '@/ui/Button';
import { CommitCell } from '@/ui/CommitCell';
import { Select } from '@/ui/Select';

const NAMES: Readonly<Record<EffectKind['kind'], string>> = {
  blur: 'Blur',
  layOver: 'Laid over itself',
  holdColours: 'Colours held in range',
};

const MODE_OPTIONS = LAY_MODES.map((mode) => ({ value: mode, label: mode === 'plus-lighter' ? 'plus lighter' : mode.replace('-', ' ') }));
const [FIRST_RANGE = { range: { from: 16, to: 235 }, name: '' }] = VIDEO_RANGES;
const RANGE_OPTIONS = VIDEO_RANGES.map(({ name }) => ({ value: name, label: name }));

const FIELD = 'numbers w-14 border-line! bg-paper! text-right';

type NumberProps = { label: string; unit: string; value: number; most: number; onChange: (value: number) => void };

/** A number of an effect that is written over. */
function EffectNumber({ label, unit, value, most, onChange }: NumberProps) {
  const commit = (text: string) => {
    const next = Number(text.replace(',', '.'));
    if (text.trim() !== '' && Number.isFinite(next)) onChange(Math.max(0, Math.min(most, Math.round(next * 10) / 10)));
  };
  return (
    <div className="flex items-center justify-between gap-2 text-xs">
      <span className="text-soft">{label}</span>
      <span className="flex items-center gap-1">
        <CommitCell label={`${label}, ${unit}`} value={String(value)} onCommit={commit} className={FIELD} />
        <span className="w-4 text-soft">{unit}</span>
      </span>
    </div>
  );
}

/** What can be set about an effect. */
function EffectValues({ effect, onChange }: { effect: FinishEffect; onChange: (effect: FinishEffect) => void }) {
  if (effect.kind === 'holdColours') {
    const known = VIDEO_RANGES.find(({ range }) => range.from === effect.range.from && range.to === effect.range.to);
    const own = `${effect.range.from}–${effect.range.to}`;
    return (
      <Select
        label="Red, green and blue within"
        value={known?.name ?? own}
        options={known ? RANGE_OPTIONS : [{ value: own, label: own }, ...RANGE_OPTIONS]}
        onChange={(name) => onChange({ ...effect, range: VIDEO_RANGES.find((each) => each.name === name)?.range ?? effect.range })}
      />
    );
  }
  const deviation = (
    <EffectNumber
      label="Blurred by"
      unit="px"
      value={effect.deviationPx}
      most={MOST_DEVIATION_PX}
      onChange={(deviationPx) => onChange({ ...effect, deviationPx })}
    />
  );
  if (effect.kind === 'blur') return deviation;
  return (
    <>
      {deviation}
      <Select<LayMode> label="Blend mode" value={effect.mode} options={MODE_OPTIONS} onChange={(mode) => onChange({ ...effect, mode })} />
      <EffectNumber
        label="Opacity"
        unit="%"
        value={effect.opacityPercent}
        most={100}
        onChange={(value) => onChange({ ...effect, opacityPercent: Math.round(value) })}
      />
    </>
  );
}

/** One effect: what it is, where it is seen, its place among the others. */
function EffectCard({ project, effect, place }: { project: Project; effect: FinishEffect; place: number }) {
  const { finish } = project;
  const name = NAMES[effect.kind];
  const onChange = (next: FinishEffect) => takeOnReel(changeEffect(project, next));
  const move = (by: -1 | 1) => make({ type: 'moveEffect', effectId: effect.id, index: place + by });
  return (
    <li className="space-y-1.5 rounded-lg border border-line bg-paper p-2.5">
      <div className="flex items-center gap-1">
        <h3 className="min-w-0 flex-1 truncate font-semibold text-xs">
          {place + 1}. {name}
        </h3>
        <Button tight kind="quiet" disabled={place === 0} onClick={() => move(-1)} aria-label={`${name} before the one above`}>
          <ArrowUp size={13} />
        </Button>
        <Button
          tight
          kind="quiet"
          disabled={place === finish.length - 1}
          onClick={() => move(1)}
          aria-label={`${name} after the one below`}
        >
          <ArrowDown size={13} />
        </Button>
        <Button
          tight
          kind="quiet"
          onClick={() => make({ type: 'setEffect', effectId: effect.id, effect: null, index: place })}
          aria-label={`Take ${name} out`}
        >
          <X size={13} />
        </Button>
      </div>
      <EffectValues effect={effect} onChange={onChange} />
      <div className="flex gap-4 pt-0.5 text-xs">
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={effect.inPreview}
            onChange={(event) => onChange({ ...effect, inPreview: event.target.checked })}
          />
          seen here
        </label>
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={effect.inHandover}
            onChange={(event) => onChange({ ...effect, inHandover: event.target.checked })}
          />
          handed over
        </label>
      </div>
    </li>
  );
}

/** What lies over the whole picture of the film, in its order. */
export function FinishPanel() {
  const project = useProject();
  const { finish } = project;
  const bare = project.reel.items.filter((item) => !item.finished).length;
  const add = (kind: EffectKind) => takeOnReel({ ok: true, value: addEffect(project, newEffect(newId(), kind)) });
  const differs = finish.some(({ inPreview, inHandover }) => inPreview !== inHandover);
  return (
    <div className="space-y-3 overflow-y-auto p-3">
      <div>
        <div className="flex items-center justify-between gap-2">
          <h2 className="font-bold">Over the whole picture</h2>
          {finish.length > 0 && (
            <Button
              tight
              title={hint('Hold to see the picture without it', 'finish-off')}
              onPointerDown={() => useViewStore.setState({ finishOff: true })}
              onPointerUp={() => useViewStore.setState({ finishOff: false })}
              onPointerLeave={() => useViewStore.setState({ finishOff: false })}
            >
              Hold to see without
            </Button>
          )}
        </div>
        <p className="text-soft text-xs">
          {finish.length === 0
            ? 'Nothing lies over the film yet: it leaves as it is drawn. Start with one of these.'
            : 'The first is done first.'}
        </p>
      </div>
      <div className="flex flex-wrap gap-1">
        {STARTING_POINTS.map(({ name, about, effect }) => (
          <Button key={name} tight onClick={() => add(effect)} title={`${name}: ${about}`}>
            <Plus size={12} /> {name}
          </Button>
        ))}
        <Button tight onClick={() => add({ kind: 'blur', deviationPx: 4 })}>
          <Plus size={12} /> Blur
        </Button>
        <Button tight onClick={() => add({ kind: 'layOver', deviationPx: 8, mode: 'screen', opacityPercent: 30 })}>
          <Plus size={12} /> Laid over itself
        </Button>
        <Button tight onClick={() => add({ kind: 'holdColours', range: FIRST_RANGE.range })}>
          <Plus size={12} /> Colours in range
        </Button>
      </div>
      <ol aria-label="Effects over the picture" className="space-y-2">
        {finish.map((effect, place) => (
          <EffectCard key={effect.id} project={project} effect={effect} place={place} />
        ))}
      </ol>
      {differs && <p className="text-rust text-xs">What is seen here is not what is handed over: see the marks above.</p>}
      {finish.length > 0 && bare > 0 && <p className="text-soft text-xs">{plural(bare, 'item')} of the reel without it.</p>}
    </div>
  );
}
