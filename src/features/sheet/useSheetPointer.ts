'use client';
import { type PointerEvent, useState } from 'react';
import type { Level, Shot } from '@/core/document/model';
import type { Block } from '@/core/sheet/block';
import { columnRuns, runsTouching } from '@/core/sheet/columns';
import type { PlacedRun } from '@/core/sheet/runs';
import { extendSelection } from '@/features/project/navigation';
import { useViewStore } from '@/features/project/viewStore';
import { type Drag, readBlockDrag, readDrag } from '@/features/sheet/drag';
import { ROW_PX } from '@/features/sheet/sheetRows';
import { make } from '@/features/sync/session';

const END_PX = 6;
const THRESHOLD_PX = 4;

type SheetPress = {
  readonly x: number;
  readonly y: number;
  readonly drag: Drag | null;
  readonly selecting: boolean;
  /** What a press that was no drag comes to: the exposure that was pressed on is chosen. */
  readonly otherwise?: () => void;
};

/** The block that is chosen when a frame of a level lies in it and it is more than one exposure. */
function blockAt(level: Level, frame: number, run: PlacedRun | undefined): Block | null {
  const { selection } = useViewStore.getState();
  if (!selection?.levelIds.includes(level.id) || frame < selection.fromFrame || frame > selection.toFrame) return null;
  const isOneExposure =
    selection.levelIds.length === 1 && run !== undefined && run.startFrame <= selection.fromFrame && run.endFrame > selection.toFrame;
  return isOneExposure ? null : selection;
}

/** Pointer work on the sheet's body: press to go and select, drag an end, drag an exposure elsewhere, drag over blanks or with Shift to select many. */
export function useSheetPointer(shot: Shot, columns: readonly Level[], levelAtX: (x: number) => Level | undefined, firstNumber: number) {
  const [pressed, setPressed] = useState<SheetPress | null>(null);
  const [drag, setDrag] = useState<Drag | null>(null);

  const hit = (event: PointerEvent<HTMLElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const y = event.clientY - box.top;
    const frame = Math.max(0, Math.min(shot.frames - 1, Math.floor(y / ROW_PX)));
    return { level: levelAtX(event.clientX - box.left), frame, y };
  };

  const onPointerDown = (event: PointerEvent<HTMLElement>) => {
    if (event.button !== 0) return;
    const { level, frame, y } = hit(event);
    if (!level) {
      useViewStore.setState({ frame, selection: null });
      event.currentTarget.setPointerCapture(event.pointerId);
      setPressed({ x: event.clientX, y: event.clientY, drag: null, selecting: false });
      return;
    }
    if (event.shiftKey) {
      extendSelection(frame, level.id);
      return;
    }
    event.currentTarget.setPointerCapture(event.pointerId);
    const run = runsTouching(columnRuns(level, shot.frames), frame, frame + 1)[0];
    const isDrawing = run !== undefined && run.drawing !== null;
    const byEnd = isDrawing && y > run.endFrame * ROW_PX - END_PX;
    const choose = () =>
      useViewStore.setState({
        levelId: level.id,
        frame,
        selection:
          run && isDrawing
            ? { levelIds: [level.id], fromFrame: run.startFrame, toFrame: run.endFrame - 1 }
            : { levelIds: [level.id], fromFrame: frame, toFrame: frame },
      });
    const block = byEnd ? null : blockAt(level, frame, run);
    if (block) {
      const drag: Drag = { kind: 'block', block, grabFrame: frame, atFrame: frame };
      setPressed({ x: event.clientX, y: event.clientY, selecting: false, drag, otherwise: choose });
      return;
    }
    choose();
    setPressed({
      x: event.clientX,
      y: event.clientY,
      selecting: !isDrawing,
      drag: isDrawing ? { kind: byEnd ? 'end' : 'move', levelId: level.id, run, grabFrame: frame, atFrame: frame } : null,
    });
  };

  const onPointerMove = (event: PointerEvent<HTMLElement>) => {
    const { level, frame, y } = hit(event);
    if (!pressed) {
      const run = level && runsTouching(columnRuns(level, shot.frames), frame, frame + 1)[0];
      event.currentTarget.style.cursor = run?.drawing && y > run.endFrame * ROW_PX - END_PX ? 'ns-resize' : 'default';
      return;
    }
    if (!pressed.drag) {
      if (pressed.selecting && level) extendSelection(frame, level.id);
      else if (!pressed.selecting) useViewStore.setState({ frame });
      return;
    }
    if (!drag && Math.hypot(event.clientX - pressed.x, event.clientY - pressed.y) < THRESHOLD_PX) return;
    setDrag({ ...pressed.drag, atFrame: Math.max(0, Math.floor(y / ROW_PX)) });
  };

  /** Makes what a drag came to. */
  const finish = (ended: Drag) => {
    const { following } = useViewStore.getState();
    const level = ended.kind === 'block' ? undefined : columns.find((candidate) => candidate.id === ended.levelId);
    if (ended.kind !== 'block' && !level) return;
    const result =
      ended.kind === 'block'
        ? readBlockDrag(ended, shot, following, firstNumber)
        : readDrag(ended, shot, level as Level, following, firstNumber);
    if (!result.step || !make(result.step)) return;
    const levelIds = ended.kind === 'block' ? ended.block.levelIds : [ended.levelId];
    const before = useViewStore.getState().selection;
    const selection = { levelIds, fromFrame: result.fromFrame, toFrame: result.toFrame };
    useViewStore.setState({
      frame: Math.min(result.fromFrame, shot.frames - 1),
      selection,
      movedSelection: { from: before, to: selection },
    });
  };

  const release = (event: PointerEvent<HTMLElement>, accept: boolean) => {
    const [ended, was] = [drag, pressed];
    setPressed(null);
    setDrag(null);
    if (event.currentTarget.hasPointerCapture(event.pointerId)) event.currentTarget.releasePointerCapture(event.pointerId);
    if (!accept) return;
    if (ended) finish(ended);
    else was?.otherwise?.();
  };

  return {
    drag,
    handlers: {
      onPointerDown,
      onPointerMove,
      onPointerUp: (event: PointerEvent<HTMLElement>) => release(event, true),
      onPointerCancel: (event: PointerEvent<HTMLElement>) => release(event, false),
    },
  };
}
