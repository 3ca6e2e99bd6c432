import { newLevel, type Project } from '@/core/document/model';
import type { Edit } from '@/core/edit/edit';
import { applyStep } from '@/core/edit/table';
import { done, type Outcome } from '@/core/outcome';
import { joinWithNext } from '@/core/reel/joinShots';
import { reelChange } from '@/core/reel/moved';
import { placedById, placedItems, reelIndexOf, shotsInOrder } from '@/core/reel/reel';
import { addShotStep, codeBetween, duplicateShot, removeShot } from '@/core/reel/shotEdits';
import { splitShot } from '@/core/reel/splitShot';
import { plural } from '@/core/time/counts';
import { nominalRate } from '@/core/time/rate';
import type { Command } from '@/features/commands/command';
import { newId, take, type View } from '@/features/project/editContext';
import { inView } from '@/features/project/hooks';
import { goToShot } from '@/features/project/navigation';
import { useViewStore } from '@/features/project/viewStore';
import { useProjectStore } from '@/features/sync/projectStore';
import { toast } from '@/ui/toast';

const group = 'Shots';

/** What a change moves on the reel, in words; empty when nothing moves. */
export function reelWords(before: Project, after: Project): string {
  const { moved, framesBefore, framesAfter } = reelChange(before, after);
  const total =
    framesBefore === framesAfter ? '' : `the reel goes from ${plural(framesBefore, 'frame')} to ${plural(framesAfter, 'frame')}`;
  const shown = moved
    .slice(0, 3)
    .map((item) => `${item.name} starts on ${item.after + after.firstFrameNumber}, was ${item.before + before.firstFrameNumber}`);
  const more = moved.length > 3 ? [`${moved.length - 3} more move`] : [];
  return [total, ...shown, ...more].filter(Boolean).join('; ');
}

/** Makes an edit on shots and says what moved. */
function takeAndTell(edit: Outcome<Edit>): boolean {
  const before = useProjectStore.getState().project;
  if (!take(edit) || !edit.ok) return false;
  const after = useProjectStore.getState().project;
  const words = before && after ? reelWords(before, after) : '';
  toast.message(`${edit.value.says}${words ? `: ${words}` : ''}. You can undo it.`, { id: 'reel' });
  return true;
}

function withView(use: (view: View) => void): () => void {
  return () => {
    const view = inView();
    if (view) use(view);
  };
}

/** Puts a new shot, two seconds long, at a place in the order, and opens it. */
export function insertShot(project: Project, reelIndex: number): void {
  const id = newId();
  const code = codeBetween(project, reelIndex);
  const frames = nominalRate(project.rate) * 2;
  const shot = { id, code, name: '', note: '', frames, levels: [newLevel(newId(), 'Level 1')], notes: [], sounds: [] };
  const edit = done({ step: addShotStep(project, shot, reelIndex), says: `New shot ${code} of ${plural(frames, 'frame')}` });
  if (takeAndTell(edit)) goToShot(id);
}

/** Moves an item to a place on the reel. */
export function moveItemTo(project: Project, itemId: string, index: number): void {
  const reel = placedItems(project);
  const placed = placedById(project, itemId);
  if (!placed || index < 0 || index >= reel.length || placed.index === index) return;
  takeAndTell(
    done({ step: { type: 'moveItem', itemId, index }, says: `Shot ${placed.shot?.code ?? ''} is now ${index + 1} of ${reel.length}` }),
  );
}

const moveBy = (by: -1 | 1) =>
  withView(({ project, shot }) => {
    const index = reelIndexOf(project, shot.id);
    const item = project.reel.items[index];
    if (!item) return;
    // It stays the open one: as the first of the reel it would be another's turn.
    useViewStore.setState({ shotId: shot.id });
    moveItemTo(project, item.id, index + by);
  });

/** What setting a shot's length does beyond the shot, in words. */
export function lengthWords(project: Project, shotId: string, frames: number): string {
  const after = applyStep(project, { type: 'setShotLength', shotId, frames });
  return after.ok ? reelWords(project, after.value) : after.reason;
}

function openNeighbour(by: -1 | 1): () => void {
  return withView(({ project, shot }) => {
    const shots = shotsInOrder(project);
    const next = shots[shots.indexOf(shot) + by];
    if (next) goToShot(next.id);
  });
}

const code = () => inView()?.shot.code ?? '';

/** Commands on the order and the cutting of shots. */
export const shotCommands: readonly Command[] = [
  { id: 'shot-next', group, words: () => 'Open the next shot', keys: ['Alt+PageDown'], run: openNeighbour(1) },
  { id: 'shot-before', group, words: () => 'Open the shot before', keys: ['Alt+PageUp'], run: openNeighbour(-1) },
  {
    id: 'shot-insert',
    group,
    words: () => `New shot after ${code()}`.trim(),
    keys: ['Alt+N'],
    run: () => {
      const view = inView();
      const { project } = useProjectStore.getState();
      if (view) insertShot(view.project, reelIndexOf(view.project, view.shot.id) + 1);
      else if (project) insertShot(project, project.reel.items.length);
    },
  },
  {
    id: 'shot-duplicate',
    group,
    words: () => `Duplicate shot ${code()}`,
    keys: ['Alt+D'],
    run: withView(({ project, shot }) => {
      const index = reelIndexOf(project, shot.id);
      if (!takeAndTell(duplicateShot(project, shot, newId))) return;
      // What was made is what one goes on with, from its beginning.
      const copy = useProjectStore.getState().project?.reel.items[index + 1];
      if (copy?.kind === 'shot') goToShot(copy.shotId);
    }),
  },
  {
    id: 'shot-split',
    group,
    words: () => {
      const view = inView();
      return view ? `Split shot ${view.shot.code} before frame ${view.frame + view.project.firstFrameNumber}` : 'Split the shot';
    },
    keys: ['Alt+S'],
    run: withView(({ project, shot, frame }) => takeAndTell(splitShot(project, shot, frame, newId))),
  },
  {
    id: 'shot-join',
    group,
    words: () => `Join shot ${code()} with the next one`,
    keys: ['Alt+J'],
    run: withView(({ project, shot }) => takeAndTell(joinWithNext(project, shot, newId))),
  },
  { id: 'shot-earlier', group, words: () => `Move shot ${code()} earlier`, keys: ['Alt+Shift+PageUp'], run: moveBy(-1) },
  { id: 'shot-later', group, words: () => `Move shot ${code()} later`, keys: ['Alt+Shift+PageDown'], run: moveBy(1) },
  {
    id: 'shot-remove',
    group,
    words: () => {
      const shot = inView()?.shot;
      const edit = shot && removeShot(shot);
      return edit?.ok ? edit.value.says : 'Remove the shot';
    },
    keys: ['Alt+Shift+Delete'],
    run: withView(({ shot }) => takeAndTell(removeShot(shot))),
  },
];
