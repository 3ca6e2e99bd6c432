import type { Size } from '@/core/document/model';
import { canonicalisePixels } from '@/core/raster/canonical';
import { inRgba, type OrderedPixels } from '@/core/raster/pixelOrder';
import { i420Bytes, pixelsToI420 } from '@/core/raster/yuv';
import { i420aBytes, pixelsToI420A } from '@/core/raster/yuva';
import type { Ground } from '@/workers/render/compositor';

/** What the pixels of a picture come from: a compositor, or a canvas what it laid was scaled to. */
export type PixelSource = {
  /** Opaque pixels on paper, in the order the canvas has them: in `room` where it is given and they fit, else overwritten by the next call. */
  readonly opaquePixels: (room?: Uint8Array) => Promise<OrderedPixels>;
  /** RGBA, straight alpha. */
  readonly pixels: () => Uint8ClampedArray;
};

/** A stack as it lies on the compositor's canvas until the next is laid, in whatever form it is asked for; each form is made once. */
export class RenderedPicture {
  private opaque: Promise<OrderedPixels> | null = null;
  private straight: Uint8Array | null = null;
  private inOrder: Promise<Uint8Array> | null = null;
  private i420: Uint8Array | null = null;

  constructor(
    readonly canvas: OffscreenCanvas,
    readonly size: Size,
    readonly ground: Ground,
    private readonly source: PixelSource,
  ) {}

  /** Its pixels on paper, in the order the canvas has them. Overwritten by the next picture. */
  opaquePixels(): Promise<OrderedPixels> {
    this.opaque ??= this.source.opaquePixels();
    return this.opaque;
  }

  /** Its pixels with transparency: canonical RGBA, straight alpha. */
  straightPixels(): Uint8Array {
    if (!this.straight) {
      const pixels = this.source.pixels();
      canonicalisePixels(pixels);
      this.straight = new Uint8Array(pixels.buffer);
    }
    return this.straight;
  }

  /** Its pixels, RGBA: opaque on paper, else canonical straight ones. They are for all who ask, and may be overwritten by the next picture. */
  rgbaPixels(): Promise<Uint8Array> {
    this.inOrder ??= this.putInOrder();
    return this.inOrder;
  }

  private async putInOrder(): Promise<Uint8Array> {
    if (this.ground === 'none') return this.straightPixels();
    const { pixels, order } = await this.opaquePixels();
    return inRgba(pixels, order, () => new Uint8Array(pixels.byteLength));
  }

  /**
   * Its pixels, which belong to the caller from then on: opaque ones on paper, else canonical straight ones. They are written into
   * `room`, four bytes a pixel, where the canvas has them as they are wanted.
   */
  async ownPixels(room: Uint8Array): Promise<OrderedPixels> {
    if (this.ground !== 'none') return this.source.opaquePixels(room);
    const pixels = this.straightPixels();
    this.straight = null;
    return { pixels, order: 'RGBA' };
  }

  /** Bytes of its planes. */
  get planeBytes(): number {
    const { width, height } = this.size;
    return this.ground === 'none' ? i420aBytes(width, height) : i420Bytes(width, height);
  }

  /**
   * Its Y, U and V planes (4:2:0, ITU-R BT.709), and that of its transparency where nothing lies under it, written into `room`,
   * which is asked for unless they were made before.
   */
  async planes(room: () => Uint8Array = () => new Uint8Array(this.planeBytes)): Promise<Uint8Array> {
    if (this.i420) return this.i420;
    const { width, height } = this.size;
    if (this.ground === 'none') {
      this.i420 = room();
      pixelsToI420A(width, height, this.straightPixels(), this.i420);
      return this.i420;
    }
    const { pixels, order } = await this.opaquePixels();
    this.i420 = room();
    pixelsToI420(width, height, pixels, order, this.i420);
    return this.i420;
  }
}
