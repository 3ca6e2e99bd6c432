'use client';
import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { GripVertical } from 'lucide-react';
import { type PointerEvent, useState } from 'react';
import type { Shot } from '@/core/document/model';
import { isWhole, type PlacedShot } from '@/core/reel/reel';
import { workOfShot } from '@/core/sheet/work';
import { checkLength, countsOfMoment, lengthCounts, parseLength } from '@/core/time/counts';
import { leavingLayers } from '@/features/clock/previews';
import { lengthWords } from '@/features/commands/shotCommands';
import { useProject } from '@/features/project/hooks';
import { goToShot } from '@/features/project/navigation';
import { Thumb } from '@/features/sheet/Thumb';
import { make } from '@/features/sync/session';
import { CommitCell } from '@/ui/CommitCell';
import { toast } from '@/ui/toast';

/** Pixels of a drag for a frame of length. */
const PX_A_FRAME = 3;

/** A shot's length: typed in any count, or dragged by its grip; what it moves on the reel is said while it lasts. */
function LengthCell({ shot, onSaid }: { shot: Shot; onSaid: (said: string | null) => void }) {
  const project = useProject();
  const [drag, setDrag] = useState<{ x: number; frames: number } | null>(null);
  const frames = drag?.frames ?? shot.frames;
  const tell = (length: number) =>
    onSaid(length === shot.frames ? null : `${shot.code}: ${shot.frames} → ${length} frames; ${lengthWords(project, shot.id, length)}`);
  const setLength = (length: number) => {
    onSaid(null);
    if (length !== shot.frames) make({ type: 'setShotLength', shotId: shot.id, frames: length });
  };
  const onPointerMove = (event: PointerEvent<HTMLElement>) => {
    if (!drag) return;
    const length = Math.max(1, shot.frames + Math.round((event.clientX - drag.x) / PX_A_FRAME));
    if (!checkLength(length).ok || length === drag.frames) return;
    setDrag({ ...drag, frames: length });
    tell(length);
  };
  return (
    <span className="flex items-center">
      <CommitCell
        label={`Length of ${shot.code}, as 96, 4s12, 00:00:04:00 or 6+00`}
        value={String(frames)}
        className="numbers w-14"
        onType={(text) => {
          const length = parseLength(text, project.rate);
          if (length.ok) tell(length.value);
          else onSaid(length.reason);
        }}
        onLeave={() => onSaid(null)}
        onCommit={(text) => {
          const length = parseLength(text, project.rate);
          if (length.ok) setLength(length.value);
          else toast.message(length.reason);
        }}
      />
      <span
        aria-hidden="true"
        title="Drag to make the shot longer or shorter"
        className="h-4 w-1.5 cursor-ew-resize touch-none rounded-full bg-line hover:bg-edge"
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          setDrag({ x: event.clientX, frames: shot.frames });
        }}
        onPointerMove={onPointerMove}
        onPointerUp={() => {
          setDrag(null);
          setLength(frames);
        }}
        onPointerCancel={() => {
          setDrag(null);
          onSaid(null);
        }}
      />
    </span>
  );
}

type Props = {
  readonly itemId: string;
  readonly shot: Shot;
  /** Where the reel shows it first; null when it doesn't. */
  readonly place: PlacedShot | null;
  readonly isOpen: boolean;
  readonly onSaid: (said: string | null) => void;
};

/** One shot of the list. */
export function ShotRow({ itemId, shot, place, isOpen, onSaid }: Props) {
  const project = useProject();
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: itemId, disabled: place === null });
  const work = workOfShot(shot);
  const start = place && countsOfMoment(place.startFrame, project.rate, project.firstFrameNumber);
  const rewrite = (change: { code?: string; name?: string; note?: string }) => make({ type: 'describeShot', shotId: shot.id, ...change });
  return (
    <tr
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`${isOpen ? 'bg-lime-wash' : 'hover:bg-sunk'} ${isDragging ? 'relative z-20 outline outline-moss' : ''}`}
    >
      <td className="w-5 rounded-l-lg">
        <button
          type="button"
          aria-label={`Move shot ${shot.code}`}
          className="flex cursor-grab touch-none p-0.5 text-soft"
          {...attributes}
          {...listeners}
        >
          <GripVertical size={14} />
        </button>
      </td>
      <td className="w-16 py-0.5">
        <button
          type="button"
          aria-label={`Open shot ${shot.code}`}
          aria-current={isOpen || undefined}
          onClick={() => goToShot(shot.id)}
          className="block w-14 overflow-hidden rounded border border-line"
        >
          <Thumb size={project.size} widthPx={56} layers={leavingLayers(shot, Math.floor(shot.frames / 2))} />
        </button>
      </td>
      <th scope="row" className="px-0.5">
        <CommitCell
          label={`Code of ${shot.code}`}
          value={shot.code}
          maxLength={30}
          className="numbers w-12 font-semibold"
          onCommit={(code) => rewrite({ code: code.trim() })}
        />
      </th>
      <td className="px-0.5">
        <CommitCell
          label={`Name of ${shot.code}`}
          value={shot.name}
          maxLength={120}
          className="w-full min-w-24"
          onCommit={(name) => rewrite({ name })}
        />
      </td>
      <td
        className="numbers whitespace-nowrap px-1.5 text-2xs leading-[14px]"
        title={start ? `${start.seconds} s · ${start.timecode} · ${start.footage}` : 'Left out of the reel: lay it there in Assemble'}
      >
        <span className="block text-xs">
          {start?.frame ?? '–'}
          {place && !isWhole(place) && <span className="text-2xs text-soft"> trimmed</span>}
        </span>
        <span className="text-soft">{start ? `${start.timecode} · ${start.footage}` : 'not on the reel'}</span>
      </td>
      <td className="px-0.5">
        <LengthCell shot={shot} onSaid={onSaid} />
      </td>
      <td className="numbers px-1.5 text-xs">{lengthCounts(shot.frames, project.rate).seconds}</td>
      <td className="numbers px-1.5 text-xs">
        {work.drawn}/{work.drawings}
      </td>
      <td className="rounded-r-lg px-0.5">
        <CommitCell
          label={`Note of ${shot.code}`}
          value={shot.note}
          maxLength={4000}
          className="w-full min-w-20 text-soft"
          onCommit={(note) => rewrite({ note })}
        />
      </td>
    </tr>
  );
}
