'use client';
import { X } from 'lucide-react';
import { memo } from 'react';
import { type Level, levelById, type Shot } from '@/core/document/model';
import { MOST_NEIGHBOURS, type OnionLook, whyNoOnion } from '@/core/sheet/onion';
import { drawingShownAt } from '@/core/sheet/reading';
import { drawingWords } from '@/core/words';
import { commandCalled, hint } from '@/features/commands/everyCommand';
import { useFrameOf, useLevel } from '@/features/project/hooks';
import { useSoon } from '@/features/project/useCalm';
import { changeOnion, useViewStore } from '@/features/project/viewStore';
import { useOpaque } from '@/features/sheet/useOpaque';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { Slider } from '@/ui/Slider';

const BY = [
  { value: 'drawing', label: 'By drawing', title: 'Neighbours are other drawings, however long they are held' },
  { value: 'frame', label: 'By frame', title: 'Neighbours are the frames next to this one' },
] as const;

const STEP = 'size-6 shrink-0 rounded border border-line bg-sunk leading-none disabled:opacity-40';

/** One side of the onion skin: how many, in which tint and look, how strongly. */
function SideRow({ which }: { which: 'before' | 'after' }) {
  const onion = useViewStore((state) => state.onion);
  const before = which === 'before';
  const count = onion[which];
  const percent = before ? onion.beforePercent : onion.afterPercent;
  const look = before ? onion.beforeLook : onion.afterLook;
  const reach = (by: number) => changeOnion({ [which]: Math.max(0, Math.min(MOST_NEIGHBOURS, count + by)) });
  const other: OnionLook = look === 'filled' ? 'outline' : 'filled';
  return (
    <div className="grid grid-cols-[116px_24px_24px_minmax(24px,1fr)_20px] items-center gap-1">
      <span className="flex items-center gap-1">
        <button type="button" aria-label={`One fewer ${which}`} onClick={() => reach(-1)} disabled={count === 0} className={STEP}>
          −
        </button>
        <span className={`numbers whitespace-nowrap text-center text-xs ${before ? 'text-ochre' : 'text-violet'}`}>
          {count} {which}
        </span>
        <button
          type="button"
          aria-label={`One more ${which}`}
          onClick={() => reach(1)}
          disabled={count === MOST_NEIGHBOURS}
          className={STEP}
        >
          +
        </button>
      </span>
      <input
        type="color"
        aria-label={`Tint of what is ${which}`}
        title={`Tint of what is ${which}`}
        value={before ? onion.beforeTint : onion.afterTint}
        onChange={(event) => changeOnion(before ? { beforeTint: event.target.value } : { afterTint: event.target.value })}
        className="size-6 cursor-pointer rounded border border-line"
      />
      <button
        type="button"
        aria-label={`What is ${which}: ${look}`}
        title={look === 'filled' ? 'Filled; press for lines only' : 'Lines only; press for filled'}
        onClick={() => changeOnion(before ? { beforeLook: other } : { afterLook: other })}
        className="flex size-6 items-center justify-center rounded border border-line hover:border-edge"
      >
        <span className={`block size-2.5 rounded-[3px] border-2 border-soft ${look === 'filled' ? 'bg-soft' : ''}`} />
      </button>
      <Slider
        label={`Strength ${which}`}
        tone={before ? 'ochre' : 'violet'}
        value={percent}
        min={0}
        max={100}
        step={5}
        onChange={(value) => changeOnion(before ? { beforePercent: value } : { afterPercent: value })}
      />
      <span className="numbers text-right text-2xs">{percent}</span>
    </div>
  );
}

/** Drawings pinned to be compared with, each with a press to let it go. */
function Pinned({ shot }: { shot: Shot }) {
  const pinned = useViewStore((state) => state.onion.pinned);
  const shown = pinned.flatMap(({ levelId, drawingId }) => {
    const level = levelById(shot, levelId);
    const drawing = level?.drawings.find((candidate) => candidate.id === drawingId);
    return level && drawing ? [{ drawingId, words: drawingWords(level.name, drawing.number) }] : [];
  });
  return (
    <div className="flex flex-wrap items-center gap-1">
      <button
        type="button"
        onClick={commandCalled('pin').run}
        title={hint('Pin the current drawing, to keep its size in sight; press again to unpin it', 'pin')}
        className="min-h-6 rounded-lg border border-line bg-sunk px-2 py-0.5 font-semibold text-2xs hover:border-edge"
      >
        Pin this
      </button>
      {shown.map(({ drawingId, words }) => (
        <button
          key={drawingId}
          type="button"
          aria-label={`Unpin ${words}`}
          title="Unpin"
          onClick={() => changeOnion({ pinned: pinned.filter((each) => each.drawingId !== drawingId) })}
          className="numbers flex min-h-6 items-center gap-1 rounded-full border border-teal px-1.5 text-2xs text-teal"
        >
          {words} <X size={10} />
        </button>
      ))}
    </div>
  );
}

