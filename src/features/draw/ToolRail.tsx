'use client';
import { Brush as BrushIcon, Eraser, Redo2, Undo2 } from 'lucide-react';
import type { ReactNode } from 'react';
import { keyText } from '@/features/acts/act';
import { LARGEST_BRUSH_PX } from '@/features/acts/drawActs';
import { actCalled } from '@/features/acts/everyAct';
import { useProjectStore } from '@/features/project/projectStore';
import { useViewStore } from '@/features/project/viewStore';
import { Slider } from '@/ui/Slider';

const COLOURS = [
  { value: '#1d2a23', name: 'Ink' },
  { value: '#c4553a', name: 'Brick' },
  { value: '#37808a', name: 'Pond' },
  { value: '#e3b94d', name: 'Straw' },
  { value: '#8fae72', name: 'Grass' },
  { value: '#ffffff', name: 'White' },
] as const;

function ActButton({
  id,
  pressed,
  label,
  disabled,
  children,
}: {
  id: string;
  pressed?: boolean;
  label: string;
  disabled?: boolean;
  children: ReactNode;
}) {
  const { run, keys } = actCalled(id);
  return (
    <button
      type="button"
      aria-label={label}
      aria-pressed={pressed}
      title={`${label} (${keys.map(keyText).join(', ')})`}
      disabled={disabled}
      onClick={run}
      className={`flex size-9 items-center justify-center rounded-lg disabled:opacity-40 ${pressed ? 'bg-ink text-paper' : 'hover:bg-sunk'}`}
    >
      {children}
    </button>
  );
}

/** The tools, near the hand. */
export function ToolRail() {
  const brush = useViewStore((state) => state.brush);
  const undoLeft = useProjectStore((state) => state.undo.length);
  const redoLeft = useProjectStore((state) => state.redo.length);
  const change = (part: Partial<typeof brush>) => useViewStore.setState({ brush: { ...brush, ...part } });
  const eraser = brush.tool === 'eraser';
  const size = eraser ? brush.eraserPx : brush.sizePx;
  return (
    <div role="toolbar" aria-label="Tools" className="panel flex items-center gap-2 px-2.5 py-1.5 shadow-[0_6px_18px_rgba(29,42,35,0.10)]">
      <ActButton id="brush" label="Brush" pressed={!eraser}>
        <BrushIcon size={17} />
      </ActButton>
      <ActButton id="eraser" label="Rub out" pressed={eraser}>
        <Eraser size={17} />
      </ActButton>
      <span className="mx-1 h-6 w-px bg-line" />
      <div className="w-24">
        <Slider
          label={eraser ? 'Size of the eraser' : 'Size of the brush'}
          value={size}
          min={1}
          max={LARGEST_BRUSH_PX}
          onChange={(value) => change(eraser ? { eraserPx: value } : { sizePx: value })}
        />
      </div>
      <span className="numbers w-11 text-xs">{size} px</span>
      <span className="mx-1 h-6 w-px bg-line" />
      {COLOURS.map(({ value, name }) => (
        <button
          key={value}
          type="button"
          aria-label={name}
          title={name}
          aria-pressed={!eraser && brush.colour === value}
          onClick={() => change({ colour: value, tool: 'brush' })}
          className="flex size-7 items-center justify-center rounded-full aria-pressed:outline-2 aria-pressed:outline-ink aria-pressed:outline-offset-[-1px]"
        >
          <span className="block size-5 rounded-full border border-edge" style={{ background: value }} />
        </button>
      ))}
      <label className="flex size-7 cursor-pointer items-center justify-center rounded-full" title="Another colour">
        <span className="sr-only">Another colour</span>
        <input
          type="color"
          value={brush.colour}
          onChange={(event) => change({ colour: event.target.value, tool: 'brush' })}
          className="size-6 cursor-pointer rounded border border-line"
        />
      </label>
      <span className="mx-1 h-6 w-px bg-line" />
      <ActButton id="undo" label="Undo" disabled={undoLeft === 0}>
        <Undo2 size={17} />
      </ActButton>
      <ActButton id="redo" label="Redo" disabled={redoLeft === 0}>
        <Redo2 size={17} />
      </ActButton>
    </div>
  );
}
