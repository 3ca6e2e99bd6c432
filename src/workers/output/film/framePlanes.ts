import type { VideoSample } from 'mediabunny';
import { i420aPlanes, i420Planes, type PicturePlanes } from '@/core/raster/signature';
import { i420Bytes, type PixelOrder, pixelsToI420 } from '@/core/raster/yuv';

/*
 * What a decoder hands out is its own affair: three planes (I420), brightness with colours in pairs (NV12),
 * pixels in either order, or a frame on the graphics card that says no format at all. Here every one of them
 * becomes the Y, U and V planes that the film was written from. What was brightness and colour stays as it
 * was decoded; what comes as pixels is brought back by the formulas it was written with.
 */

/** Planes of a decoded frame, in a buffer that the next frame overwrites. */
export type FramePlanes = { readonly data: Uint8Array; readonly planes: PicturePlanes };

const PIXELS: Readonly<Record<string, PixelOrder>> = { RGBA: 'RGBA', RGBX: 'RGBA', BGRA: 'BGRA', BGRX: 'BGRA' };

/** Reads decoded frames as planes; keeps its buffers from frame to frame. */
export class PlaneReader {
  private buffer = new Uint8Array(0);
  private yuv = new Uint8Array(0);
  private canvas: OffscreenCanvasRenderingContext2D | null = null;

  async read(sample: VideoSample): Promise<FramePlanes> {
    const { codedWidth: width, codedHeight: height, format } = sample;
    if (format === 'I420' || format === 'I420A') {
      const layout = await this.copy(sample);
      const packed = format === 'I420' ? i420Planes(width, height) : i420aPlanes(width, height);
      const planes = packed.map((plane, index) => ({
        ...plane,
        offset: layout[index]?.offset ?? plane.offset,
        stride: layout[index]?.stride ?? plane.stride,
      }));
      return { data: this.buffer, planes: planes as unknown as PicturePlanes };
    }
    if (format === 'NV12') return this.fromPairs(width, height, await this.copy(sample));
    const order = format === null ? undefined : PIXELS[format];
    if (order) {
      const [plane] = await this.copy(sample);
      if (plane?.offset === 0 && plane.stride === width * 4) return this.fromPixels(width, height, this.buffer, order);
    }
    return this.fromPixels(width, height, this.drawn(sample, width, height), 'RGBA');
  }

  private async copy(sample: VideoSample) {
    const bytes = sample.allocationSize();
    if (this.buffer.byteLength < bytes) this.buffer = new Uint8Array(bytes);
    return sample.copyTo(this.buffer);
  }

  private room(width: number, height: number): Uint8Array {
    const bytes = i420Bytes(width, height);
    if (this.yuv.byteLength !== bytes) this.yuv = new Uint8Array(bytes);
    return this.yuv;
  }

  private fromPairs(width: number, height: number, layout: readonly { readonly offset: number; readonly stride: number }[]): FramePlanes {
    const [luma, pairs] = layout;
    if (!luma || !pairs) throw new Error('A decoded frame came without its planes.');
    const data = this.room(width, height);
    const [y, u, v] = i420Planes(width, height);
    for (let row = 0; row < height; row++)
      data.set(this.buffer.subarray(luma.offset + row * luma.stride, luma.offset + row * luma.stride + width), y.offset + row * y.stride);
    for (let row = 0; row < u.height; row++) {
      const from = pairs.offset + row * pairs.stride;
      for (let column = 0; column < u.width; column++) {
        data[u.offset + row * u.stride + column] = this.buffer[from + column * 2] as number;
        data[v.offset + row * v.stride + column] = this.buffer[from + column * 2 + 1] as number;
      }
    }
    return { data, planes: [y, u, v] };
  }

  private fromPixels(width: number, height: number, pixels: Uint8Array | Uint8ClampedArray, order: PixelOrder): FramePlanes {
    const data = this.room(width, height);
    pixelsToI420(width, height, pixels, order, data);
    return { data, planes: i420Planes(width, height) };
  }

  /** A frame of any other kind, drawn by the browser. */
  private drawn(sample: VideoSample, width: number, height: number): Uint8ClampedArray {
    if (this.canvas?.canvas.width !== width || this.canvas.canvas.height !== height)
      this.canvas = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true });
    if (!this.canvas) throw new Error('There is no memory for a frame of this size.');
    sample.draw(this.canvas, 0, 0, width, height);
    return this.canvas.getImageData(0, 0, width, height).data;
  }
}
