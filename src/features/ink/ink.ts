import getStroke from 'perfect-freehand';
import type { InkStroke } from '@/contracts/local';
import type { Box } from '@/core/raster/bounds';

/** A point of a stroke: place in pixels of the picture, pressure from 0 to 1. */
export type InkPoint = InkStroke['points'][number];

/** What a stroke is drawn with. */
export type Ink = InkStroke['ink'];

type AnyContext = CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D;

/** How much thinner a light touch is than a firm one: half the width is pressure's. */
const THINNING = 0.55;

/** How far a soft edge runs, in parts of the brush's size, when there is no hardness at all. */
const SOFTEST = 0.35;

const softPx = ({ sizePx, hardnessPercent }: Ink) => sizePx * SOFTEST * (1 - hardnessPercent / 100);

/** The outline of a stroke as corners of a closed shape. `last` closes its end. */
function outlineOf({ ink, hasPressure, points }: InkStroke, last: boolean): readonly (readonly number[])[] {
  const smoothing = ink.smoothingPercent / 100;
  return getStroke(
    points.map(({ x, y, pressure }) => [x, y, pressure]),
    {
      size: ink.sizePx,
      thinning: ink.kind === 'eraser' ? 0 : THINNING,
      smoothing,
      streamline: smoothing * 0.7,
      simulatePressure: !hasPressure,
      start: { taper: ink.taperPx, cap: true },
      end: { taper: ink.taperPx, cap: true },
      last,
    },
  );
}

/** A path through the middles of an outline's sides, so that its corners are round. */
function roundPath(outline: readonly (readonly number[])[]): Path2D {
  const path = new Path2D();
  outline.forEach(([x = 0, y = 0], index) => {
    const [nextX = 0, nextY = 0] = outline[(index + 1) % outline.length] ?? [];
    if (index === 0) path.moveTo((x + nextX) / 2, (y + nextY) / 2);
    else path.quadraticCurveTo(x, y, (x + nextX) / 2, (y + nextY) / 2);
  });
  path.closePath();
  return path;
}

function boxOf(outline: readonly (readonly number[])[], marginPx: number): Box {
  const box = {
    left: Number.POSITIVE_INFINITY,
    top: Number.POSITIVE_INFINITY,
    right: Number.NEGATIVE_INFINITY,
    bottom: Number.NEGATIVE_INFINITY,
  };
  for (const [x = 0, y = 0] of outline) {
    box.left = Math.min(box.left, x);
    box.top = Math.min(box.top, y);
    box.right = Math.max(box.right, x);
    box.bottom = Math.max(box.bottom, y);
  }
  return {
    left: Math.floor(box.left - marginPx),
    top: Math.floor(box.top - marginPx),
    right: Math.ceil(box.right + marginPx),
    bottom: Math.ceil(box.bottom + marginPx),
  };
}

/** What a stroke covers: its outline in pixels of the picture, and the box of whole ones it touches with its soft edge. */
export type InkShape = { readonly ink: Ink; readonly path: Path2D; readonly box: Box };

/** The shape of a stroke; `last` closes its end. */
export function shapeOf(stroke: InkStroke, last: boolean): InkShape {
  const outline = outlineOf(stroke, last);
  return { ink: stroke.ink, path: roundPath(outline), box: boxOf(outline, Math.ceil(softPx(stroke.ink) * 3) + 2) };
}

/** Draws a shape. `scale` is how much the context itself makes smaller, which soft edges have to be told. */
export function drawShape(context: AnyContext, { ink, path }: InkShape, scale = 1): void {
  const soft = softPx(ink);
  const isEraser = ink.kind === 'eraser';
  context.globalCompositeOperation = isEraser ? 'destination-out' : 'source-over';
  context.fillStyle = isEraser ? '#000000' : ink.colour;
  if (soft > 0.25) context.filter = `blur(${soft * scale}px)`;
  context.fill(path);
  context.filter = 'none';
  context.globalCompositeOperation = 'source-over';
}

/** Draws a whole stroke onto a picture; gives the box it touched, out of which no pixel has changed. */
export function drawInk(context: AnyContext, stroke: InkStroke): Box {
  const shape = shapeOf(stroke, true);
  const { left, top, right, bottom } = shape.box;
  context.save();
  context.beginPath();
  context.rect(left, top, right - left, bottom - top);
  context.clip();
  drawShape(context, shape);
  context.restore();
  return shape.box;
}
