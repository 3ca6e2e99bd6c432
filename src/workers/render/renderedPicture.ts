import type { Size } from '@/core/document/model';
import { canonicalisePixels } from '@/core/raster/digest';
import { type PixelOrder, pixelsToI420 } from '@/core/raster/yuv';
import type { Compositor, Ground } from '@/workers/render/compositor';

/** A stack as it lies on the compositor's canvas until the next is laid, in whatever form it is asked for; each form is made once. */
export class RenderedPicture {
  private opaque: Promise<{ pixels: Uint8Array; order: PixelOrder }> | null = null;
  private straight: Uint8Array | null = null;
  private i420: Uint8Array | null = null;

  constructor(
    readonly canvas: OffscreenCanvas,
    readonly size: Size,
    readonly ground: Ground,
    private readonly compositor: Compositor,
  ) {}

  /** Its pixels on paper, in the order the canvas has them. Overwritten by the next picture. */
  opaquePixels(): Promise<{ pixels: Uint8Array; order: PixelOrder }> {
    this.opaque ??= this.compositor.opaquePixels();
    return this.opaque;
  }

  /** Its pixels with transparency: canonical RGBA, straight alpha. */
  straightPixels(): Uint8Array {
    if (!this.straight) {
      const pixels = this.compositor.pixels();
      canonicalisePixels(pixels);
      this.straight = new Uint8Array(pixels.buffer);
    }
    return this.straight;
  }

  /** Its Y, U and V planes (4:2:0, ITU-R BT.709), written into `room` unless they were made before. */
  async planes(room: Uint8Array): Promise<Uint8Array> {
    if (!this.i420) {
      const { pixels, order } = await this.opaquePixels();
      pixelsToI420(this.size.width, this.size.height, pixels, order, room);
      this.i420 = room;
    }
    return this.i420;
  }
}
