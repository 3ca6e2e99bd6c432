import { create } from 'zustand';
import type { Project } from '@/core/document/model';
import type { Edit } from '@/core/edit/edit';
import { applyStep } from '@/core/edit/table';
import { done, type Outcome, refused } from '@/core/outcome';
import { closeGaps, finishItems, insertGap, layShot, leaveOut, repeatItems, setReelLength } from '@/core/reel/itemEdits';
import { moveItemsBy, startItemOn } from '@/core/reel/moveItems';
import { framesOfReel, itemAt, type PlacedItem, placedItems, shotsLeftOut } from '@/core/reel/reel';
import { showWhole, slipItem, splitItem, trimItem, trimOf } from '@/core/reel/trimItems';
import { parseLength, parseMoment } from '@/core/time/counts';
import { nominalRate } from '@/core/time/rate';
import { type AskField, ask } from '@/features/commands/ask';
import { type Command, partOf } from '@/features/commands/command';
import { newId } from '@/features/project/editContext';
import { goToReelFrame } from '@/features/project/navigation';
import { useViewStore } from '@/features/project/viewStore';
import { useProjectStore, whenClosed } from '@/features/sync/projectStore';
import { make } from '@/features/sync/session';

const group = 'Reel';

/** What is chosen on the reel, in order; the item under the current frame where nothing is. */
export function chosenItems(project: Project, selection: readonly string[], reelFrame: number): readonly PlacedItem[] {
  const chosen = placedItems(project).filter(({ item }) => selection.includes(item.id));
  if (chosen.length > 0) return chosen;
  const here = itemAt(project, reelFrame);
  return here ? [here] : [];
}

type ReelView = { readonly project: Project; readonly chosen: readonly PlacedItem[]; readonly reelFrame: number };

function reelView(): ReelView | null {
  const { project } = useProjectStore.getState();
  const { reelSelection, reelFrame } = useViewStore.getState();
  return project && { project, chosen: chosenItems(project, reelSelection, reelFrame), reelFrame };
}

const idsOf = (chosen: readonly PlacedItem[]) => chosen.map(({ item }) => item.id);

const hindrance = () => (reelView()?.chosen.length ? null : 'there is nothing on the reel');

/** What was done on the reel last, or why it couldn't be; said beside the reel, so that nothing lies over it. */
export const useReelSays = create<{ readonly says: string | null }>(() => ({ says: null }));
whenClosed(() => useReelSays.setState({ says: null }));

const sayDone = (what: string): void => useReelSays.setState({ says: `${what}. You can undo it.` });

/** Makes an edit on the reel, and says what it did or why it can't be done. */
export function takeOnReel(edit: Outcome<Edit>): void {
  if (!edit.ok) useReelSays.setState({ says: edit.reason });
  else if (make(edit.value.step)) sayDone(edit.value.says);
}

/** Makes an edit on the chosen items. */
const onChosen = (edit: (view: ReelView) => Outcome<Edit>) => (): void => {
  const view = reelView();
  if (view) takeOnReel(edit(view));
};

/** Makes an edit on the one chosen item, the first where several are. */
const onOne = (edit: (view: ReelView, placed: PlacedItem) => Outcome<Edit>): (() => void) =>
  onChosen((view) => {
    const [placed] = view.chosen;
    return placed ? edit(view, placed) : refused('There is nothing on the reel.');
  });

/** Chooses the item next to what is chosen, and goes to its first frame; with `extend`, beside what is chosen. */
function chooseNext(by: -1 | 1, extend: boolean): void {
  const view = reelView();
  if (!view) return;
  const items = placedItems(view.project);
  const { reelSelection } = useViewStore.getState();
  const from = by > 0 ? view.chosen.at(-1) : view.chosen[0];
  // What is under the current frame is chosen first, before the one next to it is.
  const next = from && reelSelection.length === 0 && !extend ? from : from && items[items.indexOf(from) + by];
  if (!next) return;
  useViewStore.setState({ reelSelection: extend ? [...idsOf(view.chosen), next.item.id] : [next.item.id] });
  goToReelFrame(next.startFrame);
}

/** Asks for a number and makes the edit it comes to; what it does is said while it is typed. */
function askFor(title: string, about: string, field: AskField, read: (view: ReelView, text: string) => Outcome<Edit>): void {
  const view = reelView();
  if (!view) return;
  let promised = '';
  const readNow = (text: string): Outcome<Edit> => {
    const now = reelView();
    const edit = now ? read(now, text) : refused('No project is open.');
    promised = edit.ok ? edit.value.says : '';
    return edit;
  };
  ask({
    title,
    about,
    confirm: 'Do it',
    fields: [field],
    read: ({ value = '' }) => readNow(value),
    done: () => sayDone(promised),
  });
}

