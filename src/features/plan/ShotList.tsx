'use client';
import { closestCenter, DndContext, type DragEndEvent } from '@dnd-kit/core';
import { SortableContext, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import { applyStep } from '@/core/edit/table';
import { framesOfReel, placedShots, reelIndexOf } from '@/core/reel/reel';
import { lengthCounts, plural } from '@/core/time/counts';
import { CommandMenu } from '@/features/commands/CommandMenu';
import { insertShot, moveItemTo, reelWords, shotCommands } from '@/features/commands/shotCommands';
import { ShotRow } from '@/features/plan/ShotRow';
import { useProject, useShot } from '@/features/project/hooks';
import { Button } from '@/ui/Button';
import { useSortableSensors } from '@/ui/sortable';

const HEADS = ['', '', 'Code', 'Name', 'Starts on', 'Frames', 'Seconds', 'Drawn', 'Note'];

/** All shots in order, with where each starts and how long it is; order, codes, names, lengths and notes are changed here. */
export function ShotList() {
  const project = useProject();
  const open = useShot();
  const [said, setSaid] = useState<string | null>(null);
  const total = framesOfReel(project);
  const counts = lengthCounts(Math.max(1, total), project.rate);
  const sensors = useSortableSensors();
  const placeOf = (id: unknown) => project.reel.items.findIndex((item) => item.id === id);

  const onDragEnd = ({ active, over }: DragEndEvent) => {
    setSaid(null);
    if (over && over.id !== active.id) moveItemTo(project, String(active.id), placeOf(over.id));
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
      <div className="min-h-0 flex-1 overflow-auto px-2 pb-2">
        <DndContext
          sensors={sensors}
          collisionDetection={closestCenter}
          onDragOver={({ active, over }) => tellMove(active.id, over?.id ?? active.id)}
          onDragEnd={onDragEnd}
          onDragCancel={() => setSaid(null)}
        >
          <SortableContext items={project.reel.items.map((item) => item.id)} strategy={verticalListSortingStrategy}>
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
                {placedShots(project).map(({ item, shot, startFrame }) => (
                  <ShotRow
                    key={item.id}
                    itemId={item.id}
                    shot={shot}
                    startFrame={startFrame}
                    isOpen={shot.id === open?.id}
                    onSaid={setSaid}
                  />
                ))}
              </tbody>
            </table>
          </SortableContext>
        </DndContext>
      </div>
    </section>
  );
}
