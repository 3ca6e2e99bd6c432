'use client';
import type { Level, Shot } from '@/core/document/model';
import { useViewStore } from '@/features/project/viewStore';
import { type Drag, readBlockDrag, readDrag } from '@/features/sheet/drag';
import { ROW_PX } from '@/features/sheet/sheetRows';

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
