import type { Size } from '@/core/document/model';
import type { OrderedPixels } from '@/core/raster/pixelOrder';
import type { PixelSource } from '@/workers/render/renderedPicture';

/** A canvas that composited pictures are scaled to, one after another. */
export class ScaledCanvas implements PixelSource {
  private readonly context: OffscreenCanvasRenderingContext2D;

  constructor(private readonly size: Size) {
    const context = new OffscreenCanvas(size.width, size.height).getContext('2d', { willReadFrequently: true });
    if (!context) throw new Error(`There is no memory for pictures of ${size.width} × ${size.height} px.`);
    this.context = context;
  }

  /** Scales what lies on a canvas to this one, which the next call overwrites. */
  draw(canvas: OffscreenCanvas): OffscreenCanvas {
    const { context, size } = this;
    context.clearRect(0, 0, size.width, size.height);
    context.imageSmoothingEnabled = true;
    context.imageSmoothingQuality = 'high';
    context.drawImage(canvas, 0, 0, size.width, size.height);
    return context.canvas;
  }

  pixels(): Uint8ClampedArray {
    return this.context.getImageData(0, 0, this.size.width, this.size.height).data;
  }

  async opaquePixels(): Promise<OrderedPixels> {
    return { pixels: new Uint8Array(this.pixels().buffer), order: 'RGBA' };
  }
}
