import type { Finish } from '@/core/document/finish';
import type { Size } from '@/core/document/model';
import { letGoOfBlurring } from '@/core/finish/blur';
import { finishPicture } from '@/core/finish/finishPicture';
import type { OrderedPixels } from '@/core/raster/pixelOrder';
import { type ClipPicture, isClipPicture, readClipPicture } from '@/core/render/clipPicture';
import { type PictureName, type PictureStack, pictureAlone, type StackLayer } from '@/core/render/stacks';
import { clipFrames, type Resizing } from '@/workers/render/clipFrames';
import { drawLayers } from '@/workers/render/drawLayers';
import { PictureCache } from '@/workers/render/pictureCache';

/** What lies under everything: white paper, or nothing. */
export type Ground = 'paper' | 'none';

const PAPER = '#ffffff';

/**
 * Lays the pictures of a stack over each other, lowest first: source-over with straight opacity and the
 * layers' blend modes, as the W3C Compositing and Blending Level 1 specification has it. The one compositor of preview, checks and
 * handover, so that what is seen is what leaves.
 */
export class Compositor {
  private readonly canvas: OffscreenCanvas;
  private readonly context: OffscreenCanvasRenderingContext2D;
  private readBuffer = new Uint8Array(0);
  /** The pixels of what was laid last, when it was finished. */
  private finished: Uint8ClampedArray<ArrayBuffer> | null = null;
  /** How many stacks have been composited. */
  composited = 0;

  constructor(
    readonly size: Size,
    /** Decoded pictures of drawings, which compositors of one film may share. */
    private readonly pictures = new PictureCache(),
    /** Sides of what is laid are those of the size divided by this; 1 for everything that leaves. */
    readonly shrink = 1,
    /** The effects that lie over every stack that is finished. */
    readonly finish: Finish = [],
  ) {
    this.canvas = new OffscreenCanvas(Math.ceil(size.width / shrink), Math.ceil(size.height / shrink));
    const context = this.canvas.getContext('2d', { willReadFrequently: true });
    if (!context) throw new Error(`A picture of ${size.width} × ${size.height} px can't be composited here: there is no memory for it.`);
    this.context = context;
  }

  /** The size of what is laid. */
  private get laidSize(): Size {
    return { width: this.canvas.width, height: this.canvas.height };
  }

  /** What is laid smaller than it leaves is seen for moments, and is wanted at once. */
  private get resizing(): Resizing {
    return this.shrink === 1 ? 'well' : 'quickly';
  }

  /** A stack on a ground as a picture of its own, as it is shown and not handed on. */
  async bitmap(stack: Pick<PictureStack, 'layers' | 'finished'>, ground: Ground): Promise<ImageBitmap> {
    const alone = this.frameAlone(stack);
    if (alone) {
      this.composited++;
      return clipFrames.frame(alone, () => this.laidSize, { beside: ground === 'paper' ? PAPER : null, resizing: this.resizing });
    }
    const finished = await this.layStack(stack, ground);
    return createImageBitmap(finished ? new ImageData(finished, this.canvas.width, this.canvas.height) : this.canvas);
  }

  /** The frame of a clip that is all there is to be seen of a stack; null where anything else has to be done. */
  private frameAlone(stack: Pick<PictureStack, 'layers' | 'finished'>): ClipPicture | null {
    const alone = pictureAlone(stack, this.finish.length > 0);
    return alone === null ? null : readClipPicture(alone);
  }

  /** Composites a stack onto the compositor's own canvas, which the next call overwrites. */
  async lay(stack: Pick<PictureStack, 'layers' | 'finished'>, ground: Ground): Promise<OffscreenCanvas> {
    this.finished = await this.layStack(stack, ground);
    if (this.finished) this.context.putImageData(new ImageData(this.finished, this.canvas.width, this.canvas.height), 0, 0);
    return this.canvas;
  }

  /** A picture that is laid: a drawing's, or a frame of a clip, which is wanted once and is for whoever asked to let go of. */
  private pictureOf(name: PictureName): Promise<ImageBitmap> {
    const frame = readClipPicture(name);
    return frame ? clipFrames.frame(frame, () => this.laidSize, { resizing: this.resizing }) : this.pictures.get(name);
  }

