import fc from 'fast-check';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { type BlurEdges, blurred, boxesOf, boxWidth } from '@/core/finish/blur';

/** One box of `width` pixels, `left` of them to the left, over a line of any length; outside it is as told. */
function box(line: readonly number[], width: number, left: number, outside: (at: number) => number): (at: number) => number {
  return (at) => {
    let sum = 0;
    for (let pixel = at - left; pixel < at - left + width; pixel++) sum += line[pixel] ?? outside(pixel);
    return sum / width;
  };
}

/** A line blurred by the specification's words, box by box, over a line long enough that nothing of its ends is seen. */
function plainLine(line: readonly number[], d: number, edges: BlurEdges): number[] {
  const room = 3 * d;
  const last = line.length - 1;
  const at = (pixel: number) => (edges === 'none' ? (line[pixel] ?? 0) : (line[Math.min(last, Math.max(0, pixel))] as number));
  let long = Array.from({ length: line.length + 2 * room }, (_, index) => at(index - room));
  const boxes =
    d % 2 === 1
      ? [1, 2, 3].map(() => [d, (d - 1) / 2] as const)
      : ([
          [d, d / 2],
          [d, d / 2 - 1],
          [d + 1, d / 2],
        ] as const);
  for (const [width, left] of boxes) {
    const before = long;
    long = before.map((_, index) =>
      box(before, width, left, (pixel) => before[Math.min(before.length - 1, Math.max(0, pixel))] as number)(index),
    );
  }
  return long.slice(room, room + line.length);
}

function plainBlur(pixels: Uint8ClampedArray, width: number, height: number, d: number, edges: BlurEdges): Float64Array {
  const out = new Float64Array(pixels.length);
  for (let channel = 0; channel < 4; channel++) {
    const rows = Array.from({ length: height }, (_, y) =>
      plainLine(
        Array.from({ length: width }, (_each, x) => pixels[(y * width + x) * 4 + channel] as number),
        d,
        edges,
      ),
    );
    for (let x = 0; x < width; x++) {
      const column = plainLine(
        rows.map((row) => row[x] as number),
        d,
        edges,
      );
      column.forEach((value, y) => {
        out[(y * width + x) * 4 + channel] = value;
      });
    }
  }
  return out;
}

const random = (length: number, seed: number) => Uint8ClampedArray.from({ length }, (_, index) => ((index + seed) * 2_654_435_761) >>> 21);

describe('a blur', () => {
  // W3C Filter Effects Module Level 1, feGaussianBlur.
  it.each([
    [0, 0],
    [0.5, 1],
    [2, 4],
    [6, 11],
    [10, 19],
  ])('of %d px has boxes of %i', (deviation, width) => expect(boxWidth(deviation)).toBe(width));

  it.each([
    [4, [4, 4, 5], 5],
    [11, [11, 11, 11], 15],
    [2, [2, 2, 3], 2],
  ])('boxes of %i are %o and reach %i to the left', (width, widths, reachLeft) => expect(boxesOf(width)).toEqual({ widths, reachLeft }));

  it('is the three boxes exactly, at any size, with any edges', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 24 }),
        fc.integer({ min: 1, max: 20 }),
        fc.constantFrom(0.9, 1.4, 2, 3, 6, 10, 35),
        fc.constantFrom<BlurEdges>('none', 'duplicate'),
        fc.integer({ min: 0, max: 1e6 }),
        (width, height, deviation, edges, seed) => {
          const pixels = random(width * height * 4, seed);
          const d = boxWidth(deviation);
          const plain = plainBlur(pixels, width, height, d, edges);
          const made = blurred(pixels, width, height, deviation, edges);
          // Between rows and columns values are kept to 1/128, or coarser for wide boxes: only what lies that near to a half may round the other way.
          const slack = d <= 63 ? 1 / 128 + 1e-6 : 1 / 8;
          for (const [at, value] of plain.entries()) expect(Math.abs((made[at] as number) - value)).toBeLessThanOrEqual(0.5 + slack);
        },
      ),
      { numRuns: 120 },
    );
  });

  it('leaves one colour as it is, to the very edge', () => {
    const one = new Uint8ClampedArray(31 * 17 * 4).fill(0).map((_, at) => [200, 7, 255, 255][at % 4] as number);
    expect(blurred(one, 31, 17, 9)).toEqual(one);
  });

  it('is close to an image library’s Gaussian of the same deviation', async () => {
    const [width, height] = [160, 120];
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}"><rect width="100%" height="100%" fill="#f4e9d2"/><circle cx="70" cy="60" r="30" fill="#37808a"/><rect x="100" y="10" width="40" height="90" fill="#1d2a23"/></svg>`;
    const { data } = await sharp(Buffer.from(svg)).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
    for (const deviation of [2, 6, 10]) {
      const theirs = await sharp(data, { raw: { width, height, channels: 4 } })
        .blur({ sigma: deviation, precision: 'float', minAmplitude: 0.001 })
        .raw()
        .toBuffer();
      const ours = blurred(new Uint8ClampedArray(data), width, height, deviation);
      // Three boxes differ from a Gaussian by up to 4 % of a step, and least for wide ones; on average by half a value.
      let [most, sum] = [0, 0];
      ours.forEach((value, at) => {
        const apart = Math.abs(value - (theirs[at] as number));
        most = Math.max(most, apart);
        sum += apart;
      });
      expect(most).toBeLessThanOrEqual(deviation === 2 ? 10 : 6);
      expect(sum / ours.length).toBeLessThan(1);
    }
  });
});
