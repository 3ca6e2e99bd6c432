import type { Size } from '@/core/document/model';
import type { Box } from '@/core/raster/bounds';
import { drawShape, type InkShape } from '@/features/ink/ink';

/** How far it reaches past what it is first laid for, in pixels of the page. */
const ROOM_PX = 96;

const onPaper = ({ left, top, right, bottom }: Box, { width, height }: Size): Box => ({
  left: Math.max(0, Math.floor(left)),
  top: Math.max(0, Math.floor(top)),
  right: Math.min(width, Math.ceil(right)),
  bottom: Math.min(height, Math.ceil(bottom)),
});

/** A side that has been outgrown moves on by as much as there was before, so that a long stroke outgrows it seldom; none of it lies outside the paper. */
export function grownBox(before: Box | null, wanted: Box, paper: Size): Box {
  if (!before) {
    const { left, top, right, bottom } = wanted;
    return onPaper({ left: left - ROOM_PX, top: top - ROOM_PX, right: right + ROOM_PX, bottom: bottom + ROOM_PX }, paper);
  }
  const [width, height] = [before.right - before.left, before.bottom - before.top];
  return onPaper(
    {
      left: wanted.left < before.left ? Math.min(wanted.left, before.left - width) : before.left,
      top: wanted.top < before.top ? Math.min(wanted.top, before.top - height) : before.top,
      right: wanted.right > before.right ? Math.max(wanted.right, before.right + width) : before.right,
      bottom: wanted.bottom > before.bottom ? Math.max(wanted.bottom, before.bottom + height) : before.bottom,
    },
    paper,
  );
}

/**
 * A small sheet on the paper, no larger than the stroke under the pen. A browser paints a canvas that has
 * changed anew as a whole, with all that lies below it: so what a movement of the pen costs goes by the
 * stroke and not by the paper.
 */
export class InkSheet {
  private readonly context: CanvasRenderingContext2D;
  /** What it covers of the paper, in whole pixels of the page; null where it is to be laid anew. */
  private box: Box | null = null;

  constructor(private readonly canvas: HTMLCanvasElement) {
    const context = canvas.getContext('2d', { willReadFrequently: true });
    if (!context) throw new Error('This browser gives no canvas to draw on.');
    this.context = context;
  }

  /**
   * Paints a shape. The paper is `paper` large on the page, `seen` pixels of its canvas are painted for it, `scale` of them for one
   * of the picture. The sheet's edges lie on whole pixels of the page, as the paper's do: anywhere else a browser would move it there,
   * and the line would jump when it ends.
   */
  paint(shape: InkShape, paper: Size, seen: Size, scale: number): void {
    const { left, top, right, bottom } = shape.box;
    const [acrossPx, downPx] = [(scale * paper.width) / seen.width, (scale * paper.height) / seen.height];
    const ink = { left: left * acrossPx, top: top * downPx, right: right * acrossPx, bottom: bottom * downPx };
    const box = grownBox(this.box, ink, paper);
    const [width, height] = [box.right - box.left, box.bottom - box.top];
    if (width <= 0 || height <= 0) return;
    this.cover(box, paper, seen);
    const { canvas, context } = this;
    context.save();
    context.scale(canvas.width / width, canvas.height / height);
    context.translate(-box.left, -box.top);
    context.scale(acrossPx, downPx);
    drawShape(context, shape, scale);
    context.restore();
  }

  /** Takes the ink away; the next stroke has a sheet of its own size. */
  clear(): void {
    if (!this.box) return;
    this.box = null;
    this.context.clearRect(0, 0, this.canvas.width, this.canvas.height);
  }

  /** Lies over a box of the paper, with nothing on it. */
  private cover(box: Box, paper: Size, seen: Size): void {
    const { box: before, canvas } = this;
    if (before && before.left === box.left && before.top === box.top && before.right === box.right && before.bottom === box.bottom) {
      this.context.clearRect(0, 0, canvas.width, canvas.height);
      return;
    }
    this.box = box;
    const [width, height] = [box.right - box.left, box.bottom - box.top];
    // Giving it a size, even the one it has, clears it.
    canvas.width = Math.max(1, Math.round((width * seen.width) / paper.width));
    canvas.height = Math.max(1, Math.round((height * seen.height) / paper.height));
    canvas.style.left = `${box.left}px`;
    canvas.style.top = `${box.top}px`;
    canvas.style.width = `${width}px`;
    canvas.style.height = `${height}px`;
  }
}