  /** Lays a stack onto the canvas; gives its pixels with the finish over them, which the canvas has not, where it is finished. */
  private async layStack(
    { layers, finished }: Pick<PictureStack, 'layers' | 'finished'>,
    ground: Ground,
  ): Promise<Uint8ClampedArray<ArrayBuffer> | null> {
    const bitmaps = await Promise.all(layers.map(({ picture }) => this.pictureOf(picture)));
    const { context, size } = this;
    context.globalAlpha = 1;
    // To the very edge of the canvas, whose sides are whole.
    context.setTransform(this.canvas.width / size.width, 0, 0, this.canvas.height / size.height, 0, 0);
    if (ground === 'paper') {
      context.fillStyle = PAPER;
      context.fillRect(0, 0, size.width, size.height);
    } else context.clearRect(0, 0, size.width, size.height);
    // Frames of clips come as large as they are laid.
    drawLayers(context, bitmaps, layers, (bitmap, { picture }) => (isClipPicture(picture) ? size : bitmap));
    for (const [index, { picture }] of layers.entries()) if (isClipPicture(picture)) bitmaps[index]?.close();
    const pixels = finished && this.finish.length > 0 ? this.finishLaid(ground) : null;
    // What was laid just now stays whatever room it takes: most of it is laid again with the next.
    this.pictures.trim(undefined, layers.length);
    this.composited++;
    return pixels;
  }

  /** The pixels of what is laid with the finish over it. */
  private finishLaid(ground: Ground): Uint8ClampedArray<ArrayBuffer> {
    const { width, height } = this.canvas;
    const { data } = this.context.getImageData(0, 0, width, height);
    const isOpaque = ground === 'paper';
    return finishPicture(data, width, height, this.finish, { isOpaque, shrink: this.shrink }) as Uint8ClampedArray<ArrayBuffer>;
  }

  /** Lets go of every picture it holds; they are fetched again when they are wanted. */
  letGo(): void {
    this.pictures.trim(0);
    this.finished = null;
    letGoOfBlurring();
    void clipFrames.letGo();
  }

  /** Lays one ready bitmap alone, as it is. */
  layBitmap(bitmap: ImageBitmap): void {
    this.finished = null;
    this.context.globalAlpha = 1;
    this.context.globalCompositeOperation = 'copy';
    this.context.drawImage(bitmap, 0, 0);
    this.context.globalCompositeOperation = 'source-over';
  }

  /**
   * Starts getting pictures of stacks that are wanted soon; one that is missing is told when it is laid. Frames of clips come
   * in the order they are laid in, and a decoder is ahead of that by itself.
   */
  prepare(layers: readonly StackLayer[]): void {
    for (const { picture } of layers) if (!isClipPicture(picture)) void this.pictures.get(picture).catch(() => undefined);
  }

  /**
   * The pixels of what was laid last on paper, opaque, in whatever order the canvas has them: a third of the time of `pixels`,
   * since nothing is converted. They are in `room` where it is given and they fit it, else overwritten by the next call.
   */
  async opaquePixels(room?: Uint8Array): Promise<OrderedPixels> {
    const frame = new VideoFrame(this.canvas, { timestamp: 0 });
    try {
      // A canvas on the graphics card may give a frame that says no format, or one that is no pixels.
      if (frame.format === null || !/^(BGR|RGB)[AX]$/.test(frame.format))
        return { pixels: new Uint8Array(this.pixels().buffer), order: 'RGBA' };
      const order = frame.format?.startsWith('BGR') ? 'BGRA' : 'RGBA';
      const bytes = frame.allocationSize();
      if (this.readBuffer.byteLength < bytes && room?.byteLength !== bytes) this.readBuffer = new Uint8Array(bytes);
      const pixels = room?.byteLength === bytes ? room : this.readBuffer;
      const [plane] = await frame.copyTo(pixels);
      const known = plane?.stride === this.size.width * 4 && plane.offset === 0;
      return known ? { pixels, order } : { pixels: new Uint8Array(this.pixels().buffer), order: 'RGBA' };
    } finally {
      frame.close();
    }
  }

  /** The pixels of what was laid last: RGBA, straight alpha. */
  pixels(): Uint8ClampedArray {
    // A canvas keeps half-transparent colours a little off: what was finished is given as it was worked out.
    return this.finished?.slice() ?? this.context.getImageData(0, 0, this.size.width, this.size.height).data;
  }
}
