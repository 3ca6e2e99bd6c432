'use client';
import { Plus } from 'lucide-react';
import { changePalette } from '@/features/commands/drawCommands';
import { hint } from '@/features/commands/everyCommand';
import { useProject } from '@/features/project/hooks';
import { useViewStore } from '@/features/project/viewStore';

const NAMES: Readonly<Record<string, string>> = {
  '#1d2a23': 'Ink',
  '#c4553a': 'Brick',
  '#37808a': 'Pond',
  '#e3b94d': 'Straw',
  '#8fae72': 'Grass',
  '#ffffff': 'White',
};

/** The project's palette with the brush's own colour: press to draw with one, with Alt to take it out of the palette. */
export function PaletteRow() {
  const { palette } = useProject();
  const brush = useViewStore((state) => state.brush);
  const draws = brush.tool === 'brush' || brush.tool === 'fill';
  const takeColour = (colour: string) =>
    useViewStore.setState({ brush: { ...brush, colour, tool: brush.tool === 'fill' ? 'fill' : 'brush' } });
  const isNew = !palette.includes(brush.colour);
  return (
    <>
      <fieldset className="-m-1 flex min-w-0 overflow-x-auto p-1" aria-label="Palette">
        {palette.map((colour) => (
          <button
            key={colour}
            type="button"
            aria-label={NAMES[colour] ?? colour}
            title={`${NAMES[colour] ?? colour} (Alt: remove it from the palette)`}
            aria-pressed={draws && brush.colour === colour}
            onClick={(event) => (event.altKey ? changePalette(colour, false) : takeColour(colour))}
            className="flex size-6 shrink-0 items-center justify-center rounded-full aria-pressed:outline-2 aria-pressed:outline-ink aria-pressed:outline-offset-[-1px] focus-visible:aria-pressed:outline-offset-2"
          >
            <span className="block size-[18px] rounded-full border border-edge" style={{ background: colour }} />
          </button>
        ))}
      </fieldset>
      <label className="flex size-[26px] shrink-0 cursor-pointer items-center justify-center rounded-full" title="Another colour">
        <span className="sr-only">Another colour</span>
        <input
          type="color"
          value={brush.colour}
          onChange={(event) => takeColour(event.target.value)}
          className="size-[22px] cursor-pointer rounded border border-line"
        />
      </label>
      <button
        type="button"
        aria-label="Add this colour to the palette"
        title={hint('Add this colour to the palette', 'palette-add')}
        disabled={!isNew}
        onClick={() => changePalette(brush.colour, true)}
        className="flex size-6 shrink-0 items-center justify-center rounded hover:bg-sunk disabled:opacity-40"
      >
        <Plus size={14} />
      </button>
    </>
  );
}
