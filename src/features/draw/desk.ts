import type { InkStroke } from '@/contracts/local';
import type { Size } from '@/core/document/model';
import type { Box } from '@/core/raster/bounds';
import { layColour } from '@/core/raster/layColour';
import { InkSheet } from '@/features/draw/inkSheet';
import { drawInk, drawShape, type Ink, type InkPoint, shapeOf } from '@/features/ink/ink';

type LiveStroke = { readonly ink: Ink; readonly hasPressure: boolean; readonly straight: boolean; readonly points: InkPoint[] };

/** Which picture the page lies on: that of the drawing when it was laid, and then each one the ink on it became. */
export type PageBase = { readonly drawingId: string; digest: string | null };

/** What a stroke changed of the page: the pixels of a box (RGBA, straight alpha) as they are with it, and what they lay on before. */
export type ChangedPage = {
  readonly part: { readonly box: Box; readonly pixels: Uint8ClampedArray };
  readonly base: PageBase;
};

/** A stroke's end: the stroke itself, and what it changed; null when its drawing's picture was still on its way. */
export type FinishedStroke = { readonly stroke: InkStroke; readonly page: ChangedPage | null };

/** A picture to draw onto; its memory is read often. */
export function newPage({ width, height }: Size): OffscreenCanvasRenderingContext2D {
  const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error(`There is no memory for a page of ${width} × ${height} px.`);
  return context;
}

/**
 * The sheet of paper being drawn on. The drawing itself is `page`, of the picture's own size; what is seen is
 * a canvas as large as the paper is on the screen, so that a pen costs the same on a small picture and on a
 * large one. A stroke is painted on a sheet of its own over that while it lasts, one that erases on what is
 * seen itself, and drawn onto the page when it ends.
 */
export class Desk {
  readonly page: OffscreenCanvasRenderingContext2D;
  private readonly seen: CanvasRenderingContext2D;
  private readonly inkSheet: InkSheet;
  /** How large the paper lies on the page, in pixels of the page. */
  private paper: Size = { width: 1, height: 1 };
  /** What was seen before the stroke that erases was begun; null before the first one. */
  private before: OffscreenCanvasRenderingContext2D | null = null;
  private stroke: LiveStroke | null = null;
  /** Points the pen is expected to reach next: painted, never part of the stroke. */
  private expected: readonly InkPoint[] = [];
  private touched: { x: number; y: number; width: number; height: number } | null = null;
  private request = 0;
  /** The picture that belongs on the page and is not copied onto it yet. */
  private toLay: ImageBitmap | null = null;
  private laying = 0;
  /** Which drawing with which picture lies on the desk; ink newer than the picture is on it already. */
  shows = '';
  /** What the page lies on; a new one whenever it is laid anew. */
  base: PageBase = { drawingId: '', digest: null };
  /** Strokes that are no picture yet and whose page hadn't come: by their order. They are shown on whatever is laid of their drawing. */
  private readonly early = new Map<number, { readonly drawingId: string; readonly stroke: InkStroke }>();
  private whenEnded: (() => void)[] = [];

  constructor(
    readonly canvas: HTMLCanvasElement,
    inkCanvas: HTMLCanvasElement,
    readonly size: Size,
  ) {
    this.page = newPage(size);
    const seen = canvas.getContext('2d', { willReadFrequently: true });
    if (!seen) throw new Error('This browser gives no canvas to draw on.');
    this.seen = seen;
    this.inkSheet = new InkSheet(inkCanvas);
  }

  get drawing(): boolean {
    return this.stroke !== null;
  }

  /** Screen pixels to a pixel of the picture, at most 1. */
  private get scale(): number {
    return this.canvas.width / this.size.width;
  }

  /** Whether what is on the page is all of the drawing. What is drawn before is drawn on it when it comes. */
  ready = true;

  /**
   * Calls back once no stroke is under the pen, at once when there is none: ink belongs to the drawing it was
   * begun for, so the page isn't changed below it. What is returned calls that off.
   */
  whenFree(then: () => void): () => void {
    if (!this.stroke) {
      then();
      return () => undefined;
    }
    this.whenEnded.push(then);
    return () => {
      this.whenEnded = this.whenEnded.filter((each) => each !== then);
    };
  }

  /** Lets those go on that wait for the pen; to be called once what ended has been kept. */
  letGoOn(): void {
    const waiting = this.whenEnded;
    this.whenEnded = [];
    for (const then of waiting) then();
  }

  /** Remembers a stroke whose page hadn't come, until it is part of its drawing's picture. */
  keepEarly(order: number, drawingId: string, stroke: InkStroke): void {
    this.early.set(order, { drawingId, stroke });
  }

  /** The stroke is part of its drawing's picture now. */
  forgetEarly(order: number): void {
    this.early.delete(order);
  }

