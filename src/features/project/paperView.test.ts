import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { record } from '@/core/testing/record';
import { mirroredView, onPaper, type PaperView, panned, pinched, turnedBy, WHOLE_PAPER, zoomed } from '@/features/project/paperView';

const coordinate = fc.double({ min: -500, max: 500, noNaN: true });
const point = record({ x: coordinate, y: coordinate });
const views: fc.Arbitrary<PaperView> = record({
  panX: coordinate,
  panY: coordinate,
  turnDegrees: fc.double({ min: 0, max: 359, noNaN: true }),
  zoom: fc.double({ min: 0.5, max: 8, noNaN: true }),
  mirrored: fc.boolean(),
});

function expectSame(one: { x: number; y: number }, other: { x: number; y: number }) {
  expect(one.x).toBeCloseTo(other.x, 4);
  expect(one.y).toBeCloseTo(other.y, 4);
}

describe('a view of the paper', () => {
  it('is the paper itself when it is whole and upright', () => expectSame(onPaper(WHOLE_PAPER, { x: 12, y: -7 }), { x: 12, y: -7 }));

  it('keeps what lies under the pointer there when it comes nearer or turns', () => {
    fc.assert(
      fc.property(views, point, fc.double({ min: 0.8, max: 1.25, noNaN: true }), (view, at, factor) => {
        expectSame(onPaper(zoomed(view, factor, at), at), onPaper(view, at));
        expectSame(onPaper(turnedBy(view, factor * 40, at), at), onPaper(view, at));
      }),
    );
  });

  it('goes back by the opposite', () => {
    fc.assert(
      fc.property(views, point, (view, at) => {
        expectSame(onPaper(mirroredView(mirroredView(view)), at), onPaper(view, at));
        expectSame(onPaper(panned(panned(view, 7, 9), -7, -9), at), onPaper(view, at));
        expectSame(onPaper(turnedBy(turnedBy(view, 30), -30), at), onPaper(view, at));
      }),
    );
  });

  it('shows the left at the right when mirrored', () => {
    fc.assert(fc.property(views, point, (view, at) => expectSame(onPaper(mirroredView(view), { x: -at.x, y: at.y }), onPaper(view, at))));
  });

  it('keeps the paper under both fingers', () => {
    fc.assert(
      fc.property(views, point, point, coordinate, (view, first, second, by) => {
        fc.pre(Math.hypot(second.x - first.x, second.y - first.y) > 40);
        const after = [
          { x: first.x + by / 20, y: first.y - by / 30 },
          { x: second.x - by / 25, y: second.y + by / 40 },
        ] as const;
        const pinchedView = pinched(view, [first, second], after);
        fc.pre(pinchedView.zoom > 0.3 && pinchedView.zoom < 30);
        expectSame(onPaper(pinchedView, after[0]), onPaper(view, first));
        expectSame(onPaper(pinchedView, after[1]), onPaper(view, second));
      }),
    );
  });
});
