import { type PointerEvent as ReactPointerEvent, type RefObject, useEffect, useRef, useState } from 'react';
import type { Size } from '@/core/document/model';
import { holdPenAt } from '@/features/draw/BrushRing';
import type { Desk } from '@/features/draw/desk';
import { drawTarget, keepStroke } from '@/features/draw/keepDrawing';
import { pickUp, putPartDown, usePartStore } from '@/features/draw/part';
import { fillAt, type OnPaper, takeColourAt } from '@/features/draw/pixelTools';
import type { Ink, InkPoint } from '@/features/ink/ink';
import type { DrawTarget } from '@/features/ink/makePicture';
import { panned, pinched, onPaper as pointOnPaper, turnedBy, zoomed } from '@/features/project/paperView';
import { type Brush, useViewStore } from '@/features/project/viewStore';
import { handDraws } from '@/features/sync/hand';
import { toast } from '@/ui/toast';

type Point = { readonly x: number; readonly y: number };

/** What the pointer that is down does. */
type PointerTask =
  | { readonly kind: 'stroke'; readonly pointerId: number; readonly target: DrawTarget; readonly beganMilliseconds: number }
  | { readonly kind: 'loop'; readonly pointerId: number; readonly target: DrawTarget }
  | { readonly kind: 'pan'; readonly pointerId: number; readonly turns: boolean; readonly last: Point };

/** A loop smaller than this is a press: all of the drawing is meant. */
const SMALLEST_LOOP_PX = 8;
/** A stroke of one finger that is this young was the beginning of two. */
const SECOND_FINGER_MILLISECONDS = 250;
const WHEEL_STEP = 0.0015;
const WHEEL_DEGREES = 0.05;
const MIDDLE_BUTTON = 1;
const PEN_ERASER = 32;
const PEN_BARREL = 2;
/** A pen laid down flatter than this draws wider, up to half as wide again: the side of a pencil's lead. */
const UPRIGHT_RADIANS = Math.PI / 3;
const WIDEST_BY_TILT = 1.5;

const inkOf = (brush: Brush, erases: boolean): Ink => ({
  kind: erases ? 'eraser' : 'ink',
  colour: brush.colour,
  sizePx: erases ? brush.eraserPx : brush.sizePx,
  hardnessPercent: brush.hardnessPercent,
  smoothingPercent: brush.smoothingPercent,
  taperPx: erases ? 0 : brush.taperPx,
});

/** A pen's pressure with its tilt; half for mice and fingers, which have none. */
function pressureOf(event: PointerEvent): number {
  if (event.pointerType !== 'pen') return 0.5;
  const flat = Math.max(0, Math.min(1, (UPRIGHT_RADIANS - (event.altitudeAngle ?? Math.PI / 2)) / UPRIGHT_RADIANS));
  return Math.min(1, event.pressure * (1 + flat * (WIDEST_BY_TILT - 1)));
}

/**
 * Pointer work on the paper: strokes with pressure, tilt and the points between events; fill, colour and
 * picking up; two fingers, the wheel, the middle button and a pen's barrel button for the view. Once a pen
 * has been seen, fingers only move the paper, so that a resting hand draws nothing.
 */
