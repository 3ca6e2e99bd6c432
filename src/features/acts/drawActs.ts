import type { Act } from '@/features/acts/act';
import { useViewStore } from '@/features/project/viewStore';

const group = 'Drawing';
const SIZES_PX = [1, 2, 3, 4, 6, 8, 11, 15, 20, 28, 40, 56, 80] as const;

/** Largest brush, in pixels of the picture. */
export const LARGEST_BRUSH_PX = SIZES_PX[SIZES_PX.length - 1] as number;

function resize(direction: 1 | -1): void {
  useViewStore.setState(({ brush }) => {
    const property = brush.tool === 'brush' ? 'sizePx' : 'eraserPx';
    const next = direction === 1 ? SIZES_PX.find((size) => size > brush[property]) : SIZES_PX.findLast((size) => size < brush[property]);
    return next === undefined ? {} : { brush: { ...brush, [property]: next } };
  });
}

const choose = (tool: 'brush' | 'eraser') => () => useViewStore.setState(({ brush }) => ({ brush: { ...brush, tool } }));

/** Acts on the tools of the desk. */
export const drawActs: readonly Act[] = [
  { id: 'brush', group, words: () => 'Draw with the brush', keys: ['D'], run: choose('brush') },
  { id: 'eraser', group, words: () => 'Rub out', keys: ['R'], run: choose('eraser') },
  { id: 'larger', group, words: () => 'Larger brush', keys: ['+', '='], run: () => resize(1) },
  { id: 'smaller', group, words: () => 'Smaller brush', keys: ['-'], run: () => resize(-1) },
  {
    id: 'onion',
    group,
    words: () => (useViewStore.getState().onion.on ? 'Onion skin off' : 'Onion skin on'),
    keys: ['O'],
    run: () => useViewStore.setState(({ onion }) => ({ onion: { ...onion, on: !onion.on } })),
  },
];
