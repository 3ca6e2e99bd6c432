import fc from 'fast-check';
import { expect, it } from 'vitest';
import { withoutAlpha } from '@/workers/output/pictures/withoutAlpha';

it('leaves out every fourth byte, wherever the pixels lie', () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 40 }), fc.integer({ min: 0, max: 7 }), fc.integer(), (pixels, offset, seed) => {
      let state = seed >>> 0;
      const memory = Uint8Array.from({ length: offset + pixels * 4 }, () => {
        state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
        return state >>> 24;
      });
      const rgba = memory.subarray(offset);
      expect(withoutAlpha(rgba)).toEqual(rgba.filter((_, at) => at % 4 !== 3));
    }),
  );
});
