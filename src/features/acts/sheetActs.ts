import { toast } from 'sonner';
import { copyPreviousHere, deleteDrawing, type ExposureRef, newDrawingHere, setLengths } from '@/core/edit/acts';
import type { Step } from '@/core/edit/step';
import type { DrawingRole, Level, Shot } from '@/core/sheet/document';
import { drawingShownAt, roleWord } from '@/core/sheet/reading';
import { placedRuns, runAt } from '@/core/sheet/runs';
import type { Act } from '@/features/acts/act';
import { inView } from '@/features/project/hooks';
import { goToFrame } from '@/features/project/navigation';
import { useProjectStore } from '@/features/project/projectStore';
import { make, redo, undo } from '@/features/project/session';
import { settled } from '@/features/project/settling';
import { useViewStore } from '@/features/project/viewStore';

const group = 'Sheet';
const newId = () => crypto.randomUUID();

/** The exposures an act on the sheet means: the selected ones, else the one of now. */
export function chosenExposures(shot: Shot, level: Level | undefined, frame: number): readonly ExposureRef[] {
  const { selection } = useViewStore.getState();
  if (!selection) return level ? [{ levelId: level.id, frame }] : [];
  return shot.levels
    .filter((candidate) => selection.levelIds.includes(candidate.id))
    .flatMap((candidate) =>
      placedRuns(candidate.exposures)
        .filter((run) => run.drawing !== null && run.endFrame > selection.fromFrame && run.startFrame <= selection.toFrame)
        .map((run) => ({ levelId: candidate.id, frame: run.startFrame })),
    );
}

/** Gives the chosen exposures a length. */
export function setChosenLength(frames: number): void {
  const view = inView();
  if (!view) return;
  const act = setLengths(view.shot, chosenExposures(view.shot, view.level, view.frame), frames, useViewStore.getState().following);
  if (act.ok) make(act.value.step);
  else toast.message(act.reason);
}

function addDrawing(way: typeof newDrawingHere | typeof copyPreviousHere): void {
  void settled().then(() => {
    const view = inView();
    if (!view?.level) return;
    const act = way(view.shot, view.level, view.frame, newId);
    if (!act.ok) toast.message(act.reason);
    else if (make(act.value.step)) goToFrame(act.value.startFrame);
  });
}

function saysOf(way: typeof newDrawingHere | typeof copyPreviousHere, otherwise: string): string {
  const view = inView();
  const act = view?.level && way(view.shot, view.level, view.frame, () => 'x');
  return act?.ok ? act.value.says : otherwise;
}

/** Makes one step of several, or the one alone. */
function makeAll(words: string, steps: readonly Step[]): void {
  const [only] = steps;
  if (only) make(steps.length === 1 ? only : { type: 'together', words, steps });
}

/** Leaves the chosen exposures blank: what follows stays where it is. */
function blankChosen(): void {
  const view = inView();
  if (!view) return;
  const steps = chosenExposures(view.shot, view.level, view.frame).flatMap(({ levelId, frame }): Step[] => {
    const level = view.shot.levels.find((candidate) => candidate.id === levelId);
    const run = level && runAt(level.exposures, frame);
    if (!run?.drawing) return [];
    return [
      {
        type: 'replaceRuns',
        shotId: view.shot.id,
        levelId,
        startFrame: run.startFrame,
        removedFrames: run.endFrame - run.startFrame,
        runs: [{ drawing: null, frames: run.endFrame - run.startFrame }],
      },
    ];
  });
  makeAll('Leave blank', steps);
}

/** Takes the chosen exposures out, from the bottom up: what follows moves up. */
function removeChosen(): void {
  const view = inView();
  if (!view) return;
  const steps = [...chosenExposures(view.shot, view.level, view.frame)]
    .sort((a, b) => b.frame - a.frame)
    .map(({ levelId, frame }): Step => ({ type: 'removeExposure', shotId: view.shot.id, levelId, atFrame: frame }));
  makeAll('Remove exposures', steps);
  useViewStore.setState({ selection: null });
}

function shownDrawing() {
  const view = inView();
  const drawing = view?.level && drawingShownAt(view.level, view.frame);
  return view?.level && drawing ? { ...view, level: view.level, drawing } : null;
}

function setRole(role: DrawingRole): void {
  const shown = shownDrawing();
  if (shown) make({ type: 'describeDrawing', shotId: shown.shot.id, levelId: shown.level.id, drawingId: shown.drawing.id, role });
}

