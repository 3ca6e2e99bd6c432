'use client';
import { Brush as BrushIcon, Eraser, Lasso, PaintBucket, Pipette, Redo2, SlidersHorizontal, Undo2 } from 'lucide-react';
import { Popover } from 'radix-ui';
import { memo, type ReactNode } from 'react';
import { LARGEST_BRUSH_PX } from '@/features/commands/drawCommands';
import { commandCalled } from '@/features/commands/everyCommand';
import { useKeyStore, withKey } from '@/features/commands/keyStore';
import { PaletteRow } from '@/features/draw/PaletteRow';
import { type Brush, type Tool, useViewStore } from '@/features/project/viewStore';
import { useProjectStore } from '@/features/sync/projectStore';
import { Choice } from '@/ui/Choice';
import { Slider } from '@/ui/Slider';

const TOOL_ICONS: readonly (readonly [Tool, string, ReactNode])[] = [
  ['brush', 'Brush', <BrushIcon key="brush" size={17} />],
  ['eraser', 'Eraser', <Eraser key="eraser" size={17} />],
  ['fill', 'Fill', <PaintBucket key="fill" size={17} />],
  ['colour', 'Pick a colour', <Pipette key="colour" size={17} />],
  ['part', 'Select and move', <Lasso key="part" size={17} />],
];

const BORDERS = [
  { value: 'drawing', label: 'This drawing' },
  { value: 'all', label: 'All that shows' },
] as const;

function CommandButton({
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
  const command = commandCalled(id);
  useKeyStore((state) => state.changed);
  return (
    <button
      type="button"
      aria-label={label}
      aria-pressed={pressed}
      title={withKey(label, command)}
      disabled={disabled}
      onClick={command.run}
      className={`flex size-[30px] shrink-0 items-center justify-center rounded-lg disabled:opacity-40 ${pressed ? 'bg-ink text-paper' : 'hover:bg-sunk'}`}
    >
      {children}
    </button>
  );
}

type Setting = {
  label: string;
  unit: string;
  property: 'hardnessPercent' | 'smoothingPercent' | 'taperPx' | 'gapPx' | 'tolerance';
  most: number;
  hint: string;
};

const SETTINGS: Readonly<Partial<Record<Tool, readonly Setting[]>>> = {
  brush: [
    { label: 'Hardness', unit: '%', property: 'hardnessPercent', most: 100, hint: 'How sharp the line’s edge is' },
    { label: 'Smoothing', unit: '%', property: 'smoothingPercent', most: 100, hint: 'How much a shaking line is calmed' },
    { label: 'Taper', unit: 'px', property: 'taperPx', most: 200, hint: 'How long the line thins out at both ends' },
  ],
  eraser: [
    { label: 'Hardness', unit: '%', property: 'hardnessPercent', most: 100, hint: 'How sharp the edge is' },
    { label: 'Smoothing', unit: '%', property: 'smoothingPercent', most: 100, hint: 'How much a shaking line is calmed' },
  ],
  fill: [
    { label: 'Closes gaps', unit: 'px', property: 'gapPx', most: 40, hint: 'Gaps in the line up to this wide hold the colour back' },
    { label: 'Tolerance', unit: '', property: 'tolerance', most: 128, hint: 'How different a pixel may be and still be filled' },
  ],
};

/** What else can be said about the tool in the hand. */
function ToolSettings({ brush, change }: { brush: Brush; change: (part: Partial<Brush>) => void }) {
  const settings = SETTINGS[brush.tool];
  if (!settings) return null;
  return (
    <Popover.Root>
      <Popover.Trigger
        aria-label="More about this tool"
        title="More about this tool"
        className="flex size-[30px] shrink-0 items-center justify-center rounded-lg hover:bg-sunk"
      >
        <SlidersHorizontal size={16} />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content side="top" sideOffset={10} className="panel z-50 w-80 space-y-2.5 p-3.5 shadow-xl">
          {settings.map(({ label, unit, property, most, hint }) => (
            <div key={property} title={hint} className="grid grid-cols-[84px_1fr_44px] items-center gap-2 text-xs">
              <span>{label}</span>
              <Slider label={label} value={brush[property]} min={0} max={most} onChange={(value) => change({ [property]: value })} />
              <span className="numbers text-right">
                {brush[property]} {unit}
              </span>
            </div>
          ))}
          {brush.tool === 'fill' && (
            <div className="flex items-center justify-between gap-2 text-xs">
              <span>Borders from</span>
              <Choice
                label="Where a fill looks for its borders"
                value={brush.borders}
                options={BORDERS}
                onChange={(borders) => change({ borders })}
              />
            </div>
          )}
          {brush.tool === 'brush' && (
            <p className="text-2xs text-soft">With Shift a stroke is a straight line. A pen’s pressure and tilt make it wider.</p>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** The tools, near the hand; not made anew with the stage they stand on. */
export const ToolRail = memo(function ToolRail() {
  const brush = useViewStore((state) => state.brush);
  const canUndo = useProjectStore((state) => state.undo.length > 0);
  const canRedo = useProjectStore((state) => state.redo.length > 0);
  const change = (part: Partial<typeof brush>) => useViewStore.setState({ brush: { ...brush, ...part } });
  const eraser = brush.tool === 'eraser';
  const size = eraser ? brush.eraserPx : brush.sizePx;
  return (
    <div
      role="toolbar"
      aria-label="Tools"
      className="panel flex max-w-full flex-wrap items-center justify-center gap-0.5 px-2 py-1.5 shadow-[0_6px_18px_rgba(29,42,35,0.10)]"
    >
      {TOOL_ICONS.map(([id, label, icon]) => (
        <CommandButton key={id} id={id} label={label} pressed={brush.tool === id}>
          {icon}
        </CommandButton>
      ))}
      <span className="mx-0.5 h-6 w-px shrink-0 bg-line" />
      <div className="w-16 shrink-0 px-0.5">
        <Slider
          label={eraser ? 'Size of the eraser' : 'Size of the brush'}
          value={size}
          min={1}
          max={LARGEST_BRUSH_PX}
          onChange={(value) => change(eraser ? { eraserPx: value } : { sizePx: value })}
        />
      </div>
      <span className="numbers w-10 shrink-0 text-xs">{size} px</span>
      <ToolSettings brush={brush} change={change} />
      <span className="mx-0.5 h-6 w-px shrink-0 bg-line" />
      <PaletteRow />
      <span className="mx-0.5 h-6 w-px shrink-0 bg-line" />
      <CommandButton id="undo" label="Undo" disabled={!canUndo}>
        <Undo2 size={17} />
      </CommandButton>
      <CommandButton id="redo" label="Redo" disabled={!canRedo}>
        <Redo2 size={17} />
      </CommandButton>
    </div>
  );
});
