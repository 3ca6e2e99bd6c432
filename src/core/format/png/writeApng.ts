import { inOne } from '@/core/bytes';
import type { Size } from '@/core/document/model';
import { chunkBytes } from '@/core/format/png/chunkBytes';
import type { Area } from '@/core/raster/changedArea';
import type { Delay } from '@/core/time/heldTimes';

/*
 * An animated PNG (W3C PNG Third Edition, 11.3.3): acTL says how many pictures there are and how often they are played, 0 for
 * ever; each has its place and time in fcTL, and its pixels in IDAT, which the default picture is, or in fdAT. Each replaces what
 * was in its place, transparency included, and stays.
 */

const SIGNATURE = Uint8Array.from([137, 80, 78, 71, 13, 10, 26, 10]);

/** The beginning: 8 bits a channel, RGB or RGBA, colours sRGB. */
export function apngHead({ width, height }: Size, channels: 3 | 4, pictures: number, plays: number): Uint8Array {
  const header = new Uint8Array(13);
  const view = new DataView(header.buffer);
  view.setUint32(0, width);
  view.setUint32(4, height);
  header[8] = 8;
  header[9] = channels === 4 ? 6 : 2;
  const control = new Uint8Array(8);
  new DataView(control.buffer).setUint32(0, pictures);
  new DataView(control.buffer).setUint32(4, plays);
  return inOne([SIGNATURE, chunkBytes('IHDR', header), chunkBytes('sRGB', Uint8Array.of(0)), chunkBytes('acTL', control)]);
}

/** A picture: its place among all, where it lies, its time, and its rows packed (zlib, RFC 1950). */
export function apngPicture(place: number, area: Area, delay: Delay, packedRows: Uint8Array): Uint8Array {
  const control = new Uint8Array(26);
  const view = new DataView(control.buffer);
  // The first picture has one numbered chunk, each other two.
  const sequence = place === 0 ? 0 : place * 2 - 1;
  view.setUint32(0, sequence);
  view.setUint32(4, area.width);
  view.setUint32(8, area.height);
  view.setUint32(12, area.x);
  view.setUint32(16, area.y);
  view.setUint16(20, delay.num);
  view.setUint16(22, delay.den);
  const before = chunkBytes('fcTL', control);
  if (place === 0) return inOne([before, chunkBytes('IDAT', packedRows)]);
  const numbered = new Uint8Array(4 + packedRows.byteLength);
  new DataView(numbered.buffer).setUint32(0, sequence + 1);
  numbered.set(packedRows, 4);
  return inOne([before, chunkBytes('fdAT', numbered)]);
}

/** What it ends with. */
export const APNG_END = chunkBytes('IEND', new Uint8Array(0));
