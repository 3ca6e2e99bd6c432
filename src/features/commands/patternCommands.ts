import { cycleBlock, moveBlock, reverseBlock, staggerBlock, thereAndBackBlock } from '@/core/edit/blockEdits';
import type { EditContext } from '@/core/edit/edit';
import { type Outcome, refused } from '@/core/outcome';
import type { Block } from '@/core/sheet/block';
import { parseLength, parseMoment } from '@/core/time/counts';
import { PING_PONG } from '@/core/words';
import { ask } from '@/features/commands/ask';
import { type Command, partOf } from '@/features/commands/command';
import { withBlock } from '@/features/commands/timingCommands';
import { contextNow, takeOnBlock, type View } from '@/features/project/editContext';
import { useViewStore } from '@/features/project/viewStore';

const group = 'Patterns';

const noBlock = () => (useViewStore.getState().selection ? null : 'select a block first');

const framesOf = (block: Block) => block.toFrame - block.fromFrame + 1;

/** Frames a pattern is to fill: so many rounds of the block, frames, or to the shot's end. */
function framesToFill(view: View, block: Block, howFar: string, amount: string): Outcome<number> {
  if (howFar === 'end') return { ok: true, value: view.shot.frames - block.fromFrame };
  if (howFar === 'frames') return parseLength(amount, view.project.rate);
  const rounds = /^\d{1,6}$/.test(amount.trim()) ? Number(amount) : 0;
  return rounds >= 1 ? { ok: true, value: framesOf(block) * rounds } : refused(`“${amount}” is not a number of rounds: write 2, 3, 4 …`);
}

/** Filling to the end of the shot covers what is there: pushed, all of it would lie past the end. */
const contextFor = (view: View, howFar: string): EditContext => ({
  ...contextNow(view),
  ...(howFar === 'end' ? { following: 'overwrite' as const } : {}),
});

const HOW_FAR = {
  id: 'howFar',
  label: 'How far',
  start: 'end',
  options: [
    { value: 'end', label: 'to the end of the shot' },
    { value: 'rounds', label: 'so many rounds' },
    { value: 'frames', label: 'so many frames' },
  ],
};

const askToCycle = () =>
  withBlock((view, block) =>
    ask({
      title: 'Cycle the block',
      about: 'The block goes round and round from where it begins; the last round is cut where the frames end.',
      confirm: 'Cycle',
      fields: [
        HOW_FAR,
        { id: 'amount', label: 'Rounds or frames (rounds as 3, frames as 96 or 4s)', start: '2' },
        { id: 'from', label: 'Begin with which exposure of the block', start: '1' },
      ],
      read: ({ howFar = 'end', amount = '', from = '1' }) => {
        const frames = framesToFill(view, block, howFar, amount);
        if (!frames.ok) return frames;
        return cycleBlock(contextFor(view, howFar), block, frames.value, Number(from.trim() || Number.NaN));
      },
    }),
  );

const askForThereAndBack = () =>
  withBlock((view, block) =>
    ask({
      title: PING_PONG,
      about: 'The block forwards, then backwards, with each end once, so that no drawing is held twice where it turns.',
      confirm: PING_PONG,
      fields: [
        {
          ...HOW_FAR,
          start: 'once',
          options: [{ value: 'once', label: 'once' }, ...HOW_FAR.options.filter(({ value }) => value !== 'rounds')],
        },
        { id: 'amount', label: 'Frames, as 96 or 4s', start: String(framesOf(block) * 2) },
      ],
      read: ({ howFar = 'once', amount = '' }) => {
        if (howFar === 'once') return thereAndBackBlock(contextNow(view), block);
        const frames = framesToFill(view, block, howFar, amount);
        return frames.ok ? thereAndBackBlock(contextFor(view, howFar), block, frames.value) : frames;
      },
    }),
  );

const askToMove = () =>
  withBlock((view, block) =>
    ask({
      title: 'Move the block',
      about: 'To another frame of the same levels.',
      confirm: 'Move',
      fields: [
        { id: 'frame', label: 'Its first frame will be, as 25 or 1s', start: String(block.fromFrame + view.project.firstFrameNumber) },
        {
          id: 'following',
          label: 'What is there',
          start: useViewStore.getState().following,
          options: [
            { value: 'push', label: 'moves down' },
            { value: 'overwrite', label: 'is covered' },
          ],
        },
      ],
      read: ({ frame = '', following }) => {
        const to = parseMoment(frame, view.project.rate, view.project.firstFrameNumber);
        if (!to.ok) return to;
        return moveBlock({ ...contextNow(view), following: following === 'push' ? 'push' : 'overwrite' }, block, to.value);
      },
      done: ({ frame = '' }) => {
        const to = parseMoment(frame, view.project.rate, view.project.firstFrameNumber);
        if (to.ok)
          useViewStore.setState({ frame: to.value, selection: { ...block, fromFrame: to.value, toFrame: to.value + framesOf(block) - 1 } });
      },
    }),
  );

const nudge = (by: -1 | 1) =>
  withBlock((view, block) => {
    const moved = { ...block, fromFrame: block.fromFrame + by, toFrame: block.toFrame + by };
    if (takeOnBlock((context) => moveBlock({ ...context, following: 'overwrite' }, block, moved.fromFrame)))
      useViewStore.setState({ selection: moved, frame: Math.max(0, Math.min(view.shot.frames - 1, view.frame + by)) });
  });

/** Commands that make a pattern of a block, or move it. */
export const patternCommands: readonly Command[] = partOf('sheet', [
  { id: 'cycle', group, words: () => 'Cycle the block …', keys: ['Y'], hindrance: noBlock, run: askToCycle },
  { id: 'there-and-back', group, words: () => 'Ping-pong …', keys: ['Shift+Y'], hindrance: noBlock, run: askForThereAndBack },
  { id: 'reverse', group, words: () => 'Reverse the block', keys: ['V'], hindrance: noBlock, run: () => takeOnBlock(reverseBlock) },
  {
    id: 'stagger',
    group,
    words: () => 'Stagger the block (1 3 2 4 3 5)',
    keys: ['Shift+S'],
    hindrance: noBlock,
    run: () => takeOnBlock(staggerBlock),
  },
  { id: 'move', group, words: () => 'Move the block to a frame …', keys: ['Shift+M'], run: askToMove },
  {
    id: 'nudge-down',
    group,
    words: () => 'Move the block one frame down, over what is there',
    keys: ['Alt+Shift+ArrowDown'],
    run: () => nudge(1),
  },
  {
    id: 'nudge-up',
    group,
    words: () => 'Move the block one frame up, over what is there',
    keys: ['Alt+Shift+ArrowUp'],
    run: () => nudge(-1),
  },
]);
