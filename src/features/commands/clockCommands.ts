import { done, refused } from '@/core/outcome';
import { framesOfReel, placedItems } from '@/core/reel/reel';
import { stepByDrawing, stepByKey } from '@/core/sheet/reading';
import { countsOfMoment, parseMoment } from '@/core/time/counts';
import { nominalRate } from '@/core/time/rate';
import { GO_THERE, STOP } from '@/core/words';
import { ask } from '@/features/commands/ask';
import type { Command } from '@/features/commands/command';
import { inView } from '@/features/project/hooks';
import { extendSelection, goToFrame, goToLevel, goToReelFrame } from '@/features/project/navigation';
import { type FrameRange, useViewStore } from '@/features/project/viewStore';
import { useProjectStore } from '@/features/sync/projectStore';

const group = 'Frames';

function byFrame(step: number): void {
  const view = inView();
  if (view) goToFrame(view.frame + step);
}

function bySecond(direction: -1 | 1): void {
  const view = inView();
  if (view) goToFrame(view.frame + direction * nominalRate(view.project.rate));
}

function byDrawing(direction: -1 | 1): void {
  const view = inView();
  if (view?.level) goToFrame(stepByDrawing(view.level, view.frame, direction, view.shot.frames - 1));
}

function byKey(direction: -1 | 1): void {
  const view = inView();
  const frame = view?.level && stepByKey(view.level, view.frame, direction);
  if (frame !== undefined) goToFrame(frame);
}

function extend(frames: number): void {
  const view = inView();
  if (view?.level) extendSelection(view.frame + frames, useViewStore.getState().selection?.levelIds.at(-1) ?? view.level.id);
}

/** Goes to a frame of what is played, the shot or the reel. */
const goTo = (frame: number): void => (useViewStore.getState().onReel ? goToReelFrame(frame) : goToFrame(frame));

/** Asks for a moment in any count and goes there. */
function askWhereTo(): void {
  const view = inView();
  if (!view) return;
  const { project, shot } = view;
  const { onReel, reelFrame } = useViewStore.getState();
  const frames = onReel ? framesOfReel(project) : shot.frames;
  const what = onReel ? 'the reel' : `shot ${shot.code}`;
  const read = (text: string) => parseMoment(text, project.rate, project.firstFrameNumber);
  ask({
    title: 'Go to a moment',
    about: `In ${what}: a frame’s number, or seconds, timecode or feet since it began.`,
    confirm: GO_THERE,
    fields: [
      {
        id: 'moment',
        label: 'As 31, 1s6, 00:00:01:06 or 1+14',
        start: String((onReel ? reelFrame : view.frame) + project.firstFrameNumber),
      },
    ],
    read: ({ moment = '' }) => {
      const frame = read(moment);
      if (!frame.ok) return frame;
      if (frame.value >= frames)
        return refused(`${onReel ? 'The reel' : `Shot ${shot.code}`} ends with frame ${frames - 1 + project.firstFrameNumber}.`);
      const counts = countsOfMoment(frame.value, project.rate, project.firstFrameNumber);
      return done({ says: `Frame ${counts.frame}: ${counts.seconds} s · ${counts.timecode} · ${counts.footage}` });
    },
    done: ({ moment = '' }) => {
      const frame = read(moment);
      if (frame.ok) goTo(frame.value);
    },
  });
}

/** Starts or stops playback; what was selected stays. */
export const togglePlaying = () => useViewStore.setState((state) => ({ playing: !state.playing }));

/** The frames of the reel from the first to the last of the items chosen on it; null when none is. */
function chosenOnReel(): FrameRange | null {
  const { project } = useProjectStore.getState();
  const { reelSelection } = useViewStore.getState();
  const chosen = project ? placedItems(project).filter(({ item }) => reelSelection.includes(item.id)) : [];
  const [first, last] = [chosen[0], chosen.at(-1)];
  return first && last ? { fromFrame: first.startFrame, toFrame: last.endFrame - 1 } : null;
}

function toggleReelLoop(): void {
  const { reelLoop } = useViewStore.getState();
  const range = chosenOnReel();
  const isLooped = range && reelLoop?.fromFrame === range.fromFrame && reelLoop.toFrame === range.toFrame;
  useViewStore.setState({ reelLoop: isLooped ? null : range });
}

/** Loops over the selection, or over the whole shot, or reel, again. */
export function toggleLoop(): void {
  const { onReel, loop, selection } = useViewStore.getState();
  if (onReel) toggleReelLoop();
  else if (selection && (loop?.fromFrame !== selection.fromFrame || loop.toFrame !== selection.toFrame)) {
    useViewStore.setState({ loop: { fromFrame: selection.fromFrame, toFrame: selection.toFrame } });
  } else useViewStore.setState({ loop: null });
}

/** Moving through the frames of a shot. */
export const clockCommands: readonly Command[] = [
  { id: 'play', group, words: () => (useViewStore.getState().playing ? STOP : 'Play'), keys: ['Space'], run: togglePlaying },
  { id: 'frame-next', group, words: () => 'Next frame', keys: ['ArrowDown'], run: () => byFrame(1) },
  { id: 'frame-before', group, words: () => 'Frame before', keys: ['ArrowUp'], run: () => byFrame(-1) },
  { id: 'drawing-next', group, words: () => 'Next drawing', keys: ['Shift+ArrowDown'], run: () => byDrawing(1) },
  { id: 'drawing-before', group, words: () => 'Drawing before', keys: ['Shift+ArrowUp'], run: () => byDrawing(-1) },
  { id: 'key-next', group, words: () => 'Next key', keys: ['Alt+ArrowDown'], run: () => byKey(1) },
  { id: 'key-before', group, words: () => 'Key before', keys: ['Alt+ArrowUp'], run: () => byKey(-1) },
  { id: 'second-next', group, words: () => 'One second forward', keys: ['PageDown'], run: () => bySecond(1) },
  { id: 'second-before', group, words: () => 'One second back', keys: ['PageUp'], run: () => bySecond(-1) },
  { id: 'first-frame', group, words: () => 'First frame', keys: ['Home'], run: () => goTo(0) },
  { id: 'last-frame', group, words: () => 'Last frame', keys: ['End'], run: () => goTo(Number.MAX_SAFE_INTEGER) },
  { id: 'go-to', group, words: () => 'Go to a moment …', keys: ['G'], run: askWhereTo },
  { id: 'level-right', group, place: 'sheet', words: () => 'Level to the right', keys: ['ArrowRight'], run: () => goToLevel(1) },
  { id: 'level-left', group, place: 'sheet', words: () => 'Level to the left', keys: ['ArrowLeft'], run: () => goToLevel(-1) },
  { id: 'select-down', group, place: 'sheet', words: () => 'Extend selection down', keys: ['Mod+ArrowDown'], run: () => extend(1) },
  { id: 'select-up', group, place: 'sheet', words: () => 'Extend selection up', keys: ['Mod+ArrowUp'], run: () => extend(-1) },
  {
    id: 'loop',
    group,
    words: () => (useViewStore.getState().selection ? 'Loop over the selection' : 'Loop over the whole shot'),
    keys: ['L'],
    run: toggleLoop,
  },
];
