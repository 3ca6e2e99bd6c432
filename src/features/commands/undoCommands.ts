import { levelById, shotById } from '@/core/document/model';
import type { Step } from '@/core/edit/step';
import { drawingShownAt, exposuresOf } from '@/core/sheet/reading';
import type { Command } from '@/features/commands/command';
import { inView } from '@/features/project/hooks';
import { goToFrame, goToShot } from '@/features/project/navigation';
import { useViewStore } from '@/features/project/viewStore';
import { useProjectStore } from '@/features/sync/projectStore';
import { redo, undo } from '@/features/sync/session';
import { pendingOrders, settled } from '@/features/sync/settling';
import { toast } from '@/ui/toast';

const group = 'Undo';

const noneLeft = (which: 'undo' | 'redo') => () => (useProjectStore.getState()[which].length === 0 ? 'nothing left' : null);

/** Goes to where a drawing shows whose picture a step changed, unless it shows here: what is undone should be seen. */
function showDrawing(step: Step): void {
  if (step.type !== 'setPicture') return;
  const view = inView();
  const level = view?.shot.id === step.shotId ? levelById(view.shot, step.levelId) : undefined;
  const { project } = useProjectStore.getState();
  const shot = project && shotById(project, step.shotId);
  const on = level ?? (shot && levelById(shot, step.levelId));
  if (!view || !on) return;
  if (level && drawingShownAt(level, view.frame)?.id === step.drawingId) return;
  const [run] = exposuresOf(on, step.drawingId);
  if (on.kind !== 'still' && !run) return;
  if (level) {
    useViewStore.setState({ levelId: on.id, selection: null });
    goToFrame(run?.startFrame ?? view.frame);
  } else goToShot(step.shotId, run?.startFrame ?? 0, on.id);
}

/** What a drag chose is no longer what it chose once the drag is undone: it would reach over frames it never held. */
function takeSelectionBack(): void {
  const { selection, movedSelection } = useViewStore.getState();
  if (movedSelection && selection === movedSelection.to) useViewStore.setState({ selection: movedSelection.from, movedSelection: null });
}

/** Changes that are to be undone as soon as they are made. */
const claimed = new Set<number>();

function say(taken: ReturnType<typeof undo>, said: string): void {
  if (!taken) return;
  takeSelectionBack();
  showDrawing(taken.step);
  toast.message(`${said}: ${taken.words}`, { id: 'undo', duration: 1800 });
}

/** Undoes what was made last; a stroke whose picture is not made yet as soon as it is, while everything else goes on. */
function undoLast(): void {
  const pending = pendingOrders().findLast((order) => !claimed.has(order));
  const made = useProjectStore.getState().undo.findLast((entry) => !claimed.has(entry.order));
  if (pending === undefined || (made && made.order > pending)) {
    say(undo(made?.order), 'Undid');
    return;
  }
  claimed.add(pending);
  void settled().then(() => {
    claimed.delete(pending);
    say(undo(pending), 'Undid');
  });
}

/** Taking back what was done. */
export const undoCommands: readonly Command[] = [
  {
    id: 'undo',
    group,
    words: () => `Undo ${useProjectStore.getState().undo.at(-1)?.words ?? ''}`.trim(),
    keys: ['Mod+Z'],
    hindrance: () => (pendingOrders().length > 0 ? null : noneLeft('undo')()),
    run: undoLast,
  },
  {
    id: 'redo',
    group,
    words: () => `Redo ${useProjectStore.getState().redo.at(-1)?.words ?? ''}`.trim(),
    keys: ['Mod+Shift+Z', 'Mod+Y'],
    hindrance: noneLeft('redo'),
    run: () => say(redo(), 'Redid'),
  },
];
