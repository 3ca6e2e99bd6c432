import { insertChartedInbetween } from '@/core/chart/inbetween';
import { type DrawingRole, type Level, levelById, shotById } from '@/core/document/model';
import { blankBlock, removeExposures } from '@/core/edit/blockEdits';
import { copyDrawingHere, copyPreviousHere, deleteDrawing, joinNext, newDrawingHere, ownCopyHere } from '@/core/edit/drawingEdits';
import type { EditContext } from '@/core/edit/edit';
import { renumberInOrder, setRoles, showAgain } from '@/core/edit/numberEdits';
import { refused } from '@/core/outcome';
import { drawingShownAt, roleWord } from '@/core/sheet/reading';
import { ask } from '@/features/commands/ask';
import { type Command, partOf } from '@/features/commands/command';
import { chosenBlock, contextIn, contextNow, take, takeOnBlock } from '@/features/project/editContext';
import { inView } from '@/features/project/hooks';
import { goToFrame } from '@/features/project/navigation';
import { useViewStore } from '@/features/project/viewStore';
import { useProjectStore } from '@/features/sync/projectStore';
import { make } from '@/features/sync/session';
import { pendingOrders, settled } from '@/features/sync/settling';
import { toast } from '@/ui/toast';

const group = 'Drawings';

type Way = (context: EditContext, level: Level, frame: number) => ReturnType<typeof insertChartedInbetween>;

function addDrawing(way: Way): void {
  const view = inView();
  if (!view?.level) return;
  const edit = way(contextNow(view), view.level, view.frame);
  if (take(edit) && edit.ok) goToFrame(edit.value.startFrame);
}

/**
 * Runs what needs the pictures of drawings themselves, as a copy does, once strokes made before are in them; at
 * once when there are none. It is for where the person was, wherever they are by then.
 */
function onceDrawn(run: (view: NonNullable<ReturnType<typeof inView>>) => void): void {
  const at = inView();
  if (!at) return;
  if (pendingOrders().length === 0) {
    run(at);
    return;
  }
  void settled().then(() => {
    const project = useProjectStore.getState().project;
    const shot = project && shotById(project, at.shot.id);
    if (project && shot) run({ ...at, project, shot, level: at.level && levelById(shot, at.level.id) });
  });
}

function copyBefore(): void {
  onceDrawn((view) => {
    if (!view.level) return;
    const edit = copyPreviousHere(contextIn(view.project, view.shot), view.level, view.frame);
    const isHere = inView()?.shot.id === view.shot.id && inView()?.frame === view.frame;
    if (take(edit) && edit.ok && isHere) goToFrame(edit.value.startFrame);
  });
}

/** What an edit would say it does here, for the command finder. */
function saysOf(way: Way, otherwise: string): string {
  const view = inView();
  const edit = view?.level && way(contextNow(view), view.level, view.frame);
  return edit?.ok ? edit.value.says : otherwise;
}

function shownDrawing() {
  const view = inView();
  const drawing = view?.level && drawingShownAt(view.level, view.frame);
  return view?.level && drawing ? { ...view, level: view.level, drawing } : null;
}

const noDrawingHere = () => (shownDrawing() ? null : 'no drawing here');

const ROLES: readonly (readonly [DrawingRole, string])[] = [
  ['key', 'K'],
  ['breakdown', 'J'],
  ['inbetween', 'I'],
];

const roleCommands = ROLES.map(
  ([role, key]): Command => ({
    id: `role-${role}`,
    group,
    words: () =>
      `${useViewStore.getState().selection ? 'Make the selected drawings' : 'Make this drawing'} ${role === 'inbetween' ? 'an' : 'a'} ${roleWord[role]}`,
    keys: [key],
    run: () => takeOnBlock((context, block) => setRoles(context, block, role)),
    hindrance: noDrawingHere,
  }),
);

const newKey: Way = (context, level, frame) => newDrawingHere(context, level, frame, 'key');

function askToCopy(): void {
  const view = inView();
  if (!view?.level) return;
  const { level, frame } = view;
  ask({
    title: 'Copy a drawing here',
    about: `An independent copy of any drawing of ${level.name}: what is drawn on it changes no other.`,
    confirm: 'Copy it',
    fields: [
      { id: 'number', label: 'Number of the drawing to copy', start: shownDrawing()?.drawing.number ?? level.drawings[0]?.number ?? '' },
    ],
    read: ({ number = '' }) => {
      const source = level.drawings.find((drawing) => drawing.number === number.trim());
      return source
        ? copyDrawingHere(contextNow(view), level, source, frame)
        : refused(`${level.name} has no drawing ${number.trim() || '(no number)'}.`);
    },
  });
}