/** Why nothing shines through at the current frame, or how its reach is changed. */
function ReachWords({ shot, level }: { shot: Shot; level: Level | undefined }) {
  const frame = Math.min(useSoon(useFrameOf(shot)), shot.frames - 1);
  const onion = useViewStore((state) => state.onion);
  const drawing = level && drawingShownAt(level, frame);
  // The onion skin lies below the drawing: one without any transparency covers it.
  const isCovered = useOpaque(onion.on ? (drawing?.picture ?? null) : null) && level?.opacityPercent === 100;
  const why = whyNoOnion(shot, level, frame, onion) ?? (isCovered ? `drawing ${drawing?.number} has no transparency and covers it` : null);
  return (
    <p className="min-h-4 text-2xs text-soft">
      {why ? `Nothing shows: ${why}.` : 'Its reach is the bracket on the sheet: pull its ends, press it to switch one off.'}
    </p>
  );
}

/** What holds for every drawing: which neighbours shine through, how they look and how strongly. Not made anew with what is drawn. */
const OnionSettings = memo(function OnionSettings() {
  const onion = useViewStore((state) => state.onion);
  return (
    <>
      <div className="flex items-center justify-between">
        <h2 className="font-bold">Onion skin</h2>
        <Button
          aria-pressed={onion.on}
          onClick={() => changeOnion({ on: !onion.on })}
          title={hint('Onion skin on or off', 'onion')}
          kind={onion.on ? 'dark' : 'plain'}
        >
          {onion.on ? 'On' : 'Off'}
        </Button>
      </div>
      <SideRow which="before" />
      <SideRow which="after" />
      <div className="grid grid-cols-[104px_1fr_26px] items-center gap-1">
        <span className="text-xs" title="How much each further neighbour is fainter than the one before">
          fades by, %
        </span>
        <Slider
          label="Fades by"
          value={onion.fadePercent}
          min={0}
          max={90}
          step={5}
          onChange={(fadePercent) => changeOnion({ fadePercent })}
        />
        <span className="numbers text-right text-2xs">{onion.fadePercent}</span>
      </div>
      <div className="flex items-center justify-between gap-2">
        <Choice label="How neighbours are counted" value={onion.by} options={BY} onChange={(by) => changeOnion({ by })} />
      </div>
    </>
  );
});

/** Other levels whose neighbours may shine through as well. */
function AlsoOf({ others }: { others: readonly Level[] }) {
  const alsoLevelIds = useViewStore((state) => state.onion.alsoLevelIds);
  if (others.length === 0) return null;
  return (
    <fieldset className="flex flex-wrap items-center gap-x-2 gap-y-0.5 text-2xs">
      <legend className="float-left mr-2 text-soft">also of</legend>
      {others.map(({ id, name }) => {
        const on = alsoLevelIds.includes(id);
        return (
          <label key={id} className="flex cursor-pointer items-center gap-1">
            <input
              type="checkbox"
              checked={on}
              onChange={() => changeOnion({ alsoLevelIds: on ? alsoLevelIds.filter((each) => each !== id) : [...alsoLevelIds, id] })}
            />
            {name}
          </label>
        );
      })}
    </fieldset>
  );
}

/** The onion skin: which neighbours shine through, of which levels, and why none does. */
export function OnionPanel({ shot }: { shot: Shot }) {
  const level = useLevel();
  return (
    <section aria-label="Onion skin" className="space-y-1.5 p-3.5">
      <OnionSettings />
      <Pinned shot={shot} />
      <AlsoOf others={shot.levels.filter((other) => other.kind === 'animated' && other.id !== level?.id)} />
      <ReachWords shot={shot} level={level} />
    </section>
  );
}
