import { inOne } from '@/core/bytes';
import type { Size } from '@/core/document/model';
import { riffChunk, riffChunks, webpOf } from '@/core/format/webp/riff';
import { done, type Outcome, refused } from '@/core/outcome';
import type { Area } from '@/core/raster/changedArea';

/*
 * An animated WebP (RFC 9649, 2.7): VP8X says what there is and the size, ANIM how often it is played (0 for ever), and each ANMF
 * a picture with its place, whose left and top are even, and its time in ms. Here each replaces what was in its place and stays.
 */

const ALPHA_FLAG = 0x10;
const ANIMATION_FLAG = 0x02;
const NO_BLENDING = 0x02;
const DISPOSE_FLAG = 0x01;

/** Bytes of the head, before the first picture: RIFF, VP8X and ANIM. */
const HEAD_BYTES = 12 + 18 + 14;
/** Bytes of an ANMF before the picture's own chunks. */
const FRAME_HEAD_BYTES = 16;

function put24(view: DataView, at: number, value: number): void {
  view.setUint16(at, value & 0xffff, true);
  view.setUint8(at + 2, value >> 16);
}
const get24 = (view: DataView, at: number): number => view.getUint16(at, true) | (view.getUint8(at + 2) << 16);

/** The beginning of a file whose pictures take so many bytes. */
export function webpHead({ width, height }: Size, hasAlpha: boolean, plays: number, pictureBytes: number): Uint8Array {
  const extended = new Uint8Array(10);
  extended[0] = ANIMATION_FLAG | (hasAlpha ? ALPHA_FLAG : 0);
  put24(new DataView(extended.buffer), 4, width - 1);
  put24(new DataView(extended.buffer), 7, height - 1);
  const animation = new Uint8Array(6);
  new DataView(animation.buffer).setUint16(4, plays, true);
  const head = webpOf([riffChunk('VP8X', extended), riffChunk('ANIM', animation)]);
  new DataView(head.buffer).setUint32(4, HEAD_BYTES - 8 + pictureBytes, true);
  return head;
}

/** A picture of an animated WebP, out of a WebP of its own; refused where that is none. */
export function webpPicture({ x, y, width, height }: Area, milliseconds: number, webp: Uint8Array): Outcome<Uint8Array> {
  const { chunks } = riffChunks(webp, 12, webp.length);
  const own = chunks.filter(({ type }) => type === 'ALPH' || type === 'VP8 ' || type === 'VP8L');
  if (own.length === 0) return refused('The picture is not a WebP.');
  const head = new Uint8Array(FRAME_HEAD_BYTES);
  const view = new DataView(head.buffer);
  put24(view, 0, x / 2);
  put24(view, 3, y / 2);
  put24(view, 6, width - 1);
  put24(view, 9, height - 1);
  put24(view, 12, milliseconds);
  head[15] = NO_BLENDING;
  return done(riffChunk('ANMF', inOne([head, ...own.map(({ type, start, end }) => riffChunk(type, webp.subarray(start, end)))])));
}

/** A picture as it lies in the file; `from` and `to` are where its own chunks stand. */
export type WebpFrame = {
  readonly area: Area;
  readonly milliseconds: number;
  readonly isBlended: boolean;
  readonly isCleared: boolean;
  readonly from: number;
  readonly to: number;
};
export type AnimatedWebp = {
  readonly size: Size;
  readonly frames: readonly WebpFrame[];
  readonly plays: number;
  readonly isWhole: boolean;
};

/** Reads what an animated WebP says of itself; nothing is unpacked. Refused where it is none. */
export function readAnimatedWebp(bytes: Uint8Array): Outcome<AnimatedWebp> {
  const text = (at: number) => String.fromCharCode(...bytes.subarray(at, at + 4));
  if (bytes.length < 30 || text(0) !== 'RIFF' || text(8) !== 'WEBP') return refused('It is not a WebP.');
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const { chunks, isWhole } = riffChunks(bytes, 12, Math.min(bytes.length, 8 + view.getUint32(4, true)));
  const [extended, animation] = ['VP8X', 'ANIM'].map((type) => chunks.find((chunk) => chunk.type === type));
  if (!extended || !animation) return refused('The WebP is one picture and no animation.');
  const size = { width: get24(view, extended.start + 4) + 1, height: get24(view, extended.start + 7) + 1 };
  const frames: WebpFrame[] = [];
  for (const { type, start, end } of chunks) {
    if (type !== 'ANMF' || end - start < FRAME_HEAD_BYTES) continue;
    const area = {
      x: get24(view, start) * 2,
      y: get24(view, start + 3) * 2,
      width: get24(view, start + 6) + 1,
      height: get24(view, start + 9) + 1,
    };
    if (area.x + area.width > size.width || area.y + area.height > size.height)
      return refused(`Picture ${frames.length + 1} of the WebP lies outside of it.`);
    const flags = view.getUint8(start + 15);
    frames.push({
      area,
      milliseconds: get24(view, start + 12),
      isBlended: (flags & NO_BLENDING) === 0,
      isCleared: (flags & DISPOSE_FLAG) !== 0,
      from: start + FRAME_HEAD_BYTES,
      to: end,
    });
  }
  const isAll = isWhole && bytes.length >= 8 + view.getUint32(4, true);
  return done({ size, frames, plays: view.getUint16(animation.start + 4, true), isWhole: isAll });
}

/** A picture as a WebP of its own. */
export function webpFrame(bytes: Uint8Array, { area, from, to }: WebpFrame): Uint8Array {
  const { chunks } = riffChunks(bytes, from, to);
  const own = chunks.map(({ type, start, end }) => riffChunk(type, bytes.subarray(start, end)));
  if (!chunks.some(({ type }) => type === 'ALPH')) return webpOf(own);
  // A lossy picture with transparency stands behind a head that says so.
  const extended = new Uint8Array(10);
  extended[0] = ALPHA_FLAG;
  put24(new DataView(extended.buffer), 4, area.width - 1);
  put24(new DataView(extended.buffer), 7, area.height - 1);
  return webpOf([riffChunk('VP8X', extended), ...own]);
}
