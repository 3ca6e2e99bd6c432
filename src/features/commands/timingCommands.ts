import { holdTo, setLengths, setStepKeepingTime, stepWord } from '@/core/edit/blockEdits';
import { refused } from '@/core/outcome';
import type { Block } from '@/core/sheet/block';
import { checkLength, parseLength, parseMoment } from '@/core/time/counts';
import { ask } from '@/features/commands/ask';
import { type Command, partOf } from '@/features/commands/command';
import { chosenBlock, contextNow, takeOnBlock, type View } from '@/features/project/editContext';
import { inView } from '@/features/project/hooks';
import { useViewStore } from '@/features/project/viewStore';

const group = 'Timing';

/** Gives the selected exposures a length, in the same order. */
export const setChosenLength = (frames: number): boolean => takeOnBlock((context, block) => setLengths(context, block, frames));

const stepKeepingTime = (frames: number) => takeOnBlock((context, block) => setStepKeepingTime(context, block, frames), true);

const digits = Array.from({ length: 9 }, (_, index) => index + 1);

const lengthCommands = digits.map(
  (frames): Command => ({
    id: `length-${frames}`,
    group,
    words: () => `Expose ${stepWord(frames)}: every drawing, new length`,
    keys: [String(frames)],
    run: () => setChosenLength(frames),
  }),
);

const timeCommands = digits.slice(0, 4).map(
  (frames): Command => ({
    id: `step-${frames}`,
    group,
    words: () => `Expose ${stepWord(frames)}: same length, ${frames === 1 ? 'more' : 'fewer'} drawings`,
    keys: [`Shift+${frames}`],
    run: () => stepKeepingTime(frames),
  }),
);

/** The view and the block a command means, once there are both. */
export function withBlock(use: (view: View, block: Block) => void): void {
  const view = inView();
  const block = view && chosenBlock(view);
  if (view && block) use(view, block);
}

const askForLength = () =>
  withBlock((view, block) =>
    ask({
      title: 'Length of the selected exposures',
      about: 'Every drawing of the block is held as long as this.',
      confirm: 'Set',
      fields: [
        { id: 'frames', label: 'Each held, as 5 or 0s12', start: '4' },
        {
          id: 'keep',
          label: 'What is kept',
          start: 'drawings',
          options: [
            { value: 'drawings', label: 'the drawings' },
            { value: 'time', label: 'the time' },
          ],
        },
      ],
      read: ({ frames = '', keep }) => {
        const length = parseLength(frames, view.project.rate);
        if (!length.ok) return length;
        return (keep === 'time' ? setStepKeepingTime : setLengths)(contextNow(view), block, length.value);
      },
    }),
  );

function askToHold(): void {
  const view = inView();
  if (!view?.level) return;
  const { level } = view;
  ask({
    title: 'Hold to a frame',
    about: 'The drawing here is held up to that frame and on it.',
    confirm: 'Hold',
    fields: [{ id: 'frame', label: 'To frame, as 48 or 2s', start: String(view.shot.frames - 1 + view.project.firstFrameNumber) }],
    read: ({ frame = '' }) => {
      const to = parseMoment(frame, view.project.rate, view.project.firstFrameNumber);
      if (!to.ok) return to;
      const length = checkLength(to.value + 1);
      return length.ok ? holdTo(contextNow(view), level, view.frame, to.value) : length;
    },
  });
}

/** Holds the drawing that the current frame is in, or the one before it, up to and with the current frame. */
const holdToHere = () =>
  takeOnBlock((context, _block, view) => {
    const { level, frame } = view;
    if (!level) return refused('There is no level here.');
    const here = level.exposures.length === 0 ? null : lastShownBefore(view);
    return here === null
      ? refused(`${level.name} has no drawing before frame ${frame + context.firstNumber} to hold.`)
      : holdTo(context, level, here, frame);
  });

/** The last frame up to now on which the level of now shows a drawing; null when there is none. */
function lastShownBefore({ level, frame }: View): number | null {
  let start = 0;
  let last: number | null = null;
  for (const run of level?.exposures ?? []) {
    if (start > frame) break;
    if (run.drawing !== null) last = start;
    start += run.frames;
  }
  return last;
}

/** Commands on how long drawings stand. */
export const timingCommands: readonly Command[] = partOf('sheet', [
  ...lengthCommands,
  { id: 'length-any', group, words: () => 'Expose for so many frames …', keys: ['0'], run: askForLength },
  ...timeCommands,
  { id: 'hold-here', group, words: () => 'Hold the drawing before up to this frame', keys: ['H'], run: holdToHere },
  { id: 'hold-to', group, words: () => 'Hold this drawing to a frame …', keys: ['Shift+H'], run: askToHold },
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
]);