  /**
   * Makes room for a drawing with a picture; its picture is to be laid when it is there. False when it
   * lies there already, with ink that may be newer.
   */
  expect(key: string): boolean {
    if (this.shows === key && this.ready) return false;
    const sameDrawing = this.shows.split(':')[0] === key.split(':')[0];
    this.shows = key;
    this.ready = false;
    this.dropLaying();
    // The same drawing with another picture goes on being seen until that is there.
    if (!sameDrawing) this.seen.clearRect(0, 0, this.canvas.width, this.canvas.height);
    return true;
  }

  /** Shows the expected picture as it looks on the screen, before it is laid. */
  show(look: ImageBitmap): void {
    if (this.ready) return;
    this.seen.clearRect(0, 0, this.canvas.width, this.canvas.height);
    this.seen.drawImage(look, 0, 0, this.canvas.width, this.canvas.height);
    this.paintAnew();
  }

  /** Lays the picture that was expected, or none for an empty page. `isShown` when its look is seen already. */
  lay(picture: ImageBitmap | null, digest: string | null, isShown = false): void {
    this.ready = true;
    const drawingId = this.shows.split(':')[0] ?? '';
    this.base = { drawingId, digest };
    const early = [...this.early.values()].filter((each) => each.drawingId === drawingId);
    if (this.stroke || early.length > 0) {
      this.layWithInk(
        picture,
        drawingId,
        early.map((each) => each.stroke),
      );
      return;
    }
    if (picture && isShown) {
      // Stepping on goes before copying: the page is needed once something is drawn.
      this.toLay = picture;
      this.laying = window.setTimeout(() => this.layNow(), 60);
      return;
    }
    this.page.clearRect(0, 0, this.size.width, this.size.height);
    if (picture) this.page.drawImage(picture, 0, 0);
    this.refresh();
  }

  /** Lays a picture below ink that came before it: of strokes that have ended, and of the one under the pen. */
  private layWithInk(picture: ImageBitmap | null, drawingId: string, ended: readonly InkStroke[]): void {
    this.page.clearRect(0, 0, this.size.width, this.size.height);
    if (picture) this.page.drawImage(picture, 0, 0);
    for (const stroke of ended) drawInk(this.page, stroke);
    // The page has more on it than the picture: what is drawn from here on is drawn again on what the drawing is by then.
    if (ended.length > 0) this.base = { drawingId, digest: 'more than a picture' };
    this.refresh();
    this.paintAnew();
  }

  private layNow(): void {
    const picture = this.toLay;
    this.dropLaying();
    if (!picture) return;
    this.page.clearRect(0, 0, this.size.width, this.size.height);
    this.page.drawImage(picture, 0, 0);
  }

  private dropLaying(): void {
    clearTimeout(this.laying);
    this.toLay = null;
  }

  /** Shows the paper with so many pixels, and as large on the page as it lies there. */
  resize({ width, height }: Size, paper: Size): void {
    if (this.paper.width !== paper.width || this.paper.height !== paper.height) {
      this.paper = paper;
      this.inkSheet.clear();
      if (this.stroke) this.paintSoon();
    }
    if (this.canvas.width === width && this.canvas.height === height) return;
    this.layNow();
    this.canvas.width = width;
    this.canvas.height = height;
    this.before = null;
    this.inkSheet.clear();
    if (this.ready) this.refresh();
    this.paintAnew();
  }

  /** Shows the page as it is, or a box of it. */
  refresh(box: Box = { left: 0, top: 0, right: this.size.width, bottom: this.size.height }): void {
    const { scale } = this;
    const [x, y] = [Math.max(0, Math.floor(box.left * scale) - 1), Math.max(0, Math.floor(box.top * scale) - 1)];
    const width = Math.min(this.canvas.width, Math.ceil(box.right * scale) + 1) - x;
    const height = Math.min(this.canvas.height, Math.ceil(box.bottom * scale) + 1) - y;
    if (width <= 0 || height <= 0) return;
    this.seen.imageSmoothingQuality = 'medium';
    this.seen.clearRect(x, y, width, height);
    this.seen.drawImage(this.page.canvas, x / scale, y / scale, width / scale, height / scale, x, y, width, height);
  }

  /** Begins a stroke; a straight one runs from its first point to the last the pen reached. */
  begin(ink: Ink, hasPressure: boolean, straight: boolean, point: InkPoint): void {
    this.layNow();
    this.stroke = { ink, hasPressure, straight, points: [point] };
    this.paintAnew();
  }

  /** Paints the stroke under the pen, if there is one, over what is seen by now. */
  private paintAnew(): void {
    if (!this.stroke) return;
    if (this.stroke.ink.kind === 'eraser') this.remember();
    this.paintSoon();
  }

  private remember(): void {
    this.before ??= newPage(this.canvas);
    this.before.clearRect(0, 0, this.canvas.width, this.canvas.height);
    this.before.drawImage(this.canvas, 0, 0);
    this.touched = null;
  }

