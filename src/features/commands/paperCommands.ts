import type { Command } from '@/features/commands/command';
import { mirroredView, type PaperView, panned, turnedBy, WHOLE_PAPER, zoomed } from '@/features/project/paperView';
import { useViewStore } from '@/features/project/viewStore';

const group = 'The paper';
const NEARER = 1.25;
const TURN_DEGREES = 15;
const PAN_PX = 60;

/** Where no paper is in sight, keys of the browser's own zoom are the browser's. */
const noPaper = () => (useViewStore.getState().papers > 0 ? null : 'there is no paper in sight');

function look(id: string, words: string, keys: readonly string[], change: (view: PaperView) => PaperView): Command {
  return {
    id,
    group,
    words: () => words,
    keys,
    hindrance: noPaper,
    run: () => useViewStore.setState(({ paperView }) => ({ paperView: change(paperView) })),
  };
}

/** Commands on how the paper is looked at; none changes what is drawn. */
export const paperCommands: readonly Command[] = [
  {
    id: 'paper-alone',
    group,
    words: () => (useViewStore.getState().paperAlone ? 'Show all panels again' : 'Paper alone: all panels step aside'),
    keys: ['Alt+Enter'],
    hindrance: noPaper,
    run: () => useViewStore.setState(({ paperAlone }) => ({ paperAlone: !paperAlone })),
  },
  look('paper-nearer', 'Zoom in (wheel)', ['Mod+=', 'Mod++'], (view) => zoomed(view, NEARER)),
  look('paper-further', 'Zoom out (wheel)', ['Mod+-'], (view) => zoomed(view, 1 / NEARER)),
  look('paper-whole', 'Fit the paper', ['Mod+0'], () => WHOLE_PAPER),
  look('paper-turn-right', 'Turn the paper right (Alt wheel)', [']'], (view) => turnedBy(view, TURN_DEGREES)),
  look('paper-turn-left', 'Turn the paper left (Alt wheel)', ['['], (view) => turnedBy(view, -TURN_DEGREES)),
  look('paper-mirror', 'Mirror the view', ['Z'], mirroredView),
  look('paper-left', 'Move the paper to the left', ['Mod+Alt+ArrowLeft'], (view) => panned(view, -PAN_PX, 0)),
  look('paper-right', 'Move the paper to the right (Shift wheel)', ['Mod+Alt+ArrowRight'], (view) => panned(view, PAN_PX, 0)),
  look('paper-up', 'Move the paper up', ['Mod+Alt+ArrowUp'], (view) => panned(view, 0, -PAN_PX)),
  look('paper-down', 'Move the paper down', ['Mod+Alt+ArrowDown'], (view) => panned(view, 0, PAN_PX)),
];
