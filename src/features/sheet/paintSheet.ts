import type { Drawing } from '@/core/document/model';
import { COLUMN_GAP_PX, ROW_PX } from '@/features/sheet/sheetRows';
import { colourNow } from '@/ui/look';

/*
 * The sheet's look, painted: elements for hundreds of ringed, dashed and rounded cells take longer to lay out and to paint than a
 * frame lasts. What is heard, pressed and found are plain elements over it (SheetRow). Places are pixels of the sheet, from its
 * first frame's top and its left edge.
 */

/** One exposure as it is painted. */
export type PaintedCell = {
  readonly column: number;
  /** From `startFrame` (inclusive) to `endFrame` (exclusive). */
  readonly startFrame: number;
  readonly endFrame: number;
  readonly drawing: Drawing;
  readonly isHold: boolean;
  readonly isSelected: boolean;
  /** Whether it lies past the shot's end. */
  readonly isPast: boolean;
  /** Where the drawing lies on its timing chart, when that is shown. */
  readonly place: string | undefined;
};

/** The part of the sheet a canvas holds: rows from `fromFrame` (inclusive) to `toFrame` (exclusive), columns from `leftPx` on. */
export type PaintedPart = {
  readonly fromFrame: number;
  readonly toFrame: number;
  readonly leftPx: number;
  readonly widthPx: number;
  readonly columnPx: number;
  /** Where the first column stands. */
  readonly headPx: number;
};

const RADIUS_PX = 6;
const NUMBER_PX = 11;
/** The face of numbers; the narrow cut is asked for by its name, since not every browser takes it by percent. */
const NUMBER_FONT = `condensed 600 ${NUMBER_PX}px "Martian Mono Variable", monospace`;
const RULER_FONT = `condensed 400 ${NUMBER_PX}px "Martian Mono Variable", monospace`;
const RULER_FONT_BOLD = `condensed 700 ${NUMBER_PX}px "Martian Mono Variable", monospace`;
/** Where the ruler's numbers end. */
const NUMBERS_RIGHT_PX = 30;
/** Where a number stands in its cell, beside the leaning ticks. */
const NUMBER_LEFT_PX = 14;
const DASH_PX = [3, 3];
const HOLD_EDGE_PX = 3;

const COLOURS = ['ink', 'soft', 'edge', 'line', 'sunk', 'hold', 'moss', 'lime-wash', 'onwash'] as const;
type Palette = Readonly<Record<(typeof COLOURS)[number], string>>;
const paletteNow = () => Object.fromEntries(COLOURS.map((name) => [name, colourNow(name)])) as Palette;

/** Readies a canvas for a part of the sheet; null when the browser gives none. */
function contextOf(canvas: HTMLCanvasElement, leftPx: number, topPx: number, widthPx: number, heightPx: number, pixelRatio: number) {
  const context = canvas.getContext('2d');
  if (!context) return null;
  const [width, height] = [Math.ceil(widthPx * pixelRatio), Math.ceil(heightPx * pixelRatio)];
  if (canvas.width !== width) canvas.width = width;
  if (canvas.height !== height) canvas.height = height;
  context.setTransform(pixelRatio, 0, 0, pixelRatio, -leftPx * pixelRatio, -topPx * pixelRatio);
  return context;
}

/** One leaning tick for every frame an exposure holds, as far as the part shows them. */
function paintTicks(context: CanvasRenderingContext2D, cell: PaintedCell, left: number, part: PaintedPart): void {
  context.beginPath();
  for (let frame = Math.max(cell.startFrame, part.fromFrame - 1); frame < Math.min(cell.endFrame, part.toFrame + 1); frame++) {
    const top = frame * ROW_PX + 2;
    context.moveTo(left + 6, top + 11.5);
    context.lineTo(left + 8.4, top + 4.5);
  }
  context.stroke();
}