const lengthActs: readonly Act[] = Array.from({ length: 9 }, (_, index): Act => {
  const frames = index + 1;
  const words = ['Expose on ones', 'Expose on twos', 'Expose on threes'][index] ?? `Expose for ${frames} frames`;
  return { id: `length-${frames}`, group, words: () => words, keys: [String(frames)], run: () => setChosenLength(frames) };
});

const roleActs: readonly Act[] = (
  [
    ['key', 'K'],
    ['breakdown', 'J'],
    ['inbetween', 'I'],
  ] as const
).map(([role, key]) => ({
  id: `role-${role}`,
  group,
  words: () => `Call this drawing ${role === 'inbetween' ? 'an' : 'a'} ${roleWord[role]}`,
  keys: [key],
  run: () => setRole(role),
  hindrance: () => (shownDrawing() ? null : 'no drawing here'),
}));

const noneLeft = (which: 'undo' | 'redo') => () => (useProjectStore.getState()[which].length === 0 ? 'nothing left' : null);

function back(way: typeof undo, said: string): void {
  void settled().then(() => {
    const words = way();
    if (words) toast.message(`${said}: ${words}`, { id: 'undo', duration: 1800 });
  });
}

/** Acts on exposures and drawings. */
export const sheetActs: readonly Act[] = [
  {
    id: 'undo',
    group,
    words: () => `Undo ${useProjectStore.getState().undo.at(-1)?.words ?? ''}`.trim(),
    keys: ['Mod+Z'],
    hindrance: noneLeft('undo'),
    run: () => back(undo, 'Undone'),
  },
  {
    id: 'redo',
    group,
    words: () => `Redo ${useProjectStore.getState().redo.at(-1)?.words ?? ''}`.trim(),
    keys: ['Mod+Shift+Z', 'Mod+Y'],
    hindrance: noneLeft('redo'),
    run: () => back(redo, 'Done again'),
  },
  { id: 'new-drawing', group, words: () => saysOf(newDrawingHere, 'New drawing here'), keys: ['N'], run: () => addDrawing(newDrawingHere) },
  {
    id: 'copy-drawing',
    group,
    words: () => saysOf(copyPreviousHere, 'Copy the drawing before'),
    keys: ['C'],
    run: () => addDrawing(copyPreviousHere),
  },
  ...lengthActs,
  { id: 'blank', group, words: () => 'Leave blank (what follows stays)', keys: ['X'], run: blankChosen },
  {
    id: 'remove-exposure',
    group,
    words: () => 'Remove exposure (what follows moves up)',
    keys: ['Delete', 'Backspace'],
    run: removeChosen,
  },
  {
    id: 'delete-drawing',
    group,
    words: () => {
      const shown = shownDrawing();
      return shown ? deleteDrawing(shown.shot, shown.level, shown.drawing).says : 'Delete drawing';
    },
    keys: ['Shift+Delete', 'Shift+Backspace'],
    hindrance: () => (shownDrawing() ? null : 'no drawing here'),
    run: () => {
      const shown = shownDrawing();
      if (!shown) return;
      const act = deleteDrawing(shown.shot, shown.level, shown.drawing);
      if (make(act.step)) toast.message(`${act.says}. Undo brings it back.`);
    },
  },
  {
    id: 'clear-drawing',
    group,
    words: () => `Clear what is drawn on ${shownDrawing()?.drawing.number ?? 'the drawing'}`,
    keys: ['Alt+Delete', 'Alt+Backspace'],
    hindrance: () => (shownDrawing()?.drawing.picture ? null : 'nothing drawn here'),
    run: () => {
      const shown = shownDrawing();
      if (shown?.drawing.picture)
        make({ type: 'setPicture', shotId: shown.shot.id, levelId: shown.level.id, drawingId: shown.drawing.id, picture: null });
    },
  },
  ...roleActs,
  {
    id: 'following',
    group,
    words: () =>
      useViewStore.getState().following === 'push'
        ? 'New lengths: cover what follows from now on'
        : 'New lengths: push what follows from now on',
    keys: ['M'],
    run: () => useViewStore.setState((state) => ({ following: state.following === 'push' ? 'overwrite' : 'push' })),
  },
  {
    id: 'deselect',
    group,
    words: () => 'Let go of the selection',
    keys: ['Escape'],
    run: () => useViewStore.setState({ selection: null }),
  },
];
