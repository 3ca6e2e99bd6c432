'use client';
import { closestCenter, DndContext, type DragEndEvent } from '@dnd-kit/core';
import { SortableContext, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { useVirtualizer } from '@tanstack/react-virtual';
import { Plus } from 'lucide-react';
import { useMemo, useRef, useState } from 'react';
import { applyStep } from '@/core/edit/table';
import { framesOfReel, placedShots, reelIndexOf, shotsInOrder } from '@/core/reel/reel';
import { lengthCounts, plural } from '@/core/time/counts';
import { CommandMenu } from '@/features/commands/CommandMenu';
import { insertShot, moveItemTo, reelWords, shotCommands } from '@/features/commands/shotCommands';
import { ShotRow } from '@/features/plan/ShotRow';
import { useProject, useShot } from '@/features/project/hooks';
import { Button } from '@/ui/Button';
import { sortableWords, useSortableSensors } from '@/ui/sortable';

/** About as tall as a row is. */
const ROW_PX = 37;

const HEADS = ['', '', 'Code', 'Name', 'Starts on', 'Frames', 'Seconds', 'Drawn', 'Note'];

/** All shots in order, with where each starts and how long it is; order, codes, names, lengths and notes are changed here. */
export function ShotList() {
  const project = useProject();
  const open = useShot();
  const [said, setSaid] = useState<string | null>(null);
  const total = framesOfReel(project);
  const counts = lengthCounts(Math.max(1, total), project.rate);
  const sensors = useSortableSensors();
  const shots = shotsInOrder(project);
  const places = useMemo(
    () =>
      new Map(
        placedShots(project)
          .toReversed()
          .map((placed) => [placed.shot.id, placed]),
      ),
    [project],
  );
  // Each shot once, by the item that shows it first; one that is left out of the reel by its own id.
  const rowIds = useMemo(() => shots.map((shot) => places.get(shot.id)?.item.id ?? shot.id), [shots, places]);
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({ count: shots.length, getScrollElement: () => scroller.current, estimateSize: () => ROW_PX, overscan: 10 });
  const seen = rows.getVirtualItems();
  const above = seen[0]?.start ?? 0;
  const below = rows.getTotalSize() - (seen.at(-1)?.end ?? 0);
  const placeOf = (id: unknown) => project.reel.items.findIndex((item) => item.id === id);

  const onDragEnd = ({ active, over }: DragEndEvent) => {
    setSaid(null);
    if (over && over.id !== active.id && placeOf(over.id) >= 0) moveItemTo(project, String(active.id), placeOf(over.id));
  };
  const tellMove = (activeId: unknown, overId: unknown) => {
    const after = applyStep(project, { type: 'moveItem', itemId: String(activeId), index: placeOf(overId) });
    setSaid(after.ok && activeId !== overId ? reelWords(project, after.value) : null);
  };

  return (
    <section aria-label="Shots" className="flex min-h-0 flex-1 flex-col">
      <header className="flex items-center gap-2 px-3.5 py-1.5">
        <p className="numbers truncate text-soft text-xs" data-testid="reel-total">
          {said ??
            `${plural(project.shots.length, 'shot')}, ${plural(total, 'frame')} = ${counts.seconds} s · ${counts.timecode} · ${counts.footage} ft`}
        </p>
        <span className="ml-auto flex gap-1">
          <CommandMenu label="Shot" commands={shotCommands} />
          <Button onClick={() => insertShot(project, open ? reelIndexOf(project, open.id) + 1 : project.reel.items.length)}>
            <Plus size={13} /> New shot
          </Button>
        </span>
      </header>
      <div ref={scroller} className="min-h-0 flex-1 overflow-auto px-2 pb-2">
        <DndContext
          sensors={sensors}
          collisionDetection={closestCenter}
          accessibility={sortableWords(rowIds, (id) => `Shot ${shots[rowIds.indexOf(id)]?.code}`)}
          onDragOver={({ active, over }) => tellMove(active.id, over?.id ?? active.id)}
          onDragEnd={onDragEnd}
          onDragCancel={() => setSaid(null)}
        >
          <SortableContext items={rowIds} strategy={verticalListSortingStrategy}>
            <table className="w-full text-left">
              <thead className="sticky top-0 z-10 bg-paper text-soft text-xs">
                <tr>
                  {HEADS.map((head, index) => (
                    // biome-ignore lint/suspicious/noArrayIndexKey: heads never change places
                    <th key={index} scope="col" className="px-1.5 py-0.5 font-normal">
                      {head}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {above > 0 && <tr style={{ height: above }} />}
                {seen.map(({ index }) => {
                  const shot = shots[index];
                  const placed = shot && places.get(shot.id);
                  return (
                    shot && (
                      <ShotRow
                        key={rowIds[index]}
                        itemId={rowIds[index] ?? shot.id}
                        shot={shot}
                        place={placed ?? null}
                        isOpen={shot.id === open?.id}
                        onSaid={setSaid}
                      />
                    )
                  );
                })}
                {below > 0 && <tr style={{ height: below }} />}
              </tbody>
            </table>
          </SortableContext>
        </DndContext>
      </div>
    </section>
  );
}
