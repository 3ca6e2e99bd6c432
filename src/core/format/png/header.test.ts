import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { isOfByteSamples, readPngSize } from '@/core/format/png/header';

const pngOf = (width: number, height: number) =>
  sharp({ create: { width, height, channels: 4, background: '#00000000' } })
    .png()
    .toBuffer();

/** A PNG head that claims a size, with nothing behind it. */
function headOf(width: number, height: number): Uint8Array {
  const bytes = new Uint8Array(33);
  bytes.set([137, 80, 78, 71, 13, 10, 26, 10, 0, 0, 0, 13, 73, 72, 68, 82]);
  new DataView(bytes.buffer).setUint32(16, width);
  new DataView(bytes.buffer).setUint32(20, height);
  return bytes;
}

describe('readPngSize', () => {
  it('reads the size another library wrote', async () => {
    expect(readPngSize(await pngOf(1280, 720))).toEqual({ ok: true, value: { width: 1280, height: 720 } });
    expect(readPngSize(await pngOf(1, 7))).toEqual({ ok: true, value: { width: 1, height: 7 } });
  });

  it.each([
    ['no bytes', new Uint8Array(0), '0 bytes are not a PNG'],
    ['text', new TextEncoder().encode('<svg>not a picture at all, nor anything like it</svg>'), 'are not a PNG'],
    ['a JPEG head', Uint8Array.from({ length: 64 }, (_, index) => [255, 216, 255, 224][index] ?? 0), 'are not a PNG'],
    ['a side of 60,000', headOf(60_000, 60_000), 'A picture width of 60000 px'],
    ['a side of 0', headOf(720, 0), 'A picture height of 0 px'],
  ])('refuses %s', (_what, bytes, named) => {
    const size = readPngSize(bytes);
    expect(size.ok ? '' : size.reason).toContain(named);
  });

  it('refuses a file over 64 MiB by its size alone', () => {
    const size = readPngSize(new Uint8Array(64 * 1024 * 1024 + 1));
    expect(size.ok ? '' : size.reason).toContain('64.0 MiB; 64 MiB is the most');
  });
});

describe('isOfByteSamples', () => {
  const picture = () => sharp({ create: { width: 4, height: 4, channels: 4, background: '#20802060' } });
  it.each([
    ['colours with transparency', () => picture().png(), true],
    ['colours without', () => picture().removeAlpha().png(), true],
    ['colours of 16 bits', () => picture().toColourspace('rgb16').png(), false],
    ['a palette', () => picture().png({ palette: true }), false],
    ['grey alone', () => picture().removeAlpha().toColourspace('b-w').png(), false],
  ])('%s', async (_what, made, isSo) => {
    expect(isOfByteSamples(await made().toBuffer())).toBe(isSo);
  });
});
