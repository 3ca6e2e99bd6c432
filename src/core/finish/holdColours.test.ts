import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { holdWithin } from '@/core/finish/holdColours';
import { outsideRange } from '@/core/raster/range';

const RANGE = { from: 16, to: 235 };

describe('a colour range', () => {
  it.each([
    [[16, 16, 16, 255], 0],
    [[235, 235, 235, 255], 0],
    [[15, 100, 100, 255], 1],
    [[100, 236, 100, 255], 1],
    [[100, 100, 255, 1], 1],
    [[0, 0, 0, 0], 0],
  ])('%o has %i pixels outside', (pixel, count) => expect(outsideRange(Uint8Array.from(pixel), RANGE).count).toBe(count));

  it('is kept to by what is held, which leaves all else as it was', async () => {
    const random = Uint8ClampedArray.from({ length: 64 * 64 * 4 }, (_, index) => (index * 7919 + (index >> 3) * 104_729) % 256);
    const held = random.slice();
    holdWithin(held, RANGE);
    expect(outsideRange(held, RANGE).count).toBe(0);
    random.forEach((value, index) => {
      const stays = index % 4 === 3 || random[index - (index % 4) + 3] === 0 || (value >= 16 && value <= 235);
      if (stays) expect(held[index]).toBe(value);
    });
    const again = held.slice();
    holdWithin(again, RANGE);
    expect(again).toEqual(held);
    // An image library finds the same extremes.
    const opaque = held.map((value, index) => (index % 4 === 3 ? 255 : value));
    holdWithin(opaque, RANGE);
    const { channels } = await sharp(Buffer.from(opaque.buffer), { raw: { width: 64, height: 64, channels: 4 } }).stats();
    for (const channel of channels.slice(0, 3)) expect([channel.min >= 16, channel.max <= 235]).toEqual([true, true]);
  });
});