  extend(points: readonly InkPoint[], expected: readonly InkPoint[]): void {
    if (!this.stroke) return;
    if (this.stroke.straight) this.stroke.points.splice(1, Number.POSITIVE_INFINITY, ...points.slice(-1));
    else this.stroke.points.push(...points);
    this.expected = this.stroke.straight ? [] : expected;
    this.paintSoon();
  }

  /** Ends the stroke; null when there was none. */
  end(): FinishedStroke | null {
    if (!this.stroke) return null;
    this.takeAway();
    const { ink, hasPressure, points } = this.stroke;
    this.stroke = null;
    const stroke = { ink, hasPressure, points };
    if (!this.ready) {
      // It stays to be seen where it was drawn.
      this.drawSeen((context) => drawShape(context, shapeOf(stroke, true), this.scale));
      return { stroke, page: null };
    }
    const box = drawInk(this.page, stroke);
    this.refresh(box);
    return { stroke, page: { part: this.partWithin(box), base: this.base } };
  }

  /** The pixels within as much of a box as lies on the page; of one that lies beside it, a pixel that has not changed. */
  private partWithin({ left, top, right, bottom }: Box): ChangedPage['part'] {
    const { width, height } = this.size;
    const within = { left: Math.max(0, left), top: Math.max(0, top), right: Math.min(width, right), bottom: Math.min(height, bottom) };
    const box = within.left < within.right && within.top < within.bottom ? within : { left: 0, top: 0, right: 1, bottom: 1 };
    return { box, pixels: this.page.getImageData(box.left, box.top, box.right - box.left, box.bottom - box.top).data };
  }

  /** Takes the stroke under the pen away again. */
  cancel(): void {
    if (!this.stroke) return;
    this.takeAway();
    this.stroke = null;
  }

  /** The pixels of the drawing as it lies there: RGBA, straight alpha. */
  pixels(): Uint8ClampedArray {
    this.layNow();
    return this.page.getImageData(0, 0, this.size.width, this.size.height).data;
  }

  /** Lays a colour on an area found before, also below a stroke that was begun meanwhile; the drawing's pixels with it, without that stroke. */
  colourArea(area: Uint8Array, colour: string): Uint8ClampedArray {
    this.layNow();
    const { width, height } = this.size;
    const image = this.page.getImageData(0, 0, width, height);
    layColour({ width, height }, image.data, area, colour);
    this.page.putImageData(image, 0, 0);
    this.refresh();
    this.paintAnew();
    return image.data;
  }

  /** Shows something else than the page for a while, drawn in pixels of the picture. */
  showInstead(draw: (context: CanvasRenderingContext2D) => void): void {
    this.seen.clearRect(0, 0, this.canvas.width, this.canvas.height);
    this.drawSeen(draw);
  }

  /** Draws on what is seen, in pixels of the picture. */
  private drawSeen(draw: (context: CanvasRenderingContext2D) => void): void {
    this.seen.save();
    this.seen.scale(this.scale, this.scale);
    draw(this.seen);
    this.seen.restore();
  }

  /** Makes what was drawn elsewhere the page. */
  replace(draw: (context: OffscreenCanvasRenderingContext2D) => void): void {
    this.dropLaying();
    this.page.clearRect(0, 0, this.size.width, this.size.height);
    draw(this.page);
    this.refresh();
  }

  private paintSoon(): void {
    this.request ||= requestAnimationFrame(() => {
      this.request = 0;
      this.paint();
    });
  }

  /** Takes what is seen of the stroke under the pen away. */
  private takeAway(): void {
    cancelAnimationFrame(this.request);
    this.request = 0;
    this.expected = [];
    this.inkSheet.clear();
    this.putBack();
  }

  /** Puts what an eraser covered back as it was: the box it touched and no more. */
  private putBack(): void {
    if (!this.touched || !this.before) return;
    const { x, y, width, height } = this.touched;
    this.seen.clearRect(x, y, width, height);
    this.seen.drawImage(this.before.canvas, x, y, width, height, x, y, width, height);
    this.touched = null;
  }

  private paint(): void {
    if (!this.stroke) return;
    const { ink, hasPressure, points } = this.stroke;
    const { scale } = this;
    const shape = shapeOf({ ink, hasPressure, points: [...points, ...this.expected] }, false);
    if (ink.kind !== 'eraser') {
      this.inkSheet.paint(shape, this.paper, this.canvas, scale);
      return;
    }
    this.putBack();
    this.drawSeen((context) => drawShape(context, shape, scale));
    const [x, y] = [Math.max(0, Math.floor(shape.box.left * scale)), Math.max(0, Math.floor(shape.box.top * scale))];
    const width = Math.min(this.canvas.width, Math.ceil(shape.box.right * scale)) - x;
    const height = Math.min(this.canvas.height, Math.ceil(shape.box.bottom * scale)) - y;
    this.touched = width > 0 && height > 0 ? { x, y, width, height } : null;
  }
}
