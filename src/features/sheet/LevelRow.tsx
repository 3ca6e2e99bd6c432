'use client';
import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { Eye, EyeOff, Footprints, GripVertical, Image, Layers2, Lock, LockOpen, Spotlight } from 'lucide-react';
import { memo, type ReactNode } from 'react';
import type { Level, LevelKind, Shot, Size } from '@/core/document/model';
import { drawingShownAt } from '@/core/sheet/reading';
import { workOfLevel } from '@/core/sheet/work';
import { hint } from '@/features/commands/everyCommand';
import { describeLevel, toggleAlone } from '@/features/commands/levelCommands';
import { useSoon } from '@/features/project/useCalm';
import { useViewStore } from '@/features/project/viewStore';
import { Thumb } from '@/features/sheet/Thumb';

const THUMB_PX = 34;

const KIND_ICONS: Readonly<Record<LevelKind, ReactNode>> = {
  animated: <Layers2 size={12} aria-hidden="true" />,
  still: <Image size={12} aria-hidden="true" />,
  guide: <Footprints size={12} aria-hidden="true" />,
};

function workWords(level: Level): string {
  if (level.kind === 'guide') return 'guide';
  if (level.kind === 'still') return level.drawings[0]?.picture ? 'still' : 'still, empty';
  const work = workOfLevel(level);
  return `${work.drawn}/${work.drawings}`;
}

function Toggle({
  on,
  label,
  title,
  onClick,
  children,
}: {
  on: boolean;
  label: string;
  title: string;
  onClick: () => void;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      aria-label={label}
      aria-pressed={on}
      title={title}
      onClick={onClick}
      className={`flex size-6 items-center justify-center rounded hover:text-ink ${on ? 'text-ink' : 'text-edge'}`}
    >
      {children}
    </button>
  );
}

/** What shows on a level now, once steps rest: the paper shows it at once. */
const ShownNow = memo(function ShownNow({ level, size }: { level: Level; size: Size }) {
  const picture = useSoon(useViewStore((state) => (state.playing ? null : (drawingShownAt(level, state.frame)?.picture ?? null))));
  return (
    <span
      className={`shrink-0 overflow-hidden rounded-[3px] border ${picture ? 'border-line' : 'border-edge border-dashed'}`}
      style={{ width: THUMB_PX }}
    >
      <Thumb size={size} widthPx={THUMB_PX} layers={picture ? [{ picture, opacityPercent: 100 }] : []} />
    </span>
  );
});

/** One level of the list, dragged by its grip to another place: its kind, what shows on it now, the work on it, and what is settled about it. */
export function LevelRow({ shot, level, size, isChosen }: { shot: Shot; level: Level; size: Size; isChosen: boolean }) {
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({ id: level.id });
  const isAlone = useViewStore((state) => state.aloneLevelId === level.id);
  const isDimmed = useViewStore((state) => state.aloneLevelId !== null && state.aloneLevelId !== level.id);
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`flex items-center rounded-lg ${isChosen ? 'bg-lime-wash' : 'hover:bg-sunk'} ${isDimmed ? 'opacity-60' : ''}`}
    >
      <button
        type="button"
        aria-label={`Move ${level.name}`}
        className="flex h-8 w-6 shrink-0 cursor-grab touch-none items-center justify-center text-soft"
        {...attributes}
        {...listeners}
      >
        <GripVertical size={13} />
      </button>
      <button
        type="button"
        aria-pressed={isChosen}
        onClick={() => useViewStore.setState({ levelId: level.id, selection: null })}
        className="flex min-w-0 flex-1 items-center gap-1.5 rounded-lg py-[3px] text-left"
      >
        <ShownNow level={level} size={size} />
        <span className="min-w-0 flex-1 leading-tight">
          <span
            className={`block truncate ${level.kind === 'guide' ? 'text-soft italic' : 'font-semibold'} ${level.visible ? '' : 'line-through'}`}
          >
            {level.name}
          </span>
          <span className="numbers flex items-center gap-1 truncate text-2xs text-soft">
            {KIND_ICONS[level.kind]}
            <span className="truncate">
              {workWords(level)} · {level.opacityPercent} %{level.blend === 'normal' ? '' : ` · ${level.blend}`}
            </span>
          </span>
        </span>
      </button>
      <Toggle
        on={isAlone}
        label={`Show ${level.name} alone`}
        title={isAlone ? 'Show all levels again' : hint('Show alone while drawing', 'level-alone')}
        onClick={() => toggleAlone(level.id)}
      >
        <Spotlight size={14} />
      </Toggle>
      <Toggle
        on={level.locked}
        label={`Lock ${level.name}`}
        title={level.locked ? 'Unlock' : 'Lock: nothing on it can be changed'}
        onClick={() => describeLevel(shot, level, { locked: !level.locked })}
      >
        {level.locked ? <Lock size={14} /> : <LockOpen size={14} />}
      </Toggle>
      <Toggle
        on={level.visible}
        label={`Show ${level.name}`}
        title={level.visible ? 'Hide' : 'Show'}
        onClick={() => describeLevel(shot, level, { visible: !level.visible })}
      >
        {level.visible ? <Eye size={14} /> : <EyeOff size={14} />}
      </Toggle>
    </li>
  );
}
