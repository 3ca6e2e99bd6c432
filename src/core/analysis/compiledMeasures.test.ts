import fc from 'fast-check';
import { expect, it } from 'vitest';
import { CELL_BYTES, cellGrid, codedOf, lightOfPicture, linearOf } from '@/core/analysis/light';
import { measurePicture } from '@/core/analysis/measure';
import { blockSide } from '@/core/raster/signature';

/*
 * Four pixels are measured at once: pictures of every width around four, of noise and of rectangles of one colour, clear or
 * opaque, are held to what the sentences in `measure.ts` and `light.ts` say, worked out pixel by pixel.
 */
const picture = fc
  .record({
    width: fc.integer({ min: 1, max: 23 }),
    // Now and then so wide that blocks have four pixels a side, and cells more than one.
    isWide: fc.boolean(),
    height: fc.integer({ min: 1, max: 9 }),
    seed: fc.integer(),
    rectangles: fc.array(
      fc.record({ left: fc.nat(23), top: fc.nat(9), across: fc.nat(23), down: fc.nat(9), word: fc.nat(0xffffff), alpha: fc.nat(255) }),
      { maxLength: 6 },
    ),
    isNoise: fc.boolean(),
  })
  .map(({ width: small, isWide, height, seed, rectangles, isNoise }) => {
    const width = isWide ? 1200 + small : small;
    const words = new Uint32Array(width * height);
    if (isNoise) for (let at = 0; at < words.length; at++) words[at] = Math.imul(at + seed, 2_654_435_761);
    for (const { left, top, across, down, word, alpha } of rectangles)
      for (let y = top; y < Math.min(height, top + down); y++)
        for (let x = left; x < Math.min(width, left + across); x++) words[y * width + x] = (word | (alpha << 24)) >>> 0;
    return { size: { width, height }, rgba: new Uint8Array(words.buffer) };
  });

type Pixel = { readonly x: number; readonly y: number; readonly rgb: readonly number[]; readonly alpha: number };

/** The pixels from (left, top) on, so many a side, as far as the picture goes. */
function pixelsIn(
  { width, height }: { width: number; height: number },
  rgba: Uint8Array,
  left: number,
  top: number,
  side: number,
): Pixel[] {
  const out: Pixel[] = [];
  for (let y = top; y < Math.min(height, top + side); y++)
    for (let x = left; x < Math.min(width, left + side); x++) {
      const at = (y * width + x) * 4;
      out.push({ x, y, rgb: [...rgba.subarray(at, at + 3)], alpha: rgba[at + 3] as number });
    }
  return out;
}

const total = (pixels: readonly Pixel[], of: (pixel: Pixel) => number) => pixels.reduce((sum, pixel) => sum + of(pixel), 0);

it('ink, middle, box, channels and block means are those of the pixels', () => {
  fc.assert(
    fc.property(picture, ({ size, rgba }) => {
      const { measure, blocks } = measurePicture(size, rgba);
      const drawn = pixelsIn(size, rgba, 0, 0, Math.max(size.width, size.height)).filter(({ alpha }) => alpha > 0);
      const ink = total(drawn, ({ alpha }) => alpha);
      expect(measure.inkPixels).toBe(ink / 255);
      if (drawn.length === 0) {
        expect([measure.box, measure.centre, measure.channels, blocks]).toEqual([null, null, null, null]);
        return;
      }
      expect(measure.centre?.x).toBeCloseTo(total(drawn, ({ x, alpha }) => (x + 0.5) * alpha) / ink, 9);
      expect(measure.centre?.y).toBeCloseTo(total(drawn, ({ y, alpha }) => (y + 0.5) * alpha) / ink, 9);
      const [xs, ys] = [drawn.map(({ x }) => x), drawn.map(({ y }) => y)];
      const box = { left: Math.min(...xs), top: Math.min(...ys), right: Math.max(...xs) + 1, bottom: Math.max(...ys) + 1 };
      expect(measure.box).toEqual(box);
      const solid = drawn.filter(({ alpha }) => alpha >= 128).flatMap(({ rgb }) => rgb);
      expect(measure.channels).toEqual(solid.length > 0 ? { lowest: Math.min(...solid), highest: Math.max(...solid) } : null);
      const side = blockSide(size.width, size.height);
      expect([blocks?.left, blocks?.top]).toEqual([Math.floor(box.left / side), Math.floor(box.top / side)]);
      const means: number[] = [];
      for (let top = Math.floor(box.top / side); top < Math.ceil(box.bottom / side); top++)
        for (let left = Math.floor(box.left / side); left < Math.ceil(box.right / side); left++) {
          const pixels = pixelsIn(size, rgba, left * side, top * side, side);
          for (let channel = 0; channel < 3; channel++)
            means.push(Math.round(total(pixels, ({ rgb, alpha }) => (rgb[channel] as number) * alpha) / (pixels.length * 255)));
          means.push(Math.round(total(pixels, ({ alpha }) => alpha) / pixels.length));
        }
      expect([...(blocks?.rgba ?? [])]).toEqual(means);
    }),
  );
});

it('the light of each cell is the mean of what its pixels give, and no cell that holds nothing is there', () => {
  fc.assert(
    fc.property(picture, ({ size, rgba }) => {
      const { columns, rows, cellPx } = cellGrid(size);
      const { spans, values } = lightOfPicture(size, rgba, { left: 0, top: 0, right: size.width, bottom: size.height });
      const found = new Map<number, Uint8Array>();
      for (let span = 0, at = 0; span < spans.length; span += 2)
        for (let cell = spans[span] as number; cell < (spans[span] as number) + (spans[span + 1] as number); cell++, at += CELL_BYTES)
          found.set(cell, values.subarray(at, at + CELL_BYTES));
      for (let cell = 0; cell < columns * rows; cell++) {
        const all = pixelsIn(size, rgba, (cell % columns) * cellPx, Math.floor(cell / columns) * cellPx, cellPx);
        const held = all.filter(({ alpha }) => alpha > 0);
        const light = found.get(cell);
        expect(light !== undefined).toBe(held.length > 0);
        if (!light) continue;
        const alpha = total(held, (pixel) => pixel.alpha);
        for (let channel = 0; channel < 3; channel++) {
          const mean = total(held, (pixel) => linearOf((pixel.rgb[channel] as number) / 255) * pixel.alpha) / alpha;
          expect(Math.abs((light[channel] as number) - codedOf(mean) * 255)).toBeLessThan(0.501);
        }
        expect(light[3]).toBe(Math.max(1, Math.round((held.length / all.length) * 255)));
        expect(light[4]).toBe(Math.max(1, Math.round(alpha / held.length)));
      }
    }),
  );
});
