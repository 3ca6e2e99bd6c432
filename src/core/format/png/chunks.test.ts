import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { changesColours } from '@/core/format/png/chunks';
import { saysSrgb, withSrgb } from '@/core/format/png/srgb';

const samples = Uint8Array.from({ length: 8 * 4 * 3 }, (_, index) => (index * 37) % 256);
const picture = () => sharp(samples, { raw: { width: 8, height: 4, channels: 3 } }).png();

describe('what a PNG says of its colours', () => {
  it('is nothing where another library wrote none, and told where it wrote a profile', async () => {
    expect(changesColours(await picture().toBuffer())).toBe(false);
    expect(changesColours(await picture().withIccProfile('p3').toBuffer())).toBe(true);
  });

  it('that it is sRGB changes nothing', async () => {
    const png = withSrgb(await picture().toBuffer());
    expect([saysSrgb(png), changesColours(png)]).toEqual([true, false]);
  });
});
