import { sheetColumns } from '@/core/sheet/columns';
import { framesOfRuns } from '@/core/sheet/runs';
import { ask } from '@/features/commands/ask';
import { type Command, partOf } from '@/features/commands/command';
import { copyChosen, cutChosen, hasCopied, readCopied, readPasted } from '@/features/commands/copied';
import { take } from '@/features/project/editContext';
import { inView } from '@/features/project/hooks';
import { extendSelection } from '@/features/project/navigation';
import { useViewStore } from '@/features/project/viewStore';
import { toast } from '@/ui/toast';

const group = 'Select, copy, paste';

const nothingCopied = () => (hasCopied() ? null : 'nothing was copied yet');

/** Text for other programs; keys reach the clipboard by the browser's own copy, the command finder by this. */
function toClipboard(text: string | null): void {
  if (text !== null)
    navigator.clipboard
      .writeText(text)
      .catch(() => toast.message('It can be pasted here; this browser doesn’t let it go to other programs.'));
}

function selectLevels(levelIds: readonly string[]): void {
  const view = inView();
  if (!view || levelIds.length === 0) return;
  const chosen = view.shot.levels.filter((level) => levelIds.includes(level.id));
  const lastFrame = Math.max(view.shot.frames, ...chosen.map((level) => framesOfRuns(level.exposures))) - 1;
  useViewStore.setState({ selection: { levelIds, fromFrame: 0, toFrame: lastFrame } });
}

/** Makes the block reach one level further to the right (1) or left (−1). */
function extendToLevel(direction: -1 | 1): void {
  const view = inView();
  if (!view?.level) return;
  const ids = sheetColumns(view.shot).map((level) => level.id);
  const reached = useViewStore.getState().selection?.levelIds.at(-1) ?? view.level.id;
  const next = ids[ids.indexOf(reached) + direction];
  if (next) extendSelection(view.frame, next);
}

const askToPaste = () =>
  ask({
    title: 'Paste numbers',
    about:
      'From a spreadsheet: a row a frame, a column a level, a number on every frame, . for blank, empty to hold. Or one level a line, as 1*2 2*2 .*3.',
    confirm: 'Paste',
    fields: [{ id: 'text', label: 'Numbers', start: '', lines: 6 }],
    read: ({ text = '' }) => readPasted(text),
  });

/** Commands that choose blocks of the sheet and carry them elsewhere. */
export const copyCommands: readonly Command[] = partOf('sheet', [
  {
    id: 'select-right',
    group,
    words: () => 'Extend selection right',
    keys: ['Mod+ArrowRight'],
    run: () => extendToLevel(1),
  },
  { id: 'select-left', group, words: () => 'Extend selection left', keys: ['Mod+ArrowLeft'], run: () => extendToLevel(-1) },
  {
    id: 'select-level',
    group,
    words: () => `Select all of ${inView()?.level?.name ?? 'this level'}`,
    keys: ['Mod+A'],
    run: () => {
      const level = inView()?.level;
      if (level) selectLevels([level.id]);
    },
  },
  {
    id: 'select-sheet',
    group,
    words: () => 'Select the whole sheet',
    keys: ['Mod+Shift+A'],
    run: () => selectLevels(sheetColumns(inView()?.shot ?? { levels: [] }).map((level) => level.id)),
  },
  {
    id: 'deselect',
    group,
    words: () => 'Deselect',
    keys: ['Escape'],
    run: () => useViewStore.setState({ selection: null }),
  },
  { id: 'copy', group, words: () => 'Copy the block (Ctrl C)', keys: [], run: () => toClipboard(copyChosen()) },
  { id: 'cut', group, words: () => 'Cut the block: copy it and leave it blank (Ctrl X)', keys: [], run: () => toClipboard(cutChosen()) },
  {
    id: 'paste',
    group,
    words: () => 'Paste the same drawings (Ctrl V)',
    keys: [],
    hindrance: nothingCopied,
    run: () => take(readCopied(false), true),
  },
  {
    id: 'paste-copies',
    group,
    words: () => 'Paste as independent drawings',
    keys: ['Shift+V'],
    hindrance: nothingCopied,
    run: () => take(readCopied(true), true),
  },
  { id: 'paste-numbers', group, words: () => 'Paste numbers from a spreadsheet …', keys: ['Shift+P'], run: askToPaste },
]);
