'use client';
import type { Level, Shot } from '@/core/sheet/document';
import { neighbourDrawing } from '@/core/sheet/reading';
import { runAt } from '@/core/sheet/runs';
import { useViewStore } from '@/features/project/viewStore';
import { type Drag, readBlockDrag, readDrag } from '@/features/sheet/drag';
import { ROW_PX } from '@/features/sheet/ExposureCell';

/** How far the onion skin reaches on the level being drawn on: ochre behind, violet ahead. */
export function OnionBracket({ level, frame, left }: { level: Level; frame: number; left: string }) {
  const onion = useViewStore((state) => state.onion);
  if (!onion.on || level.kind !== 'animated') return null;
  const here = runAt(level.exposures, frame);
  const start = here?.drawing ? here.startFrame : frame;
  const end = here?.drawing ? here.endFrame : frame + 1;
  const first = furthest(level, start, 'before', onion.before)?.startFrame ?? start;
  const last = furthest(level, end - 1, 'after', onion.after)?.endFrame ?? end;
  const bar = (fromFrame: number, toFrame: number, colour: string) =>
    toFrame > fromFrame && (
      <div
        className={`pointer-events-none absolute w-[3px] rounded-full ${colour}`}
        style={{ left: `calc(${left} - 4px)`, top: fromFrame * ROW_PX + 1, height: (toFrame - fromFrame) * ROW_PX - 2 }}
      />
    );
  return (
    <>
      {bar(first, start, 'bg-ochre-mark')}
      {bar(end, last, 'bg-violet-mark')}
    </>
  );
}

function furthest(level: Level, frame: number, direction: 'before' | 'after', steps: number) {
  for (let step = steps; step > 0; step--) {
    const run = neighbourDrawing(level, frame, direction, step);
    if (run) return run;
  }
  return undefined;
}

type HintProps = {
  drag: Drag;
  shot: Shot;
  columns: readonly Level[];
  left: (column: number) => string;
  columnWidth: string;
  firstNumber: number;
};

/** While a drag lasts: what it will cover, and what it will do in frames. */
export function DragHint({ drag, shot, columns, left, columnWidth, firstNumber }: HintProps) {
  const following = useViewStore((state) => state.following);
  const levelIds = drag.kind === 'block' ? drag.block.levelIds : [drag.levelId];
  const places = levelIds.map((id) => columns.findIndex((level) => level.id === id)).filter((place) => place >= 0);
  const level = columns[places[0] ?? -1];
  if (!level) return null;
  const result =
    drag.kind === 'block' ? readBlockDrag(drag, shot, following, firstNumber) : readDrag(drag, shot, level, following, firstNumber);
  const top = result.fromFrame * ROW_PX;
  const height = (result.toFrame - result.fromFrame + 1) * ROW_PX;
  return (
    <>
      <div
        className="pointer-events-none absolute z-20 rounded-[7px] border-2 border-ink bg-lime/40"
        style={{ top, height, left: left(Math.min(...places)), width: `calc(${columnWidth} * ${places.length} - 4px)` }}
      />
      <output
        className="numbers pointer-events-none absolute z-30 whitespace-nowrap rounded-md bg-ink px-2 py-1 text-2xs text-paper"
        style={{ top: top + height + 3, left: 8 }}
      >
        {result.words}
      </output>
    </>
  );
}
