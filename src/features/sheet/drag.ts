import { moveExposure } from '@/core/edit/acts';
import type { Following, Step } from '@/core/edit/step';
import type { Level, Shot } from '@/core/sheet/document';
import { drawingById } from '@/core/sheet/document';
import { type PlacedRun, runAt } from '@/core/sheet/runs';

/** A drag on the sheet: an exposure taken by its end, or whole. */
export type Drag = {
  readonly kind: 'end' | 'move';
  readonly levelId: string;
  readonly run: PlacedRun;
  readonly grabFrame: number;
  readonly atFrame: number;
};

/** What a drag would do if it ended now: the step, the words for it, and the frames it would cover (inclusive). */
export type DragResult = { readonly step: Step | null; readonly words: string; readonly fromFrame: number; readonly toFrame: number };

const unused = () => {
  throw new Error('Moving an exposure makes nothing new.');
};

/** Reads a drag as a step with its consequences in frames. `firstNumber` is what the first frame is called. */
export function readDrag(drag: Drag, shot: Shot, level: Level, following: Following, firstNumber: number): DragResult {
  const { run } = drag;
  const frames = run.endFrame - run.startFrame;
  const number = drawingById(level, run.drawing)?.number ?? '';
  if (drag.kind === 'end') {
    const newFrames = Math.max(1, drag.atFrame - run.startFrame + 1);
    const moved = newFrames - frames;
    const next = runAt(level.exposures, run.endFrame);
    const consequence =
      moved === 0 || !next
        ? ''
        : following === 'push'
          ? `, what follows moves ${Math.abs(moved)} ${moved > 0 ? 'down' : 'up'}`
          : moved > 0
            ? ', over what follows'
            : ', leaving blank';
    return {
      words: `${number}: ${frames} → ${newFrames} frames${consequence}`,
      fromFrame: run.startFrame,
      toFrame: run.startFrame + newFrames - 1,
      step:
        moved === 0
          ? null
          : { type: 'setLength', shotId: shot.id, levelId: level.id, atFrame: run.startFrame, frames: newFrames, following },
    };
  }
  const start = Math.max(0, Math.min(shot.frames - 1, run.startFrame + drag.atFrame - drag.grabFrame));
  if (start === run.startFrame) return { words: `${number} stays`, step: null, fromFrame: run.startFrame, toFrame: run.endFrame - 1 };
  const act = moveExposure({ shot, firstNumber, following, newId: unused }, level, run.startFrame, start);
  return {
    words: `${number}: from frame ${run.startFrame + firstNumber} to ${start + firstNumber}`,
    step: act.ok ? act.value.step : null,
    fromFrame: start,
    toFrame: start + frames - 1,
  };
}
