import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { changedSpan, type Stroke } from '@/features/assemble/narrowStrokes';

/** Strokes one behind the other, of widths in eighths of a pixel. */
const laid = (widths: readonly number[]): readonly Stroke[] => {
  let x = 0;
  return widths.map((eighths, index) => {
    const stroke = { x, width: eighths / 8, parity: index % 2 };
    x += eighths / 8;
    return stroke;
  });
};

describe('what of the narrow items is painted anew', () => {
  it.each([
    ['nothing, when nothing differs', [8, 8, 8], [8, 8, 8], null],
    ['nothing, when two as long as each other change places', [8, 16, 16, 8], [8, 16, 16, 8], null],
    ['from the one that is longer to the end', [8, 8, 8], [8, 12, 8], [1, 3.5]],
    ['only the two that change places', [8, 8, 24, 8], [8, 24, 8, 8], [1, 5]],
    ['from where one is gone to the end', [8, 8, 8], [8, 8], [2, 3]],
    ['all, where there was none', [], [8, 8], [0, 2]],
  ])('%s', (_, before, after, span) => {
    expect(changedSpan(laid(before), laid(after))).toEqual(span);
  });

  it('holds every stroke that is not the same as before', () => {
    const widths = fc.array(fc.integer({ min: 1, max: 40 }), { maxLength: 12 });
    fc.assert(
      fc.property(widths, widths, (a, b) => {
        const [before, after] = [laid(a), laid(b)];
        const span = changedSpan(before, after);
        const key = ({ x, width, parity }: Stroke) => `${x} ${width} ${parity}`;
        const [was, is] = [new Set(before.map(key)), new Set(after.map(key))];
        for (const stroke of [...before.filter((one) => !is.has(key(one))), ...after.filter((one) => !was.has(key(one)))]) {
          expect(span?.[0]).toBeLessThanOrEqual(stroke.x);
          expect(span?.[1]).toBeGreaterThanOrEqual(stroke.x + stroke.width);
        }
      }),
    );
  });
});
