import type { ColourRange } from '@/core/document/checks';
import type { Size } from '@/core/document/model';
import { holdWithin } from '@/core/raster/range';
import type { PixelOrder } from '@/core/raster/yuv';
import type { StackLayer } from '@/core/render/stacks';
import { PictureCache } from '@/workers/render/pictureCache';

/** What lies under everything: white paper, or nothing. */
export type Ground = 'paper' | 'none';

const PAPER = '#ffffff';

/** Draws bitmaps over each other as their layers say; the context's own settings are normal again after it. */
export function drawLayers(
  context: OffscreenCanvasRenderingContext2D | CanvasRenderingContext2D,
  bitmaps: readonly (ImageBitmap | OffscreenCanvas)[],
  layers: readonly StackLayer[],
): void {
  bitmaps.forEach((bitmap, index) => {
    const { opacityPercent, blend = 'normal' } = layers[index] as StackLayer;
    context.globalAlpha = opacityPercent / 100;
    context.globalCompositeOperation = blend === 'normal' ? 'source-over' : blend;
    context.drawImage(bitmap, 0, 0);
  });
  context.globalAlpha = 1;
  context.globalCompositeOperation = 'source-over';
}

/**
 * Lays the pictures of a stack over each other, lowest first: source-over with straight opacity and the
 * layers' blend modes, as the W3C Compositing and Blending Level 1 specification has it. The one compositor of preview, checks and
 * handover, so that what is seen is what leaves.
 */
export class Compositor {
  private readonly canvas: OffscreenCanvas;
  private readonly context: OffscreenCanvasRenderingContext2D;
  private readonly pictures: PictureCache;
  private readBuffer = new Uint8Array(0);
  /** How many stacks have been composited. */
  composited = 0;

  constructor(
    readonly size: Size,
    mostPictureBytes?: number,
    /** Sides of what is laid are those of the size divided by this; 1 for everything that leaves. */
    readonly shrink = 1,
    /** Colours are held within this range in what is laid. */
    readonly hold: ColourRange | null = null,
  ) {
    this.canvas = new OffscreenCanvas(Math.ceil(size.width / shrink), Math.ceil(size.height / shrink));
    const context = this.canvas.getContext('2d', { willReadFrequently: true });
    if (!context) throw new Error(`A picture of ${size.width} × ${size.height} px can't be composited here: there is no memory for it.`);
    this.context = context;
    this.pictures = new PictureCache(mostPictureBytes);
  }

  /** Composites a stack onto the compositor's own canvas, which the next call overwrites. */
  async lay(layers: readonly StackLayer[], ground: Ground): Promise<OffscreenCanvas> {
    const bitmaps = await Promise.all(layers.map((layer) => this.pictures.get(layer.picture)));
    const { context, size } = this;
    context.globalAlpha = 1;
    context.setTransform(1 / this.shrink, 0, 0, 1 / this.shrink, 0, 0);
    if (ground === 'paper') {
      context.fillStyle = PAPER;
      context.fillRect(0, 0, size.width, size.height);
    } else context.clearRect(0, 0, size.width, size.height);
    drawLayers(context, bitmaps, layers);
    this.holdColours();
    this.pictures.trim();
    this.composited++;
    return this.canvas;
  }

  private holdColours(): void {
    if (!this.hold) return;
    const image = this.context.getImageData(0, 0, this.canvas.width, this.canvas.height);
    holdWithin(image.data, this.hold);
    this.context.putImageData(image, 0, 0);
  }

  /** Lets go of every picture it holds; they are fetched again when they are wanted. */
  letGo(): void {
    this.pictures.trim(0);
  }

  /** Lays one ready bitmap alone, as it is. */
  layBitmap(bitmap: ImageBitmap): void {
    this.context.globalAlpha = 1;
    this.context.globalCompositeOperation = 'copy';
    this.context.drawImage(bitmap, 0, 0);
    this.context.globalCompositeOperation = 'source-over';
  }

  /** Starts getting pictures of stacks that are wanted soon; one that can't be had is told when it is laid. */
  prepare(layers: readonly StackLayer[]): void {
    for (const layer of layers) void this.pictures.get(layer.picture).catch(() => undefined);
  }

  /**
   * The pixels of what was laid last on paper, opaque, in whatever order the canvas has them: a third of
   * the time of `pixels`, since nothing is converted. What is given is overwritten by the next call.
   */
  async opaquePixels(): Promise<{ pixels: Uint8Array; order: PixelOrder }> {
    const frame = new VideoFrame(this.canvas, { timestamp: 0 });
    try {
      // A canvas on the graphics card may give a frame that says no format, or one that is no pixels.
      if (frame.format === null || !/^(BGR|RGB)[AX]$/.test(frame.format))
        return { pixels: new Uint8Array(this.pixels().buffer), order: 'RGBA' };
      const order = frame.format?.startsWith('BGR') ? 'BGRA' : 'RGBA';
      const bytes = frame.allocationSize();
      if (this.readBuffer.byteLength < bytes) this.readBuffer = new Uint8Array(bytes);
      const [plane] = await frame.copyTo(this.readBuffer);
      const known = plane?.stride === this.size.width * 4 && plane.offset === 0;
      return known ? { pixels: this.readBuffer, order } : { pixels: new Uint8Array(this.pixels().buffer), order: 'RGBA' };
    } finally {
      frame.close();
    }
  }

  /** The pixels of what was laid last: RGBA, straight alpha. */
  pixels(): Uint8ClampedArray {
    const { data } = this.context.getImageData(0, 0, this.size.width, this.size.height);
    // A canvas keeps half-transparent colours a little off: what was held is held once more.
    if (this.hold) holdWithin(data, this.hold);
    return data;
  }
}
