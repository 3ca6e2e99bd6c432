import fc from 'fast-check';
import { expect, it } from 'vitest';
import { areaMeans, blocksOnPaper, squareMeans } from '@/core/raster/compiledPlanes';
import { meanDifference } from '@/core/raster/signature';
import { i420Bytes, pixelsToI420 } from '@/core/raster/yuv';

/** Bytes that look like chance, told by a seed. */
const noise = (length: number, seed: number) => Uint8Array.from({ length }, (_, at) => Math.imul(at + seed, 2_654_435_761) >>> 24);

/*
 * Sides on both sides of what is worked out at once, eight pixels or sixteen samples, so that neither the many at once nor the
 * rest alone is held. Pictures are noise in which runs of one colour stand, since those are taken together.
 */
const picture = fc
  .record({
    halfWidth: fc.integer({ min: 1, max: 21 }),
    halfHeight: fc.integer({ min: 1, max: 4 }),
    seed: fc.integer(),
    flatTo: fc.nat(60),
  })
  .map(({ halfWidth, halfHeight, seed, flatTo }) => {
    const [width, height] = [halfWidth * 2, halfHeight * 2];
    const rgba = noise(width * height * 4, seed);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < Math.min(width, flatTo); x++) rgba.set([200, 90, seed & 255, 255], (y * width + x) * 4);
    return { width, height, rgba };
  });

it('planes are the equations of ITU-R BT.709 to within a rounding, at every pixel', () => {
  fc.assert(
    fc.property(picture, ({ width, height, rgba }) => {
      const out = new Uint8Array(i420Bytes(width, height));
      pixelsToI420(width, height, rgba, 'RGBA', out);
      const channels = (pixel: number) => [...rgba.subarray(pixel * 4, pixel * 4 + 3)] as [number, number, number];
      const lumaOf = ([red, green, blue]: readonly [number, number, number]) => 0.2126 * red + 0.7152 * green + 0.0722 * blue;
      for (let pixel = 0; pixel < width * height; pixel++)
        expect(Math.abs((out[pixel] as number) - 16 - (219 / 255) * lumaOf(channels(pixel)))).toBeLessThan(0.51);
      for (let y = 0; y < height / 2; y++)
        for (let x = 0; x < width / 2; x++) {
          const first = 2 * y * width + 2 * x;
          const four = [first, first + 1, first + width, first + width + 1].map(channels);
          const mean = [0, 1, 2].map((channel) => four.reduce((sum, one) => sum + (one[channel] as number), 0) / 4) as [
            number,
            number,
            number,
          ];
          const at = width * height + (y * width) / 2 + x;
          const [cb, cr] = [(mean[2] - lumaOf(mean)) / 1.8556, (mean[0] - lumaOf(mean)) / 1.5748];
          expect(Math.abs((out[at] as number) - 128 - (224 / 255) * cb)).toBeLessThan(0.52);
          expect(Math.abs((out[at + (width * height) / 4] as number) - 128 - (224 / 255) * cr)).toBeLessThan(0.52);
        }
    }),
  );
});

it.each([1, 2, 3, 4, 5, 8, 16, 32])('means of squares of %i are those of their samples, to the edges', (side) => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 90 }), fc.integer({ min: 1, max: 40 }), fc.integer(), (width, height, seed) => {
      const samples = noise(width * height, seed);
      const expected: number[] = [];
      for (let top = 0; top < height; top += side)
        for (let left = 0; left < width; left += side) {
          let [sum, count] = [0, 0];
          for (let y = top; y < Math.min(height, top + side); y++)
            for (let x = left; x < Math.min(width, left + side); x++, count++) sum += samples[y * width + x] as number;
          expected.push(Math.floor(sum / count + 0.5));
        }
      expect([...squareMeans(samples, width, height, side)]).toEqual(expected);
    }),
  );
});

