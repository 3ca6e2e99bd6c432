import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { isCutShort } from '@/core/format/cutShort';
import { writeWav } from '@/core/format/wav/writeWav';

const frames = [1, 2, 3].map((seed) =>
  Uint8Array.from({ length: 32 * 20 * 4 }, (_, at) => (Math.imul(at + seed * 31, 2654435761) >>> 9) % 256),
);
const stacked = () => sharp(Buffer.concat(frames), { raw: { width: 32, height: 60, channels: 4, pageHeight: 20 } });

const FILES: readonly (readonly [kind: string, make: () => Promise<Uint8Array>])[] = [
  ['GIF', async () => stacked().gif().toBuffer()],
  ['animated WebP', async () => stacked().webp({ lossless: true }).toBuffer()],
  [
    'PNG',
    async () =>
      sharp(frames[0], { raw: { width: 32, height: 20, channels: 4 } })
        .png()
        .toBuffer(),
  ],
  ['WAV', async () => writeWav([new Float32Array(4000).fill(0.25)], 48_000, 'int16')],
];

describe('isCutShort', () => {
  it.each(FILES)('%s: the whole file isn’t, and any part of it is', async (_kind, make) => {
    const file = new Uint8Array(await make());
    expect(isCutShort(file, file, file.byteLength)).toBe(false);
    for (let part = 1; part <= 60; part++) {
      const length = Math.floor((file.byteLength * part) / 61);
      if (length < 60) continue;
      const cut = file.subarray(0, length);
      expect([part, isCutShort(cut, cut, length)]).toEqual([part, true]);
    }
  });

  it('leaves a WAV alone whose writer didn’t know how long it would be', () => {
    const file = writeWav([new Float32Array(400)], 48_000, 'int16').slice();
    const view = new DataView(file.buffer);
    view.setUint32(40, 0xffffffff, true);
    expect(isCutShort(file, file, file.byteLength)).toBe(false);
  });

  it('knows an Ogg stream by the flag of its last page, and an MP4 by its boxes', () => {
    const page = (flags: number) =>
      Uint8Array.from([...'OggS'].map((letter) => letter.charCodeAt(0)).concat([0, flags], Array(40).fill(0)));
    expect(isCutShort(page(4), page(4), 46)).toBe(false);
    expect(isCutShort(page(0), page(0), 46)).toBe(true);
    const box = (type: string, length: number) => [
      0,
      0,
      length >> 8,
      length & 255,
      ...[...type].map((letter) => letter.charCodeAt(0)),
      ...Array(16).fill(0),
    ];
    const mp4 = Uint8Array.from([...box('ftyp', 24), ...box('mdat', 24)]);
    expect(isCutShort(mp4, mp4, mp4.byteLength)).toBe(false);
    const cut = Uint8Array.from([...box('ftyp', 24), ...box('mdat', 500)]);
    expect(isCutShort(cut, cut, cut.byteLength)).toBe(true);
  });

  it('says nothing of what doesn’t say how long it is', () =>
    expect(isCutShort(new Uint8Array(100), new Uint8Array(100), 100)).toBe(false));
});
