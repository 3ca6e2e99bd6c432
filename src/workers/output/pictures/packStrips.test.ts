import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { TIFF_STRIP_ROWS } from '@/core/format/tiff/tiff';
import { packedStrips, unpackedStrips } from '@/workers/output/pictures/packStrips';

/** Rows that are all of one value, so that whole strips are often the same. */
const anyRows = fc.record({
  rowBytes: fc.constantFrom(3, 4, 21),
  values: fc.array(fc.constantFrom(0, 0, 0, 9), { minLength: 1, maxLength: 4 }),
  lastRows: fc.integer({ min: 1, max: TIFF_STRIP_ROWS }),
});

describe('pixels strip by strip', () => {
  it('are what they were when they are unpacked, and a strip that is the same as the one above is packed once', async () => {
    await fc.assert(
      fc.asyncProperty(anyRows, async ({ rowBytes, values, lastRows }) => {
        const height = (values.length - 1) * TIFF_STRIP_ROWS + lastRows;
        const pixels = new Uint8Array(height * rowBytes);
        for (const [strip, value] of values.entries()) pixels.fill(value, strip * TIFF_STRIP_ROWS * rowBytes);
        const strips = await packedStrips(pixels, { width: 1, height });
        expect(strips).toHaveLength(values.length);
        for (const [index, strip] of strips.entries()) {
          const isLast = index === strips.length - 1;
          const isRepeated = index > 0 && values[index] === values[index - 1] && (!isLast || lastRows === TIFF_STRIP_ROWS);
          expect(strip === strips[index - 1]).toBe(isRepeated);
        }
        expect(Buffer.compare(await unpackedStrips(strips), pixels)).toBe(0);
      }),
    );
  });

  it('refuse to be unpacked where one is broken', async () => {
    const [strip] = (await packedStrips(new Uint8Array(400), { width: 1, height: 100 })) as [Uint8Array, Uint8Array];
    await expect(unpackedStrips([strip.subarray(0, -2)])).rejects.toThrow();
  });
});
