import { drawingShownAt } from '@/core/sheet/reading';
import { type Command, partOf } from '@/features/commands/command';
import { inView } from '@/features/project/hooks';
import { useReplayStore, watchItDrawn } from '@/features/project/replayPen';
import { changeOnion, type Tool, useViewStore } from '@/features/project/viewStore';
import { make } from '@/features/sync/session';

const group = 'Drawing';
const SIZES_PX = [1, 2, 3, 4, 6, 8, 11, 15, 20, 28, 40, 56, 80] as const;

/** Largest brush, in pixels of the picture. */
export const LARGEST_BRUSH_PX = SIZES_PX[SIZES_PX.length - 1] as number;

function resize(direction: 1 | -1): void {
  useViewStore.setState(({ brush }) => {
    const property = brush.tool === 'eraser' ? 'eraserPx' : 'sizePx';
    const next = direction === 1 ? SIZES_PX.find((size) => size > brush[property]) : SIZES_PX.findLast((size) => size < brush[property]);
    return next === undefined ? {} : { brush: { ...brush, [property]: next } };
  });
}

/** Takes another tool. */
export const takeTool = (tool: Tool): void => useViewStore.setState(({ brush }) => ({ brush: { ...brush, tool } }));

const brushNow = () => useViewStore.getState().brush;

/** Puts the brush's colour into the project's palette, or takes a colour out of it. */
export function changePalette(colour: string, isIn: boolean): void {
  const view = inView();
  if (!view) return;
  const { palette } = view.project;
  make({ type: 'setPalette', palette: isIn ? [...palette, colour] : palette.filter((other) => other !== colour) });
}

/** The colour next to (1) or before (−1) the brush's in the palette. */
function nextColour(direction: 1 | -1): void {
  const palette = inView()?.project.palette ?? [];
  if (palette.length === 0) return;
  const here = palette.indexOf(brushNow().colour);
  const colour = palette[(Math.max(here, direction === 1 ? -1 : 0) + direction + palette.length) % palette.length];
  if (colour) useViewStore.setState(({ brush }) => ({ brush: { ...brush, colour } }));
}

function drawingHere() {
  const view = inView();
  const drawing = view?.level && drawingShownAt(view.level, view.frame);
  return view?.level && drawing ? { level: view.level, drawing } : null;
}

const pinnedHere = () => useViewStore.getState().onion.pinned.some(({ drawingId }) => drawingId === drawingHere()?.drawing.id);

function togglePin(): void {
  const here = drawingHere();
  if (!here) return;
  const { pinned } = useViewStore.getState().onion;
  const others = pinned.filter(({ drawingId }) => drawingId !== here.drawing.id);
  changeOnion({ pinned: pinnedHere() ? others : [...others, { levelId: here.level.id, drawingId: here.drawing.id }] });
}

const tool = (id: Tool, words: string, key: string): Command => ({ id, group, words: () => words, keys: [key], run: () => takeTool(id) });

/** Commands on the tools of the desk. */
export const drawCommands: readonly Command[] = partOf('sheet', [
  tool('brush', 'Draw with the brush', 'D'),
  tool('eraser', 'Erase', 'R'),
  tool('fill', 'Fill an area with colour', 'F'),
  tool('colour', 'Pick a colour', 'E'),
  tool('part', 'Select and move: draw a loop around a part, or click for all', 'U'),
  {
    id: 'watch-drawn',
    group,
    words: () => 'Watch it drawn by a recorded pen',
    keys: [],
    hindrance: () => (useReplayStore.getState().paper ? null : 'there is no paper: go to Draw'),
    run: () => void watchItDrawn(),
  },
  { id: 'larger', group, words: () => 'Larger brush', keys: ['+', '='], run: () => resize(1) },
  { id: 'smaller', group, words: () => 'Smaller brush', keys: ['-'], run: () => resize(-1) },
  { id: 'colour-next', group, words: () => 'Next colour of the palette', keys: ['.'], run: () => nextColour(1) },
  { id: 'colour-before', group, words: () => 'Colour of the palette before', keys: [','], run: () => nextColour(-1) },
  {
    id: 'palette-add',
    group,
    words: () => `Add ${brushNow().colour} to the palette`,
    keys: ['Shift+E'],
    hindrance: () => (inView()?.project.palette.includes(brushNow().colour) ? 'it is in the palette already' : null),
    run: () => changePalette(brushNow().colour, true),
  },
  {
    id: 'pin',
    group,
    words: () => (pinnedHere() ? 'Unpin this drawing from the onion skin' : 'Pin this drawing to the onion skin, to compare with'),
    keys: ['P'],
    hindrance: () => (drawingHere() ? null : 'no drawing here'),
    run: togglePin,
  },
  {
    id: 'onion-by',
    group,
    words: () => `Onion skin by ${useViewStore.getState().onion.by === 'drawing' ? 'frame' : 'drawing'}`,
    keys: ['Shift+O'],
    run: () => changeOnion({ by: useViewStore.getState().onion.by === 'drawing' ? 'frame' : 'drawing' }),
  },
  {
    id: 'onion',
    group,
    words: () => (useViewStore.getState().onion.on ? 'Onion skin off' : 'Onion skin on'),
    keys: ['O'],
    run: () => changeOnion({ on: !useViewStore.getState().onion.on }),
  },
]);