it('means of squares pass over what lines have beyond their width', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 40 }), fc.integer({ min: 1, max: 20 }), fc.integer(), (width, height, seed) => {
      const stride = width + 1;
      const samples = noise(stride * height, seed);
      const alone = samples.filter((_, at) => at % stride < width);
      expect(squareMeans(samples, width, height, 2, stride)).toEqual(squareMeans(alone, width, height, 2));
    }),
  );
});

const side = fc.integer({ min: 1, max: 80 });

it('means of cells are those of what lies in them, each sample by its part', () => {
  fc.assert(
    fc.property(side, side, side, side, fc.integer(), (width, height, across, down, seed) => {
      const samples = noise(width * height, seed);
      // Each sample as `across` × `down` small ones, and each cell as `width` × `height` of them.
      const expected: number[] = [];
      for (let row = 0; row < down; row++)
        for (let column = 0; column < across; column++) {
          let sum = 0;
          for (let y = row * height; y < (row + 1) * height; y++)
            for (let x = column * width; x < (column + 1) * width; x++)
              sum += samples[Math.floor(y / down) * width + Math.floor(x / across)] as number;
          expected.push(Math.floor(sum / (width * height) + 0.5));
        }
      expect([...areaMeans(samples, width, height, across, down)]).toEqual(expected);
    }),
    { numRuns: 20 },
  );
});

it('signatures differ by the mean of what their bytes do', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 100 }), fc.integer(), fc.integer(), (length, one, other) => {
      const [a, b] = [noise(length, one), noise(length, other)];
      const sum = a.reduce((all, value, at) => all + Math.abs(value - (b[at] as number)), 0);
      expect(meanDifference(a, b)).toBe(sum / length);
    }),
  );
});

// Wide ones are put before the compiled code in several strips.
const pixelsOfBlocks = fc.record({
  width: fc.oneof(fc.integer({ min: 1, max: 40 }), fc.integer({ min: 4000, max: 4010 })),
  height: fc.integer({ min: 1, max: 20 }),
  bytes: fc.constantFrom(3 as const, 4 as const),
  side: fc.constantFrom(1, 2, 4, 8, 16, 64),
  seed: fc.integer(),
});

it('blocks on paper are the means of their pixels by ITU-R BT.709 to within a rounding, to the edges', () => {
  fc.assert(
    fc.property(pixelsOfBlocks, ({ width, height, bytes, side, seed }) => {
      const pixels = noise(width * height * bytes, seed);
      const [columns, rows] = [Math.ceil(width / side), Math.ceil(height / side)];
      const found = blocksOnPaper(pixels, width, height, bytes, side);
      expect(found).toHaveLength(columns * rows * 3);
      for (let block = 0; block < columns * rows; block += width > 1000 ? 7 : 1) {
        const [left, top] = [(block % columns) * side, Math.floor(block / columns) * side];
        const mean = [0, 0, 0];
        let count = 0;
        for (let y = top; y < Math.min(height, top + side); y++)
          for (let x = left; x < Math.min(width, left + side); x++, count++)
            for (let channel = 0; channel < 3; channel++) {
              const at = (y * width + x) * bytes;
              const alpha = bytes === 4 ? (pixels[at + 3] as number) / 255 : 1;
              mean[channel] = (mean[channel] as number) + (pixels[at + channel] as number) * alpha + 255 * (1 - alpha);
            }
        const [red = 0, green = 0, blue = 0] = mean.map((sum) => sum / count);
        const luma = 0.2126 * red + 0.7152 * green + 0.0722 * blue;
        const expected = [
          16 + (219 / 255) * luma,
          128 + ((224 / 255) * (blue - luma)) / 1.8556,
          128 + ((224 / 255) * (red - luma)) / 1.5748,
        ];
        // Pixels that are laid on paper are whole levels: their mean is half a level off at most, and what is made of it 1.5 times that.
        const rounded = bytes === 4 ? 0.5 : 0;
        for (const [plane, value] of expected.entries())
          expect(Math.abs((found[plane * columns * rows + block] as number) - value)).toBeLessThan(0.501 + rounded);
      }
    }),
  );
});
