'use client';
import { closestCenter, DndContext } from '@dnd-kit/core';
import { SortableContext, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { Eye, EyeOff, GripVertical, Plus } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useEffect, useState } from 'react';
import type { Level, LevelKind, Shot } from '@/core/sheet/document';
import { workOfLevel } from '@/core/sheet/work';
import { addLevel, LEVEL_KINDS, moveLevelTo } from '@/features/acts/levelActs';
import { useLevel } from '@/features/project/hooks';
import { make } from '@/features/project/session';
import { useViewStore } from '@/features/project/viewStore';
import { CommitField } from '@/ui/Field';
import { Slider } from '@/ui/Slider';
import { useSortableSensors } from '@/ui/sortable';

function workWords(level: Level): string {
  if (level.kind === 'guide') return 'guide';
  if (level.kind === 'still') return level.drawings[0]?.picture ? 'still' : 'still, empty';
  const work = workOfLevel(level);
  return `${work.drawn}/${work.drawings}`;
}

/** One level of the list, dragged by its grip to another place. */
function LevelRow({ level, isChosen, onVisible }: { level: Level; isChosen: boolean; onVisible: () => void }) {
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({ id: level.id });
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`flex items-center gap-1 rounded-lg ${isChosen ? 'bg-lime-wash' : 'hover:bg-sunk'}`}
    >
      <button
        type="button"
        aria-label={`Move ${level.name}`}
        className="flex cursor-grab touch-none pl-1 text-soft"
        {...attributes}
        {...listeners}
      >
        <GripVertical size={13} />
      </button>
      <button
        type="button"
        aria-pressed={isChosen}
        onClick={() => useViewStore.setState({ levelId: level.id, selection: null })}
        className="flex min-w-0 flex-1 items-center justify-between gap-2 rounded-lg px-1 py-1 text-left"
      >
        <span
          className={`truncate ${level.kind === 'guide' ? 'text-soft italic' : 'font-semibold'} ${level.visible ? '' : 'line-through'}`}
        >
          {level.name}
        </span>
        <span className="numbers shrink-0 text-2xs text-soft">
          {workWords(level)} · {level.opacityPercent} %
        </span>
      </button>
      <button
        type="button"
        aria-label={`${level.name} ${level.visible ? 'seen' : 'hidden'}`}
        aria-pressed={level.visible}
        title={level.visible ? 'Hide' : 'Show'}
        onClick={onVisible}
        className="rounded p-1 text-soft hover:text-ink"
      >
        {level.visible ? <Eye size={14} /> : <EyeOff size={14} />}
      </button>
    </li>
  );
}

/** The levels of a shot, in front first, with what is drawn on each; the chosen one's name and opacity. */
export function LevelsPanel({ shot }: { shot: Shot }) {
  const chosen = useLevel();
  const sensors = useSortableSensors();
  const [opacity, setOpacity] = useState(chosen?.opacityPercent ?? 100);
  useEffect(() => setOpacity(chosen?.opacityPercent ?? 100), [chosen?.opacityPercent]);
  const describeLevel = (level: Level, change: { name?: string; visible?: boolean; opacityPercent?: number }) =>
    make({ type: 'describeLevel', shotId: shot.id, levelId: level.id, change });
  return (
    <section aria-label="Levels" className="border-line border-t p-3.5">
      <div className="mb-1.5 flex items-center justify-between">
        <h2 className="font-bold">Levels</h2>
        <DropdownMenu.Root>
          <DropdownMenu.Trigger
            aria-label="New level"
            className="flex items-center gap-1 rounded-lg border border-line bg-sunk px-2 py-0.5 font-semibold text-xs hover:border-edge"
          >
            <Plus size={12} /> Level
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content align="end" sideOffset={4} className="panel z-50 p-1.5 shadow-xl">
              {(Object.keys(LEVEL_KINDS) as LevelKind[]).map((kind) => (
                <DropdownMenu.Item
                  key={kind}
                  onSelect={() => addLevel(shot, kind)}
                  className="rounded-lg px-2.5 py-1.5 outline-none data-[highlighted]:bg-lime-wash"
                >
                  {LEVEL_KINDS[kind]}
                </DropdownMenu.Item>
              ))}
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      </div>
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragEnd={({ active, over }) => over && moveLevelTo(shot, String(active.id), String(over.id))}
      >
        <SortableContext items={shot.levels.toReversed().map((level) => level.id)} strategy={verticalListSortingStrategy}>
          <ul>
            {shot.levels.toReversed().map((level) => (
              <LevelRow
                key={level.id}
                level={level}
                isChosen={level.id === chosen?.id}
                onVisible={() => describeLevel(level, { visible: !level.visible })}
              />
            ))}
          </ul>
        </SortableContext>
      </DndContext>
      {chosen && (
        <div className="mt-2 grid grid-cols-[1fr_1fr] items-end gap-3">
          <CommitField label="Name" value={chosen.name} maxLength={60} onCommit={(name) => describeLevel(chosen, { name })} />
          <div>
            <span className="text-soft text-xs">
              Opacity <span className="numbers">{opacity} %</span>
            </span>
            <Slider
              label={`Opacity of ${chosen.name}`}
              value={opacity}
              min={0}
              max={100}
              step={5}
              onChange={setOpacity}
              onCommit={(opacityPercent) => describeLevel(chosen, { opacityPercent })}
            />
          </div>
        </div>
      )}
    </section>
  );
}
