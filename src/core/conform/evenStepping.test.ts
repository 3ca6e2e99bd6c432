import fc from 'fast-check';
import { expect, it } from 'vitest';
import { steppedSource } from '@/core/conform/evenStepping';

const rate = fc.record({ num: fc.integer({ min: 1, max: 1_000_000 }), den: fc.integer({ min: 1, max: 1_000_000 }) });

it('is the whole part of the true quotient, for whatever rates and however far on', () => {
  fc.assert(
    fc.property(rate, rate, fc.integer({ min: 0, max: 1_000_000 }), fc.integer({ min: -1, max: 1 }), (from, to, frame, beside) => {
      // Right before, on and after a boundary is where a rounded quotient would tell itself apart.
      const at = Math.max(0, Math.round((frame * from.den * to.num) / (from.num * to.den)) + beside);
      fc.pre(at <= 1_000_000);
      const exact = (BigInt(at) * BigInt(from.num) * BigInt(to.den)) / (BigInt(from.den) * BigInt(to.num));
      expect(BigInt(steppedSource(at, from, to))).toBe(exact);
    }),
    { numRuns: 2000 },
  );
});
