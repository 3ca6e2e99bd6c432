'use client';
import { FlipHorizontal2, FlipVertical2 } from 'lucide-react';
import { type PointerEvent, useEffect, useRef } from 'react';
import type { Size } from '@/core/document/model';
import { CANCEL } from '@/core/words';
import { type Part, type PartPlace, placePart, putPartBack, putPartDown, usePartStore } from '@/features/draw/part';
import type { PaperView } from '@/features/project/paperView';

type Grip = 'move' | 'scale' | 'turn';
type HandleDrag = {
  readonly grip: Grip;
  readonly x: number;
  readonly y: number;
  readonly place: PartPlace;
  readonly middle: { x: number; y: number };
};

const SMALLEST = 0.02;
const KNOB_PX = 11;
const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
const FAR_STEP_PX = 10;
const TURN_STEP_DEGREES = 15;

/** Keys while a part is in the hand: arrows move it, Enter puts it down, Escape puts it back. They reach nothing else. */
function usePartKeys(): void {
  useEffect(() => {
    const onKeyDown = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || (event.target instanceof Element && event.target.closest('input, [role="dialog"]'))) return;
      const { place } = usePartStore.getState();
      const arrow = ARROWS[event.key];
      if (arrow) {
        const by = event.shiftKey ? FAR_STEP_PX : 1;
        placePart({ dx: place.dx + arrow[0] * by, dy: place.dy + arrow[1] * by });
      } else if (event.key === 'Enter' && !(event.target instanceof HTMLButtonElement)) putPartDown();
      else if (event.key === 'Escape') putPartBack();
      else return;
      event.preventDefault();
      event.stopPropagation();
    };
    window.addEventListener('keydown', onKeyDown, true);
    return () => window.removeEventListener('keydown', onKeyDown, true);
  }, []);
}

type Props = { part: Part; size: Size; screenPxPerPixel: number; view: PaperView };

/** What a part in the hand is held by: its box to move it, its corners to size it, a knob to turn it. */
export function PartHandles({ part, size, screenPxPerPixel, view }: Props) {
  const { mirrored, turnDegrees, zoom } = view;
  const place = usePartStore((state) => state.place);
  const frame = useRef<HTMLDivElement>(null);
  const held = useRef<HandleDrag | null>(null);
  usePartKeys();

  const take = (grip: Grip) => (event: PointerEvent<HTMLElement>) => {
    event.stopPropagation();
    if (event.button !== 0 || !frame.current) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const box = frame.current.getBoundingClientRect();
    held.current = {
      grip,
      x: event.clientX,
      y: event.clientY,
      place,
      middle: { x: box.left + box.width / 2, y: box.top + box.height / 2 },
    };
  };
  const drag = (event: PointerEvent<HTMLElement>) => {
    const from = held.current;
    if (!from) return;
    event.stopPropagation();
    const { middle } = from;
    if (from.grip === 'move') {
      const radians = (-turnDegrees * Math.PI) / 180;
      const [x, y] = [event.clientX - from.x, event.clientY - from.y];
      const alongX = (x * Math.cos(radians) - y * Math.sin(radians)) * (mirrored ? -1 : 1);
      const alongY = x * Math.sin(radians) + y * Math.cos(radians);
      placePart({ dx: from.place.dx + alongX / screenPxPerPixel, dy: from.place.dy + alongY / screenPxPerPixel });
      return;
    }
    const [beforeX, beforeY] = [from.x - middle.x, from.y - middle.y];
    const [nowX, nowY] = [event.clientX - middle.x, event.clientY - middle.y];
    if (from.grip === 'scale') {
      const by = Math.hypot(nowX, nowY) / Math.max(1, Math.hypot(beforeX, beforeY));
      placePart({ scale: Math.max(SMALLEST, from.place.scale * by) });
      return;
    }
    const turned = ((Math.atan2(nowY, nowX) - Math.atan2(beforeY, beforeX)) * 180) / Math.PI;
    const degrees = from.place.turnDegrees + (mirrored ? -turned : turned);
    placePart({ turnDegrees: event.shiftKey ? Math.round(degrees / TURN_STEP_DEGREES) * TURN_STEP_DEGREES : degrees });
  };
  const letGo = (event: PointerEvent<HTMLElement>) => {
    if (held.current) event.stopPropagation();
    held.current = null;
  };
  const hands = (grip: Grip) => ({ onPointerDown: take(grip), onPointerMove: drag, onPointerUp: letGo, onPointerCancel: letGo });

  const { box } = part;
  const percent = (value: number, of: number) => `${(value / of) * 100}%`;
  const knob = 'absolute block rounded-full border-2 border-ink bg-lime';
  const knobStyle = { width: KNOB_PX, height: KNOB_PX };
  return (
    <div
      ref={frame}
      data-testid="part"
      className="absolute cursor-move outline-2 outline-ink outline-dashed"
      style={{
        left: percent(box.left + place.dx, size.width),
        top: percent(box.top + place.dy, size.height),
        width: percent(box.width, size.width),
        height: percent(box.height, size.height),
        transform: `rotate(${place.turnDegrees}deg) scale(${place.scale})`,
        outlineWidth: 2 / (place.scale * zoom),
      }}
      {...hands('move')}
    >
      {(['0% 0%', '100% 0%', '0% 100%', '100% 100%'] as const).map((corner, index) => {
        const [left, top] = corner.split(' ');
        return (
          <span
            key={corner}
            aria-hidden="true"
            data-corner={index}
            className={`${knob} cursor-nwse-resize`}
            style={{ ...knobStyle, left, top, transform: `translate(-50%, -50%) scale(${1 / (place.scale * zoom)})` }}
            {...hands('scale')}
          />
        );
      })}
      <span
        aria-hidden="true"
        data-turn=""
        className={`${knob} cursor-grab`}
        style={{
          ...knobStyle,
          left: '50%',
          top: -24 / (place.scale * zoom),
          transform: `translate(-50%, -50%) scale(${1 / (place.scale * zoom)})`,
        }}
        {...hands('turn')}
      />
    </div>
  );
}

/** What a part in the hand can be told, and how it is held by now. */
export function PartBar() {
  const place = usePartStore((state) => state.place);
  return (
    <div
      role="toolbar"
      aria-label="The selected part"
      className="panel absolute bottom-2 left-1/2 flex -translate-x-1/2 cursor-default items-center gap-1 whitespace-nowrap px-2 py-1 text-xs"
      onPointerDown={(event) => event.stopPropagation()}
    >
      <button
        type="button"
        aria-label="Mirror horizontally"
        title="Mirror horizontally"
        className="rounded p-1 hover:bg-sunk"
        onClick={() => placePart({ mirroredX: !place.mirroredX })}
      >
        <FlipHorizontal2 size={15} />
      </button>
      <button
        type="button"
        aria-label="Mirror vertically"
        title="Mirror vertically"
        className="rounded p-1 hover:bg-sunk"
        onClick={() => placePart({ mirroredY: !place.mirroredY })}
      >
        <FlipVertical2 size={15} />
      </button>
      <span className="numbers px-1 text-soft">
        {Math.round(place.dx)}, {Math.round(place.dy)} px · {Math.round(place.scale * 100)} % · {Math.round(place.turnDegrees)}°
      </span>
      <button type="button" className="rounded px-1.5 py-0.5 font-semibold hover:bg-sunk" onClick={putPartBack} title="Cancel (Esc)">
        {CANCEL}
      </button>
      <button type="button" className="rounded bg-ink px-1.5 py-0.5 font-semibold text-paper" onClick={putPartDown} title="Apply (Enter)">
        Apply
      </button>
    </div>
  );
}