/** A dashed outline whose dashes meet from part to part: those of the sides are counted from the sheet's top. */
function paintDashed(context: CanvasRenderingContext2D, x: number, y: number, width: number, height: number, part: PaintedPart): void {
  const round = Math.min(RADIUS_PX, height / 2);
  const [top, bottom] = [part.fromFrame * ROW_PX, part.toFrame * ROW_PX];
  const [from, to] = [Math.max(y + round, top - DASH_PX.length * 3), Math.min(y + height - round, bottom + 6)];
  context.setLineDash(DASH_PX);
  context.lineDashOffset = from;
  context.beginPath();
  if (to > from) {
    context.moveTo(x, from);
    context.lineTo(x, to);
    context.moveTo(x + width, from);
    context.lineTo(x + width, to);
  }
  context.stroke();
  context.lineDashOffset = 0;
  context.beginPath();
  if (y + round >= top) {
    context.moveTo(x, y + round);
    context.arcTo(x, y, x + round, y, round);
    context.lineTo(x + width - round, y);
    context.arcTo(x + width, y, x + width, y + round, round);
  }
  if (y + height - round <= bottom) {
    context.moveTo(x, y + height - round);
    context.arcTo(x, y + height, x + round, y + height, round);
    context.lineTo(x + width - round, y + height);
    context.arcTo(x + width, y + height, x + width, y + height - round, round);
  }
  context.stroke();
  context.setLineDash([]);
}

/** A drawing's number with the paper charts' marks: keys ringed, breakdowns underlined, in-betweens plain (common practice). */
function paintNumber(
  context: CanvasRenderingContext2D,
  palette: Palette,
  { drawing, startFrame, endFrame, place }: PaintedCell,
  left: number,
): void {
  const isTight = endFrame - startFrame === 1;
  const middle = startFrame * ROW_PX + (isTight ? 8.5 : 9);
  const baseline = middle + 4;
  const width = context.measureText(drawing.number).width;
  let at = left + NUMBER_LEFT_PX;
  if (drawing.role === 'key') {
    const inset = (drawing.number.length > 1 ? 4 : 6) + 1.5;
    const height = isTight ? 13 : 16;
    context.lineWidth = 1.5;
    context.beginPath();
    context.roundRect(at + 0.75, middle - height / 2 + 0.75, width + 2 * inset - 1.5, height - 1.5, height / 2);
    context.stroke();
    context.fillText(drawing.number, at + inset, baseline);
    at += width + 2 * inset;
  } else {
    context.fillText(drawing.number, at + 2, baseline);
    if (drawing.role === 'breakdown') context.fillRect(at + 2, baseline + 2, width, 1.5);
    at += width + 4;
  }
  if (place === undefined) return;
  context.font = RULER_FONT;
  context.fillStyle = palette.soft;
  context.fillText(place, at + 2, baseline);
  context.font = NUMBER_FONT;
}

function paintCell(context: CanvasRenderingContext2D, palette: Palette, cell: PaintedCell, part: PaintedPart): void {
  const left = part.headPx + cell.column * part.columnPx;
  const width = part.columnPx - COLUMN_GAP_PX;
  const top = cell.startFrame * ROW_PX + 1;
  const height = (cell.endFrame - cell.startFrame) * ROW_PX - 2;
  const { drawing, isHold, isSelected } = cell;
  const isDrawn = drawing.picture !== null;
  context.save();
  context.beginPath();
  context.rect(left, top, width, height);
  context.clip();
  context.globalAlpha = cell.isPast ? 0.5 : 1;
  context.lineWidth = 1;
  if (isDrawn || isSelected) {
    context.beginPath();
    context.roundRect(left + 0.5, top + 0.5, width - 1, height - 1, RADIUS_PX - 0.5);
    context.fillStyle = palette[isSelected ? 'lime-wash' : isHold ? 'hold' : 'sunk'];
    context.fill();
    context.strokeStyle = palette[isSelected ? 'moss' : 'line'];
    context.stroke();
    if (isHold && isDrawn && !isSelected) {
      const alpha = context.globalAlpha;
      context.globalAlpha = alpha * 0.6;
      context.fillStyle = palette.edge;
      context.fillRect(left + width - HOLD_EDGE_PX, top + 3, HOLD_EDGE_PX, height - 6);
      context.globalAlpha = alpha;
    }
  } else {
    context.strokeStyle = palette.edge;
    paintDashed(context, left + 0.5, top + 0.5, width - 1, height - 1, part);
  }
  context.strokeStyle = palette.edge;
  context.lineWidth = 2;
  const alpha = context.globalAlpha;
  context.globalAlpha = alpha * 0.75;
  paintTicks(context, cell, left, part);
  context.globalAlpha = alpha;
  if (cell.startFrame < part.toFrame && cell.startFrame >= part.fromFrame - 1) {
    const colour = palette[isSelected ? 'onwash' : isDrawn ? 'ink' : 'soft'];
    context.fillStyle = colour;
    context.strokeStyle = colour;
    paintNumber(context, palette, cell, left);
  }
  context.restore();
}

