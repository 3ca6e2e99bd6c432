import getStroke from 'perfect-freehand';
import type { Brush } from '@/features/project/viewStore';

/** A point of a stroke: place in pixels of the picture, pressure from 0 to 1. */
export type InkPoint = { readonly x: number; readonly y: number; readonly pressure: number };

type Stroke = { readonly brush: Brush; readonly hasPressure: boolean; readonly points: InkPoint[] };

/** The outline of a stroke as a closed path. */
function outlineOf(stroke: Stroke, last: boolean): Path2D {
  const eraser = stroke.brush.tool === 'eraser';
  const outline = getStroke(
    stroke.points.map(({ x, y, pressure }) => [x, y, pressure]),
    {
      size: eraser ? stroke.brush.eraserPx : stroke.brush.sizePx,
      thinning: eraser ? 0 : 0.55,
      smoothing: 0.5,
      streamline: 0.35,
      simulatePressure: !stroke.hasPressure,
      last,
    },
  );
  const path = new Path2D();
  outline.forEach(([x = 0, y = 0], index) => {
    const [nextX = 0, nextY = 0] = outline[(index + 1) % outline.length] ?? [];
    if (index === 0) path.moveTo((x + nextX) / 2, (y + nextY) / 2);
    else path.quadraticCurveTo(x, y, (x + nextX) / 2, (y + nextY) / 2);
  });
  path.closePath();
  return path;
}

/** The sheet of paper being drawn on: one canvas of the picture's size, and the stroke under the pen. */
export class Desk {
  private readonly context: CanvasRenderingContext2D;
  private readonly before: OffscreenCanvas;
  private stroke: Stroke | null = null;
  private request = 0;
  /** Which drawing with which picture lies on the desk; ink newer than the picture is on it already. */
  shows = '';

  constructor(readonly canvas: HTMLCanvasElement) {
    const context = canvas.getContext('2d', { willReadFrequently: true });
    if (!context) throw new Error('This browser gives no canvas to draw on.');
    this.context = context;
    this.before = new OffscreenCanvas(canvas.width, canvas.height);
  }

  get drawing(): boolean {
    return this.stroke !== null;
  }

  /** Whether what is on the canvas is all of the drawing: nothing may be drawn before, or what is still coming would be lost. */
  ready = true;

  /**
   * Makes room for a drawing with a picture; its picture is to be laid when it is there. False when it
   * lies there already, with ink that may be newer.
   */
  expect(key: string): boolean {
    if (this.shows === key && this.ready) return false;
    this.cancel();
    this.shows = key;
    this.ready = false;
    this.context.clearRect(0, 0, this.canvas.width, this.canvas.height);
    return true;
  }

  /** Lays the picture that was expected, or none for an empty page. */
  lay(picture: ImageBitmap | null): void {
    this.context.clearRect(0, 0, this.canvas.width, this.canvas.height);
    if (picture) this.context.drawImage(picture, 0, 0);
    this.ready = true;
  }

  begin(brush: Brush, hasPressure: boolean, point: InkPoint): void {
    const before = this.before.getContext('2d');
    before?.clearRect(0, 0, this.before.width, this.before.height);
    before?.drawImage(this.canvas, 0, 0);
    this.stroke = { brush, hasPressure, points: [point] };
    this.paintSoon();
  }

  extend(points: readonly InkPoint[]): void {
    this.stroke?.points.push(...points);
    this.paintSoon();
  }

  /** Ends the stroke; the pixels of the whole drawing with it, or null when there was no stroke. */
  end(): Uint8ClampedArray | null {
    if (!this.stroke) return null;
    cancelAnimationFrame(this.request);
    this.request = 0;
    this.paint(true);
    this.stroke = null;
    return this.context.getImageData(0, 0, this.canvas.width, this.canvas.height).data;
  }

  /** Takes the stroke under the pen away again. */
  cancel(): void {
    if (!this.stroke) return;
    cancelAnimationFrame(this.request);
    this.request = 0;
    this.stroke = null;
    this.putBack();
  }

  private paintSoon(): void {
    this.request ||= requestAnimationFrame(() => {
      this.request = 0;
      this.paint(false);
    });
  }

  private putBack(): void {
    this.context.globalCompositeOperation = 'copy';
    this.context.drawImage(this.before, 0, 0);
    this.context.globalCompositeOperation = 'source-over';
  }

  private paint(last: boolean): void {
    if (!this.stroke) return;
    this.putBack();
    const eraser = this.stroke.brush.tool === 'eraser';
    this.context.globalCompositeOperation = eraser ? 'destination-out' : 'source-over';
    this.context.fillStyle = eraser ? '#000000' : this.stroke.brush.colour;
    this.context.fill(outlineOf(this.stroke, last));
    this.context.globalCompositeOperation = 'source-over';
  }
}