export function usePaperPointer(
  room: RefObject<HTMLDivElement | null>,
  desk: Desk | null,
  size: Size,
  fit: Size,
  hindrance: () => string | null,
  onPaper: OnPaper,
) {
  const doing = useRef<PointerTask | null>(null);
  const fingers = useRef(new Map<number, Point>());
  const penSeen = useRef(false);
  const [loop, setLoop] = useState<readonly Point[] | null>(null);

  const inRoom = (event: { clientX: number; clientY: number }): Point => {
    const box = room.current?.getBoundingClientRect();
    return box ? { x: event.clientX - box.left - box.width / 2, y: event.clientY - box.top - box.height / 2 } : { x: 0, y: 0 };
  };
  const onPicture = (event: { clientX: number; clientY: number }): Point => {
    const at = pointOnPaper(useViewStore.getState().paperView, inRoom(event));
    return { x: (at.x / fit.width + 0.5) * size.width, y: (at.y / fit.height + 0.5) * size.height };
  };
  const inkPoint = (event: PointerEvent): InkPoint => ({ ...onPicture(event), pressure: pressureOf(event) });

  const dropStroke = () => {
    doing.current = null;
    setLoop(null);
    desk?.cancel();
    desk?.letGoOn();
  };

  const begin = (event: ReactPointerEvent<HTMLDivElement>) => {
    const { pointerId, pointerType, button, buttons } = event;
    if (pointerType === 'pen') penSeen.current = true;
    if (pointerType === 'touch') {
      fingers.current.set(pointerId, inRoom(event));
      const young = doing.current?.kind === 'stroke' && event.timeStamp - doing.current.beganMilliseconds < SECOND_FINGER_MILLISECONDS;
      if (fingers.current.size === 2 && young) dropStroke();
      if (fingers.current.size > 1 || penSeen.current) return;
    }
    if (doing.current) return;
    // A recorded pen is none that could be captured: it tells the paper itself where it goes.
    if (event.nativeEvent.isTrusted) event.currentTarget.setPointerCapture(pointerId);
    if (button === MIDDLE_BUTTON || (pointerType === 'pen' && (buttons & PEN_BARREL) !== 0)) {
      event.preventDefault();
      doing.current = { kind: 'pan', pointerId, turns: event.altKey, last: inRoom(event) };
      return;
    }
    const erases = pointerType === 'pen' && (buttons & PEN_ERASER) !== 0;
    if ((button !== 0 && !erases) || !desk) return;
    const { brush } = useViewStore.getState();
    if (brush.tool === 'colour' && !erases) {
      takeColourAt(desk, onPaper, onPicture(event));
      return;
    }
    if (usePartStore.getState().part) {
      putPartDown();
      return;
    }
    const picksUp = brush.tool === 'part' && !erases;
    // A line can be drawn on a picture that is still on its way; what looks at the picture has to wait for it.
    const hindered = picksUp || brush.tool === 'fill' ? hindrance() : null;
    if (hindered) {
      toast.message(hindered, { id: 'coming' });
      return;
    }
    const target = drawTarget(desk, !picksUp);
    if (!target) return;
    if (brush.tool === 'fill' && !erases) {
      fillAt(desk, target, onPaper, onPicture(event));
      return;
    }
    if (picksUp) {
      doing.current = { kind: 'loop', pointerId, target };
      setLoop([onPicture(event)]);
      return;
    }
    handDraws();
    doing.current = { kind: 'stroke', pointerId, target, beganMilliseconds: event.timeStamp };
    desk.begin(inkOf(brush, erases || brush.tool === 'eraser'), pointerType === 'pen', event.shiftKey, inkPoint(event.nativeEvent));
  };

  const moveView = (event: ReactPointerEvent<HTMLDivElement>, pan: PointerTask & { kind: 'pan' }) => {
    const at = inRoom(event);
    useViewStore.setState(({ paperView }) => ({
      paperView: pan.turns
        ? turnedBy(paperView, ((Math.atan2(at.y, at.x) - Math.atan2(pan.last.y, pan.last.x)) * 180) / Math.PI)
        : panned(paperView, at.x - pan.last.x, at.y - pan.last.y),
    }));
    doing.current = { ...pan, last: at };
  };

  const movePinch = (event: ReactPointerEvent<HTMLDivElement>) => {
    const before = [...fingers.current.values()];
    fingers.current.set(event.pointerId, inRoom(event));
    const now = [...fingers.current.values()];
    const [a, b, nowA, nowB] = [before[0], before[1], now[0], now[1]];
    const first = a && nowA;
    if (!first) return;
    if (b && nowB) useViewStore.setState(({ paperView }) => ({ paperView: pinched(paperView, [a, b], [nowA, nowB]) }));
    else if (penSeen.current) useViewStore.setState(({ paperView }) => ({ paperView: panned(paperView, nowA.x - a.x, nowA.y - a.y) }));
  };

  const move = (event: ReactPointerEvent<HTMLDivElement>) => {
    if (event.pointerType !== 'touch') holdPenAt(onPicture(event));
    const now = doing.current;
    if (fingers.current.has(event.pointerId) && now?.kind !== 'stroke' && now?.kind !== 'loop') {
      movePinch(event);
      return;
    }
    if (!now || now.pointerId !== event.pointerId) return;
    if (now.kind === 'pan') moveView(event, now);
    else if (now.kind === 'loop') setLoop((before) => [...(before ?? []), onPicture(event)]);
    else {
      handDraws();
      const { nativeEvent } = event;
      const between = nativeEvent.getCoalescedEvents?.() ?? [];
      const expected = nativeEvent.getPredictedEvents?.() ?? [];
      desk?.extend((between.length > 0 ? between : [nativeEvent]).map(inkPoint), expected.map(inkPoint));
    }
  };

  const end = (event: ReactPointerEvent<HTMLDivElement>) => {
    fingers.current.delete(event.pointerId);
    const now = doing.current;
    if (!now || now.pointerId !== event.pointerId) return;
    doing.current = null;
    if (now.kind === 'stroke') {
      handDraws();
      const ended = desk?.end();
      if (desk && ended) keepStroke(desk, now.target, ended);
      desk?.letGoOn();
    } else if (now.kind === 'loop' && desk) {
      const points = loop ?? [];
      setLoop(null);
      const [xs, ys] = [points.map(({ x }) => x), points.map(({ y }) => y)];
      const isPress = Math.max(...xs) - Math.min(...xs) < SMALLEST_LOOP_PX && Math.max(...ys) - Math.min(...ys) < SMALLEST_LOOP_PX;
      if (!pickUp(desk, now.target, isPress ? null : points))
        toast.message(isPress ? 'There is nothing drawn here to select.' : 'There is nothing drawn within the loop.');
    }
  };

  const cancel = (event: ReactPointerEvent<HTMLDivElement>) => {
    fingers.current.delete(event.pointerId);
    const now = doing.current;
    if (now?.pointerId !== event.pointerId) return;
    // The system took the pointer away: what was drawn by then was drawn. Two fingers are told apart before.
    if (now.kind === 'stroke') end(event);
    else dropStroke();
  };

  useEffect(() => {
    const element = room.current;
    if (!element) return;
    // React listens passively to the wheel, and a passive listener can't keep the page from zooming.
    const onWheel = (event: WheelEvent) => {
      event.preventDefault();
      const box = element.getBoundingClientRect();
      const at = { x: event.clientX - box.left - box.width / 2, y: event.clientY - box.top - box.height / 2 };
      useViewStore.setState(({ paperView }) => ({
        paperView: event.altKey
          ? turnedBy(paperView, (event.deltaY || event.deltaX) * WHEEL_DEGREES, at)
          : event.shiftKey
            ? panned(paperView, -(event.deltaX || event.deltaY), 0)
            : zoomed(paperView, Math.exp(-event.deltaY * WHEEL_STEP), at),
      }));
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    return () => element.removeEventListener('wheel', onWheel);
  }, [room]);

  return {
    loop,
    handlers: {
      onPointerDown: begin,
      onPointerMove: move,
      onPointerUp: end,
      onPointerCancel: cancel,
      onPointerLeave: () => holdPenAt(null),
    },
  };
}
