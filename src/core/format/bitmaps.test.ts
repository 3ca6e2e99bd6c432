import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { looksLikeBmp, readBmp } from '@/core/format/bmp/readBmp';
import type { Pixels } from '@/core/format/pixels';
import { looksLikeTga, readTga } from '@/core/format/tga/readTga';
import type { Outcome } from '@/core/outcome';

const [WIDTH, HEIGHT] = [37, 23];

/** A picture with flat parts and single pixels, so that runs of every length occur. */
const rgba = Uint8Array.from({ length: WIDTH * HEIGHT * 4 }, (_, index) => {
  const pixel = Math.floor(index / 4);
  const [x, y, channel] = [pixel % WIDTH, Math.floor(pixel / WIDTH), index % 4];
  if (channel === 3) return x < 12 ? 255 : x < 24 ? 128 : (y * 11) % 256;
  return y % 3 === 0 ? 40 * channel + 20 : (Math.imul(pixel, 2654435761) >>> (8 * channel + 3)) % 256;
});

const folder = mkdtempSync(path.join(tmpdir(), 'lime-tick-bitmaps-'));
afterAll(() => rmSync(folder, { recursive: true }));

/** The picture written by ffmpeg as a format with a pixel format, and as ffmpeg itself reads that file again. */
function byFfmpeg(format: 'targa' | 'bmp', pixelFormat: string, more: readonly string[] = []): { file: Uint8Array; read: Uint8Array } {
  const name = path.join(folder, `${pixelFormat}-${more.join('')}.${format === 'targa' ? 'tga' : 'bmp'}`);
  const input = ['-v', 'error', '-y', '-f', 'rawvideo', '-pix_fmt', 'rgba', '-s', `${WIDTH}x${HEIGHT}`, '-i', '-'];
  execFileSync('ffmpeg', [...input, '-frames:v', '1', '-c:v', format, '-pix_fmt', pixelFormat, ...more, name], { input: rgba });
  const read = execFileSync('ffmpeg', ['-v', 'error', '-i', name, '-pix_fmt', 'rgba', '-f', 'rawvideo', '-']);
  return { file: new Uint8Array(readFileSync(name)), read: new Uint8Array(read) };
}

function expectSame(result: Outcome<Pixels>, expected: Uint8Array, within = 0) {
  if (!result.ok) throw new Error(result.reason);
  expect(result.value.size).toEqual({ width: WIDTH, height: HEIGHT });
  const furthest = expected.reduce((most, value, index) => Math.max(most, Math.abs(value - (result.value.rgba[index] ?? -999))), 0);
  expect(furthest).toBeLessThanOrEqual(within);
}

describe('readTga reads what ffmpeg writes', () => {
  it.each([
    ['bgra', 'rle', 0],
    ['bgra', 'raw', 0],
    ['bgr24', 'rle', 0],
    ['gray', 'rle', 0],
    ['rgb555le', 'rle', 1],
  ] as const)('%s, %s', (pixelFormat, coding, within) => {
    const { file, read } = byFfmpeg('targa', pixelFormat, ['-rle', coding === 'rle' ? '1' : '0']);
    expect(looksLikeTga(file)).toBe(true);
    expectSame(readTga(file), read, within);
  });
});

describe('readBmp reads what ffmpeg writes', () => {
  it.each([
    ['bgra', 0],
    ['bgr24', 0],
    ['rgb565le', 1],
    ['rgb555le', 1],
    ['gray', 0],
    ['pal8', 0],
    ['monob', 0],
  ] as const)('%s', (pixelFormat, within) => {
    const { file, read } = byFfmpeg('bmp', pixelFormat);
    expect(looksLikeBmp(file)).toBe(true);
    const result = readBmp(file);
    // ffmpeg takes the fourth byte of 32 bits for alpha, which the format says only a mask does.
    if (pixelFormat === 'bgra' && result.ok) {
      const colours = (bytes: ArrayLike<number>) => Array.from(bytes).filter((_value, index) => index % 4 !== 3);
      expect(colours(result.value.rgba)).toEqual(colours(read));
    } else expectSame(result, read, within);
  });
});

describe('what can’t be read is refused with a sentence', () => {
  const tga = byFfmpeg('targa', 'bgra').file;
  const bmp = byFfmpeg('bmp', 'bgr24').file;
  const enormous = bmp.slice();
  new DataView(enormous.buffer).setInt32(18, 60_000, true);
  const compressed = bmp.slice();
  new DataView(compressed.buffer).setUint32(30, 1, true);
  it.each<[string, Outcome<Pixels>, string]>([
    ['a TGA broken off', readTga(tga.subarray(0, 200)), 'broken off'],
    ['a BMP broken off', readBmp(bmp.subarray(0, 200)), 'broken off'],
    ['nothing', readTga(new Uint8Array(0)), 'not a TGA'],
    ['text', readBmp(new TextEncoder().encode('BMW is no picture at all, and this text is long enough to pass.')), ''],
    ['an enormous BMP', readBmp(enormous), '60000 px'],
    ['a compressed BMP', readBmp(compressed), 'without compression'],
  ])('%s', (_what, result, reason) => {
    expect(result.ok).toBe(false);
    if (!result.ok) expect(result.reason).toContain(reason);
  });
});
