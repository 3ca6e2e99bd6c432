import { deflateSync } from 'node:zlib';
import { decode } from 'fast-png';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { saysSrgb } from '@/core/format/png/srgb';
import { pngRows, writePng } from '@/core/format/png/writePng';

/* Written here, read by an image library (libpng) and by another reader. */
describe('a written PNG', () => {
  for (const channels of [3, 4] as const)
    for (const depth of [8, 16] as const)
      it(`of ${channels} channels of ${depth} bits holds its pixels, as other programs read it`, async () => {
        const facts = { width: 7, height: 5, channels, depth };
        const samples = Uint8Array.from({ length: 7 * 5 * channels }, (_, at) => (at * 97) % 256);
        const png = writePng(facts, deflateSync(pngRows(facts, samples)));
        expect(saysSrgb(png)).toBe(true);
        const read = decode(png);
        expect({ ...facts, data: [...read.data] }).toEqual({
          ...facts,
          data: [...samples].map((value) => (depth === 8 ? value : value * 257)),
        });
        expect(read).toMatchObject(facts);
        const { data, info } = await sharp(png).raw().toBuffer({ resolveWithObject: true });
        expect(info).toMatchObject({ width: 7, height: 5, channels });
        expect([...data]).toEqual([...samples]);
      });
});
