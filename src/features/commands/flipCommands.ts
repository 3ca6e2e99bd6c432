import { neighboursInReach } from '@/core/sheet/onion';
import { neighbourDrawing } from '@/core/sheet/reading';
import { runAt } from '@/core/sheet/runs';
import { type Command, partOf } from '@/features/commands/command';
import { inView } from '@/features/project/hooks';
import { goToFrame } from '@/features/project/navigation';
import { useViewStore } from '@/features/project/viewStore';

const group = 'Flipping';

/** How long each drawing is looked at while flipping: about as fast as a hand turns paper. */
const LOOK_MILLISECONDS = 150;

/** Which neighbour is looked at when, over and over: from the one before to the one after and back. */
const ROLLS = { 3: [-1, 0, 1, 0], 5: [-2, -1, 0, 1, 2, 1, 0, -1] } as const;

let timer: ReturnType<typeof setInterval> | undefined;

/** The first frames of the drawings that are flipped, by how far away they are; those there aren't are left out. */
function framesAround(reach: number): ReadonlyMap<number, number> {
  const view = inView();
  const frames = new Map<number, number>();
  if (!view?.level) return frames;
  const run = runAt(view.level.exposures, view.frame);
  frames.set(0, view.frame);
  for (let step = 1; step <= reach; step++) {
    const before = neighbourDrawing(view.level, run?.startFrame ?? view.frame, 'before', step);
    const after = neighbourDrawing(view.level, (run?.endFrame ?? view.frame + 1) - 1, 'after', step);
    if (before) frames.set(-step, before.startFrame);
    if (after) frames.set(step, after.startFrame);
  }
  return frames;
}

function beginFlipping(): void {
  const { flipRoll, flippingFrom, playing } = useViewStore.getState();
  const view = inView();
  if (!view || flippingFrom !== null || playing) return;
  const frames = framesAround((flipRoll - 1) / 2);
  const roll = ROLLS[flipRoll].flatMap((step) => frames.get(step) ?? []);
  useViewStore.setState({ flippingFrom: view.frame });
  let turn = 0;
  const look = () => {
    const frame = roll[turn % roll.length];
    turn++;
    if (frame !== undefined) useViewStore.setState({ frame });
  };
  look();
  timer = setInterval(look, LOOK_MILLISECONDS);
}

/** Ends flipping: back on the frame it began on. */
export function endFlipping(): void {
  clearInterval(timer);
  const { flippingFrom } = useViewStore.getState();
  if (flippingFrom === null) return;
  useViewStore.setState({ flippingFrom: null });
  goToFrame(flippingFrom, true);
}

/** Loops over what the onion skin reaches, and plays. */
function loopOverReach(): void {
  const view = inView();
  if (!view?.level) return;
  const runs = neighboursInReach(view.level, view.frame, useViewStore.getState().onion).map(({ run }) => run);
  const here = runAt(view.level.exposures, view.frame);
  const fromFrame = Math.min(here?.startFrame ?? view.frame, ...runs.map((run) => run.startFrame));
  const toFrame = Math.max((here?.endFrame ?? view.frame + 1) - 1, ...runs.map((run) => run.endFrame - 1));
  useViewStore.setState({ loop: { fromFrame, toFrame: Math.min(toFrame, view.shot.frames - 1) }, playing: true });
}

/** Looking at a few drawings as over paper, while a key is held. */
export const flipCommands: readonly Command[] = partOf('sheet', [
  {
    id: 'flip',
    group,
    words: () => `Flip over ${useViewStore.getState().flipRoll} drawings while the key is held`,
    keys: ['Q'],
    run: beginFlipping,
    release: endFlipping,
  },
  {
    id: 'loop-reach',
    group,
    words: () => 'Play over what the onion skin reaches, again and again',
    keys: ['Alt+Q'],
    hindrance: () => (inView()?.level ? null : 'no level here'),
    run: loopOverReach,
  },
  {
    id: 'flip-roll',
    group,
    words: () => `Flip over ${useViewStore.getState().flipRoll === 3 ? 5 : 3} drawings instead`,
    keys: ['Shift+Q'],
    run: () => useViewStore.setState(({ flipRoll }) => ({ flipRoll: flipRoll === 3 ? 5 : 3 })),
  },
]);