const momentOf = ({ project }: ReelView, text: string) => parseMoment(text, project.rate, project.firstFrameNumber);
const framesOf = (text: string): Outcome<number> =>
  /^[+-]?\d{1,7}$/.test(text.trim()) ? done(Number(text)) : refused(`“${text}” is not a number of frames: write a whole number, as 12.`);

function askStart(): void {
  const view = reelView();
  const [placed] = view?.chosen ?? [];
  if (!view || !placed) return;
  const { firstFrameNumber } = view.project;
  const start = String(placed.startFrame + firstFrameNumber);
  askFor(
    `Start ${placed.source?.name ?? 'the gap'} on a frame`,
    'The gap before it becomes as long as it takes; earlier, it is moved to that cut or into that gap.',
    { id: 'value', label: 'A frame’s number, seconds, timecode or feet', start },
    (now, text) => {
      const frame = momentOf(now, text);
      return frame.ok ? startItemOn(now.project, placed.item.id, frame.value, newId) : frame;
    },
  );
}

function askLength(): void {
  const view = reelView();
  if (!view) return;
  askFor(
    'How long the reel is',
    'Longer leaves paper at its end; shorter cuts what is there, which is named.',
    { id: 'value', label: 'As 264, 11s, 00:00:11:00 or 16+08', start: String(framesOfReel(view.project)) },
    (now, text) => {
      const frames = parseLength(text, now.project.rate);
      return frames.ok ? setReelLength(now.project, frames.value, newId) : frames;
    },
  );
}

const askSlip = (): void =>
  askFor(
    'Slip',
    'Shows later frames of the shot or clip, or earlier ones below 0; the item stays where it is and as long.',
    { id: 'value', label: 'Frames', start: '1' },
    (now, text) => {
      const by = framesOf(text);
      const [placed] = now.chosen;
      return by.ok && placed ? slipItem(now.project, placed.item.id, by.value) : by.ok ? refused('There is nothing on the reel.') : by;
    },
  );

function askGap(): void {
  const view = reelView();
  if (!view) return;
  askFor(
    'A gap before it',
    'Paper for so many frames; what follows moves along.',
    { id: 'value', label: 'Frames', start: String(Math.floor(nominalRate(view.project.rate) / 2)) },
    (now, text) => {
      const frames = framesOf(text);
      const index = now.chosen[0]?.index ?? 0;
      return frames.ok ? insertGap(now.project, index, frames.value, newId) : frames;
    },
  );
}

/** The code of a shot that is not on the reel; empty when all are. */
function firstLeftOut(): string {
  const view = reelView();
  return (view && shotsLeftOut(view.project)[0]?.code) ?? '';
}

/** Lays a shot of the project on the reel behind what is chosen. */
const askShot = (): void =>
  askFor(
    'Lay a shot on the reel',
    'Whole, behind what is selected. A shot may be on the reel several times.',
    { id: 'value', label: 'The shot’s code', start: firstLeftOut() },
    (now, text) => {
      const shot = now.project.shots.find(({ code }) => code === text.trim());
      if (!shot) return refused(`There is no shot ${text.trim()} in this project.`);
      return layShot(now.project, shot.id, behind(now), newId);
    },
  );

const behind = ({ chosen, project }: ReelView): number => (chosen.at(-1)?.index ?? project.reel.items.length - 1) + 1;

/** Begins, or ends, what an item shows with the current frame. */
const trimHere = (end: 'start' | 'end') =>
  onOne(({ project, reelFrame }, placed) => {
    const { fromFrame, frames } = trimOf(placed);
    const at = reelFrame - placed.startFrame;
    if (at < 0 || at >= frames) return refused('The current frame is not within what is selected: go there first.');
    return trimItem(
      project,
      placed.item.id,
      end === 'start' ? { fromFrame: fromFrame + at, frames: frames - at } : { fromFrame, frames: at + 1 },
    );
  });

/** The project as it would be after an edit; null when it can't be made. */
export function projectAfter(project: Project, edit: Outcome<Edit>): Project | null {
  const after = edit.ok ? applyStep(project, edit.value.step) : edit;
  return after.ok ? after.value : null;
}

