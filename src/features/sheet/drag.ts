import type { Level, Shot } from '@/core/document/model';
import { drawingById } from '@/core/document/model';
import { holdTo, moveBlock } from '@/core/edit/blockEdits';
import { moveExposure } from '@/core/edit/drawingEdits';
import type { RestRule, Step } from '@/core/edit/step';
import type { Block } from '@/core/sheet/block';
import type { PlacedRun } from '@/core/sheet/runs';
import { plural } from '@/core/time/counts';

/** Where a drag took hold, and where it is now. */
type Grip = { readonly grabFrame: number; readonly atFrame: number };

/** A drag of one exposure, taken by its end or whole. */
export type ExposureDrag = Grip & { readonly kind: 'end' | 'move'; readonly levelId: string; readonly run: PlacedRun };

/** A drag of the block that is chosen. */
export type BlockDrag = Grip & { readonly kind: 'block'; readonly block: Block };

/** A drag on the sheet. */
export type Drag = ExposureDrag | BlockDrag;

/** What a drag would do if it ended now: the step, the words for it, and the frames it would cover (inclusive). */
export type DragResult = { readonly step: Step | null; readonly words: string; readonly fromFrame: number; readonly toFrame: number };

const unused = () => {
  throw new Error('Moving an exposure makes nothing new.');
};

/** Reads a drag as a step with its consequences in frames. `firstNumber` is what the first frame is called. */
export function readDrag(drag: ExposureDrag, shot: Shot, level: Level, following: RestRule, firstNumber: number): DragResult {
  const { run } = drag;
  const frames = run.endFrame - run.startFrame;
  const number = drawingById(level, run.drawing)?.number ?? '';
  if (drag.kind === 'end') {
    const newFrames = Math.max(1, drag.atFrame - run.startFrame + 1);
    const moved = newFrames - frames;
    const context = { shot, firstNumber, following, newId: unused };
    const edit = holdTo(context, level, run.startFrame, run.startFrame + newFrames - 1);
    const said = edit.ok ? edit.value.says.replace(/^.* → \d[\d,]* frames?/, '') : '';
    return {
      words: `${number}: ${frames} → ${plural(newFrames, 'frame')}${said}`,
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
  const edit = moveExposure({ shot, firstNumber, following, newId: unused }, level, run.startFrame, start);
  return {
    words: edit.ok ? edit.value.says : edit.reason,
    step: edit.ok ? edit.value.step : null,
    fromFrame: start,
    toFrame: start + frames - 1,
  };
}

/** Reads a drag of a block: over what is there, or pushing it, as new lengths do. */
export function readBlockDrag({ block, grabFrame, atFrame }: BlockDrag, shot: Shot, following: RestRule, firstNumber: number): DragResult {
  const frames = block.toFrame - block.fromFrame + 1;
  const start = Math.max(0, Math.min(shot.frames - 1, block.fromFrame + atFrame - grabFrame));
  const edit = moveBlock({ shot, firstNumber, following, newId: unused }, block, start);
  return {
    words: start === block.fromFrame ? 'The block stays' : edit.ok ? edit.value.says : edit.reason,
    step: start !== block.fromFrame && edit.ok ? edit.value.step : null,
    fromFrame: start,
    toFrame: start + frames - 1,
  };
}
