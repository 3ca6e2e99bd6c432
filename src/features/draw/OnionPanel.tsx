'use client';
import type { Level } from '@/core/sheet/document';
import { whyNoOnion } from '@/features/draw/onion';
import { useViewStore } from '@/features/project/viewStore';
import { Button } from '@/ui/Button';
import { Slider } from '@/ui/Slider';

const MOST = 6;

/** The onion skin: how many drawings before and after shine through, and how strongly. */
export function OnionPanel({ level, frame }: { level: Level | undefined; frame: number }) {
  const onion = useViewStore((state) => state.onion);
  const change = (part: Partial<typeof onion>) => useViewStore.setState({ onion: { ...onion, ...part } });
  const why = whyNoOnion(level, frame, onion);
  const side = (which: 'before' | 'after', colour: string) => {
    const count = onion[which];
    const percent = which === 'before' ? onion.beforePercent : onion.afterPercent;
    const step = (by: number) => change({ [which]: Math.max(0, Math.min(MOST, count + by)) });
    return (
      <div className="grid grid-cols-[104px_1fr_38px] items-center gap-2">
        <span className="flex items-center gap-1">
          <button
            type="button"
            aria-label={`One fewer ${which}`}
            onClick={() => step(-1)}
            disabled={count === 0}
            className="size-5 rounded border border-line bg-sunk leading-none disabled:opacity-40"
          >
            −
          </button>
          <span className={`numbers whitespace-nowrap text-center text-xs ${colour}`}>
            {count} {which}
          </span>
          <button
            type="button"
            aria-label={`One more ${which}`}
            onClick={() => step(1)}
            disabled={count === MOST}
            className="size-5 rounded border border-line bg-sunk leading-none disabled:opacity-40"
          >
            +
          </button>
        </span>
        <Slider
          label={`Strength ${which}`}
          tone={which === 'before' ? 'ochre' : 'violet'}
          value={percent}
          min={0}
          max={100}
          step={5}
          onChange={(value) => change(which === 'before' ? { beforePercent: value } : { afterPercent: value })}
        />
        <span className="numbers text-right text-xs">{percent} %</span>
      </div>
    );
  };
  return (
    <section aria-label="Onion skin" className="space-y-1.5 p-3.5">
      <div className="flex items-center justify-between">
        <h2 className="font-bold">
          Onion skin <span className="font-normal text-soft">by drawing</span>
        </h2>
        <Button
          aria-pressed={onion.on}
          onClick={() => change({ on: !onion.on })}
          title="Onion skin on or off (O)"
          kind={onion.on ? 'dark' : 'plain'}
        >
          {onion.on ? 'On' : 'Off'}
        </Button>
      </div>
      {side('before', 'text-ochre')}
      {side('after', 'text-violet')}
      <p className="min-h-4 text-soft text-xs">{why ? `Nothing shows: ${why}.` : 'Its reach is the bracket on the sheet.'}</p>
    </section>
  );
}
