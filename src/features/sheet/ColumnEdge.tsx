'use client';
import { setColumnWidth } from '@/features/commands/levelCommands';

/** The right edge of a column's head: dragged, all columns get so wide; pressed twice, they share the room again. */
export function ColumnEdge() {
  return (
    <span
      aria-hidden="true"
      title="Drag for wider or narrower columns (Alt . and Alt ,); press twice to let them share the room"
      className="absolute inset-y-0 right-0 w-1.5 cursor-col-resize touch-none hover:bg-line"
      onDoubleClick={() => setColumnWidth(null)}
      onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
      onPointerMove={(event) => {
        const column = event.currentTarget.parentElement?.getBoundingClientRect();
        if (column && event.buttons > 0 && event.currentTarget.hasPointerCapture(event.pointerId))
          setColumnWidth(event.clientX - column.left);
      }}
    />
  );
}
