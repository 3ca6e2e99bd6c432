import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { bytesText, isSame } from '@/core/bytes';

describe('bytes in words', () => {
  it.each([
    [0, '0 kB'],
    [1, '1 kB'],
    [412_000, '412 kB'],
    [999_001, '1000 kB'],
    [1_000_000, '1.00 MB'],
    [1_930_001, '1.94 MB'],
    [52_981_750_000, '52.99 GB'],
  ])('%i are %s, never less than they are', (bytes, text) => expect(bytesText(bytes)).toBe(text));
});

describe('two runs of bytes', () => {
  it('are the same, wherever they begin, until one byte is another or one is longer', () => {
    const place = fc.integer({ min: 0, max: 9 });
    fc.assert(
      fc.property(fc.uint8Array({ minLength: 1, maxLength: 40 }), place, place, fc.nat(), (bytes, oneAt, otherAt, changed) => {
        const lying = (at: number) => {
          const around = new Uint8Array(at + bytes.length + 3).fill(7);
          around.set(bytes, at);
          return around.subarray(at, at + bytes.length);
        };
        const [one, other] = [lying(oneAt), lying(otherAt)];
        expect(isSame(one, other)).toBe(true);
        expect(isSame(one, other.subarray(0, -1))).toBe(false);
        other[changed % bytes.length] = (other[changed % bytes.length] as number) ^ 1;
        expect(isSame(one, other)).toBe(false);
      }),
    );
  });
});