/** The ruler: every second frame's number, the first of a second in bold. */
function paintRuler(
  context: CanvasRenderingContext2D,
  palette: Palette,
  { fromFrame, toFrame }: PaintedPart,
  { firstNumber, framesPerSecond }: Ruler,
): void {
  context.textAlign = 'right';
  for (let frame = fromFrame; frame < toFrame; frame++) {
    if (frame % 2 !== 0) continue;
    const isSecond = frame % framesPerSecond === 0;
    context.font = isSecond ? RULER_FONT_BOLD : RULER_FONT;
    context.fillStyle = palette[isSecond ? 'ink' : 'soft'];
    context.fillText(String(frame + firstNumber), NUMBERS_RIGHT_PX, frame * ROW_PX + 13);
  }
  context.textAlign = 'left';
}

type Ruler = { readonly firstNumber: number; readonly framesPerSecond: number };

/** What a canvas shows: the part, and its cells by column. */
export type Painted = { readonly part: PaintedPart; readonly byColumn: ReadonlyMap<number, readonly PaintedCell[]> };

const sameCell = (a: PaintedCell, b: PaintedCell | undefined): boolean =>
  b !== undefined &&
  a.startFrame === b.startFrame &&
  a.endFrame === b.endFrame &&
  a.drawing === b.drawing &&
  a.isSelected === b.isSelected &&
  a.isHold === b.isHold &&
  a.isPast === b.isPast &&
  a.place === b.place;

const sameColumn = (a: readonly PaintedCell[], b: readonly PaintedCell[]): boolean =>
  a.length === b.length && a.every((cell, place) => sameCell(cell, b[place]));

/**
 * Paints a part of the sheet: its exposures, and the ruler where it is among it. Where the canvas shows the same part
 * already, `before`, only columns that look another way are painted again. What it shows then.
 */
export function paintPart(
  canvas: HTMLCanvasElement,
  cells: readonly PaintedCell[],
  part: PaintedPart,
  ruler: Ruler,
  pixelRatio: number,
  before: Painted | null,
): Painted | null {
  const top = part.fromFrame * ROW_PX;
  const height = (part.toFrame - part.fromFrame) * ROW_PX;
  const context = contextOf(canvas, part.leftPx, top, part.widthPx, height, pixelRatio);
  if (!context) return null;
  const palette = paletteNow();
  const byColumn = new Map<number, PaintedCell[]>();
  for (const cell of cells) byColumn.set(cell.column, [...(byColumn.get(cell.column) ?? []), cell]);
  context.lineCap = 'round';
  if (!before) {
    context.clearRect(part.leftPx, top, part.widthPx, height);
    if (part.leftPx === 0) paintRuler(context, palette, part, ruler);
  }
  context.font = NUMBER_FONT;
  for (const column of new Set([...byColumn.keys(), ...(before?.byColumn.keys() ?? [])])) {
    const now = byColumn.get(column) ?? [];
    if (before) {
      if (sameColumn(now, before.byColumn.get(column) ?? [])) continue;
      context.clearRect(part.headPx + column * part.columnPx, top, part.columnPx, height);
    }
    for (const cell of now) paintCell(context, palette, cell, part);
  }
  return { part, byColumn };
}