function askToShowAgain(): void {
  const view = inView();
  const block = view && chosenBlock(view);
  if (!view?.level || !block) return;
  const { level } = view;
  ask({
    title: 'Expose a drawing again',
    about: `The same drawing once more on ${level.name}: drawing on it changes it everywhere it shows.`,
    confirm: 'Expose',
    fields: [{ id: 'number', label: 'Its number', start: shownDrawing()?.drawing.number ?? level.drawings[0]?.number ?? '' }],
    read: ({ number = '' }) => showAgain(contextNow(view), level, number, block.fromFrame, block.toFrame),
  });
}

/** Commands on drawings and where they are exposed. */
export const sheetCommands: readonly Command[] = partOf('sheet', [
  { id: 'new-drawing', group, words: () => saysOf(newDrawingHere, 'New drawing here'), keys: ['N'], run: () => addDrawing(newDrawingHere) },
  {
    id: 'new-key',
    group,
    words: () => saysOf(newKey, 'New drawing here').replace('drawing', 'key'),
    keys: ['Shift+N'],
    run: () => addDrawing(newKey),
  },
  {
    id: 'copy-drawing',
    group,
    words: () => saysOf(copyPreviousHere, 'Copy the drawing before'),
    keys: ['C'],
    run: copyBefore,
  },
  {
    id: 'copy-of',
    group,
    words: () => 'Copy any drawing here …',
    keys: ['Shift+C'],
    hindrance: () => (inView()?.level?.drawings.length ? null : 'no drawing to copy'),
    run: askToCopy,
  },
  {
    id: 'own-copy',
    group,
    words: () => {
      const shown = shownDrawing();
      return shown ? `Make ${shown.drawing.number} independent here` : 'Make independent here';
    },
    keys: ['Alt+C'],
    hindrance: () => {
      const shown = shownDrawing();
      const edit = shown && ownCopyHere(contextNow(shown), shown.level, shown.frame);
      return edit?.ok ? null : (edit?.reason ?? 'no drawing here');
    },
    run: () => {
      onceDrawn(({ project, shot, level, frame }) => {
        if (level) take(ownCopyHere(contextIn(project, shot), level, frame), true);
      });
    },
  },
  {
    id: 'inbetween',
    group,
    words: () => saysOf(insertChartedInbetween, 'New in-between after this drawing'),
    keys: ['B'],
    run: () => addDrawing(insertChartedInbetween),
  },
  {
    id: 'join-next',
    group,
    words: () => {
      const shown = shownDrawing();
      const edit = shown && joinNext(contextNow(shown), shown.level, shown.frame);
      return edit?.ok ? edit.value.says : 'Join this exposure with the next';
    },
    keys: ['Shift+J'],
    hindrance: noDrawingHere,
    run: () => {
      const shown = shownDrawing();
      if (shown) take(joinNext(contextNow(shown), shown.level, shown.frame), true);
    },
  },
  { id: 'show-again', group, words: () => 'Expose again here …', keys: ['Shift+A'], run: askToShowAgain },
  { id: 'blank', group, words: () => 'Leave blank (what follows stays)', keys: ['X'], run: () => takeOnBlock(blankBlock) },
  {
    id: 'remove-exposure',
    group,
    words: () => 'Remove exposure (what follows moves up)',
    keys: ['Delete', 'Backspace'],
    run: () => {
      if (takeOnBlock(removeExposures)) useViewStore.setState({ selection: null });
    },
  },
  {
    id: 'delete-drawing',
    group,
    words: () => {
      const shown = shownDrawing();
      return shown ? deleteDrawing(shown.shot, shown.level, shown.drawing).says : 'Delete drawing';
    },
    keys: ['Shift+Delete', 'Shift+Backspace'],
    hindrance: noDrawingHere,
    run: () => {
      onceDrawn(({ shot, level, frame }) => {
        const drawing = level && drawingShownAt(level, frame);
        if (!level || !drawing) return;
        const edit = deleteDrawing(shot, level, drawing);
        if (make(edit.step)) toast.message(`${edit.says}. Undo brings it back.`);
      });
    },
  },
  {
    id: 'clear-drawing',
    group,
    words: () => `Clear what is drawn on ${shownDrawing()?.drawing.number ?? 'the drawing'}`,
    keys: ['Alt+Delete', 'Alt+Backspace'],
    hindrance: () => (shownDrawing()?.drawing.picture ? null : 'nothing drawn here'),
    run: () => {
      onceDrawn(({ shot, level, frame }) => {
        const drawing = level && drawingShownAt(level, frame);
        if (level && drawing?.picture)
          make({ type: 'setPicture', shotId: shot.id, levelId: level.id, drawingId: drawing.id, picture: null });
      });
    },
  },
  ...roleCommands,
  {
    id: 'renumber',
    group,
    words: () => `Number the drawings of ${inView()?.level?.name ?? 'this level'} in the order they appear`,
    keys: ['Shift+R'],
    run: () => {
      const view = inView();
      if (view) take(view.level ? renumberInOrder(contextNow(view), view.level) : refused('There is no level here.'), true);
    },
  },
]);