/** What is done with what lies on the reel. */
export const reelCommands: readonly Command[] = partOf('reel', [
  { id: 'reel-next', group, words: () => 'Select the next item', keys: ['Shift+ArrowRight'], hindrance, run: () => chooseNext(1, false) },
  {
    id: 'reel-before',
    group,
    words: () => 'Select the item before',
    keys: ['Shift+ArrowLeft'],
    hindrance,
    run: () => chooseNext(-1, false),
  },
  {
    id: 'reel-extend',
    group,
    words: () => 'Select the next item, too',
    keys: ['Mod+Shift+ArrowRight'],
    hindrance,
    run: () => chooseNext(1, true),
  },
  {
    id: 'reel-extend-before',
    group,
    words: () => 'Select the item before, too',
    keys: ['Mod+Shift+ArrowLeft'],
    hindrance,
    run: () => chooseNext(-1, true),
  },
  {
    id: 'reel-later',
    group,
    words: () => 'Move the item later',
    keys: ['Alt+ArrowRight'],
    hindrance,
    run: onChosen(({ project, chosen }) => moveItemsBy(project, idsOf(chosen), 1)),
  },
  {
    id: 'reel-earlier',
    group,
    words: () => 'Move the item earlier',
    keys: ['Alt+ArrowLeft'],
    hindrance,
    run: onChosen(({ project, chosen }) => moveItemsBy(project, idsOf(chosen), -1)),
  },
  { id: 'reel-start', group, words: () => 'Start the item on a frame …', keys: ['Alt+Shift+F'], hindrance, run: askStart },
  { id: 'reel-trim-start', group, words: () => 'Trim the item to start here', keys: ['Alt+['], hindrance, run: trimHere('start') },
  { id: 'reel-trim-end', group, words: () => 'Trim the item to end here', keys: ['Alt+]'], hindrance, run: trimHere('end') },
  {
    id: 'reel-whole',
    group,
    words: () => 'Show the item whole',
    keys: ['Alt+Shift+W'],
    hindrance,
    run: onOne(({ project }, placed) => showWhole(project, placed.item.id)),
  },
  { id: 'reel-slip', group, words: () => 'Slip the item …', keys: ['Alt+Shift+P'], hindrance, run: askSlip },
  {
    id: 'reel-split',
    group,
    words: () => 'Split the item at the current frame',
    keys: ['Alt+Shift+S'],
    hindrance,
    run: onOne(({ project, reelFrame }, placed) => splitItem(project, placed.item.id, reelFrame, newId)),
  },
  { id: 'reel-gap', group, words: () => 'Insert a gap before the item …', keys: ['Alt+Shift+G'], hindrance, run: askGap },
  {
    id: 'reel-close',
    group,
    words: () => 'Close the gap',
    keys: ['Alt+Shift+C'],
    hindrance,
    run: onChosen(({ project, chosen }) => closeGaps(project, idsOf(chosen))),
  },
  {
    id: 'reel-leave-out',
    group,
    words: () => 'Leave the item out of the reel',
    keys: ['Delete', 'Backspace', 'Alt+Shift+X'],
    hindrance,
    run: onChosen(({ project, chosen }) => leaveOut(project, idsOf(chosen))),
  },
  {
    id: 'reel-again',
    group,
    words: () => 'Use the item again',
    keys: ['Alt+Shift+D'],
    hindrance,
    run: onChosen(({ project, chosen }) => repeatItems(project, idsOf(chosen), newId)),
  },
  {
    id: 'reel-finish',
    group,
    words: () => (reelView()?.chosen.every(({ item }) => item.finished) ? 'Leave the finish off the item' : 'Lay the finish over the item'),
    keys: ['Alt+Shift+E'],
    hindrance,
    run: onChosen(({ project, chosen }) => finishItems(project, idsOf(chosen))),
  },
  {
    id: 'finish-off',
    group,
    words: () => 'See it without the finish while the key is held',
    keys: ['A'],
    run: () => useViewStore.setState({ finishOff: true }),
    release: () => useViewStore.setState({ finishOff: false }),
  },
  { id: 'reel-lay', group, words: () => 'Lay a shot on the reel …', keys: ['Alt+Shift+N'], run: askShot },
  { id: 'reel-length', group, words: () => 'How long the reel is …', keys: ['Alt+Shift+L'], hindrance, run: askLength },
  {
    id: 'reel-select-all',
    group,
    words: () => 'Select every item',
    keys: ['Mod+A'],
    hindrance,
    run: () => {
      const { project } = useProjectStore.getState();
      if (project) useViewStore.setState({ reelSelection: idsOf(placedItems(project)) });
    },
  },
  { id: 'reel-deselect', group, words: () => 'Select nothing', keys: ['Escape'], run: () => useViewStore.setState({ reelSelection: [] }) },
]);
