import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { emptyChart, reshaped, withChart, withoutTick, withTickAdded, withTickAt } from '@/core/chart/chartTicks';
import { chartPlaces, DRAWABLE_PARTS, MADE_SHAPES, type MadeShape, roundedPlaces, shapeWords } from '@/core/chart/shapes';
import { MOST_INBETWEENS, type TimingChart } from '@/core/document/timingChart';
import { compareFractions, fraction, fractionText, fractionValue, fromOtherEnd, placeWithin } from '@/core/time/fraction';

const texts = (shape: MadeShape, count: number) => chartPlaces(shape, count).map(fractionText).join(' ');

describe('where in-betweens lie (worked by hand)', () => {
  it.each<[MadeShape, number, string]>([
    ['even', 1, '1/2'],
    ['even', 2, '1/3 2/3'],
    ['even', 3, '1/4 1/2 3/4'],
    ['even', 4, '1/5 2/5 3/5 4/5'],
    ['halvesFirst', 1, '1/2'],
    ['halvesFirst', 2, '1/4 1/2'],
    ['halvesFirst', 3, '1/8 1/4 1/2'],
    ['halvesFirst', 4, '1/16 1/8 1/4 1/2'],
    ['halvesFirst', 5, '1/32 1/16 1/8 1/4 1/2'],
    ['halvesSecond', 2, '1/2 3/4'],
    ['halvesSecond', 3, '1/2 3/4 7/8'],
    ['halvesSecond', 4, '1/2 3/4 7/8 15/16'],
    ['halvesSecond', 5, '1/2 3/4 7/8 15/16 31/32'],
    ['halvesBoth', 1, '1/2'],
    ['halvesBoth', 2, '1/4 3/4'],
    ['halvesBoth', 3, '1/4 1/2 3/4'],
    ['halvesBoth', 4, '1/8 1/4 3/4 7/8'],
    ['halvesBoth', 5, '1/8 1/4 1/2 3/4 7/8'],
    ['slowBoth', 1, '1/2'],
    ['slowBoth', 2, '7/27 20/27'],
    ['slowBoth', 3, '5/32 1/2 27/32'],
    ['thirdsFirst', 1, '1/3'],
    ['thirdsSecond', 1, '2/3'],
    ['thirdsFirst', 2, '1/9 1/3'],
    // t³ at thirds and quarters.
    ['slowOut', 2, '1/27 8/27'],
    ['slowIn', 2, '19/27 26/27'],
    // Gaps of 1, 2, 3 parts of 6; and 1, 2, 2, 1 of 6.
    ['countOut', 2, '1/6 1/2'],
    ['countIn', 2, '1/2 5/6'],
    ['countBoth', 3, '1/6 1/2 5/6'],
    ['favourFirst', 1, '1/3'],
    ['favourSecond', 1, '2/3'],
  ])('%s of %i: %s', (shape, count, places) => expect(texts(shape, count)).toBe(places));

  it('strictly grow between the keys, for every shape and number there can be', () => {
    for (const shape of MADE_SHAPES) {
      for (let count = 0; count <= MOST_INBETWEENS; count++) {
        const places = chartPlaces(shape, count);
        expect(places).toHaveLength(count);
        const all = [fraction(0, 1), ...places, fraction(1, 1)];
        for (let index = 1; index < all.length; index++)
          expect(compareFractions(all[index - 1] as (typeof all)[0], all[index] as (typeof all)[0])).toBeLessThan(0);
      }
    }
  });

  it('are ones that somebody can draw, as near the exact ones as those before leave room, and say when they are not exact', () => {
    const finest = (shape: MadeShape, count: number) => Math.max(0, ...chartPlaces(shape, count).map((place) => place.den));
    for (const shape of MADE_SHAPES)
      for (let count = 0; count <= MOST_INBETWEENS; count++) expect(finest(shape, count)).toBeLessThanOrEqual(DRAWABLE_PARTS);
    expect([
      roundedPlaces('halvesFirst', 6),
      roundedPlaces('halvesFirst', 7),
      roundedPlaces('slowBoth', 3),
      roundedPlaces('slowOut', 5),
    ]).toEqual([0, 3, 0, 2]);
    // 1/128 falls on 1/64, so what stood there, and on 1/32, moves on by one part.
    expect(texts('halvesFirst', 7)).toBe('1/64 1/32 3/64 1/16 1/8 1/4 1/2');
  });

  it('towards one end are those towards the other, seen from there', () => {
    for (const [first, second] of [
      ['halvesFirst', 'halvesSecond'],
      ['thirdsFirst', 'thirdsSecond'],
      ['slowOut', 'slowIn'],
      ['countOut', 'countIn'],
      ['favourFirst', 'favourSecond'],
    ] as const)
      for (let count = 0; count <= 12; count++)
        expect(chartPlaces(second, count)).toEqual(chartPlaces(first, count).map(fromOtherEnd).toReversed());
  });

  it('of both ends mirror themselves', () => {
    for (const shape of ['even', 'halvesBoth', 'slowBoth', 'countBoth'] as const)
      for (let count = 0; count <= 12; count++)
        expect(chartPlaces(shape, count)).toEqual(chartPlaces(shape, count).map(fromOtherEnd).toReversed());
  });

  it('throw for more than a chart holds', () => expect(() => chartPlaces('even', MOST_INBETWEENS + 1)).toThrow('31'));

  it('have words of their own', () => {
    const words = MADE_SHAPES.map((shape) => shapeWords(shape, '1', '5'));
    expect(new Set(words).size).toBe(words.length);
  });
});

describe('places within a part of the way', () => {
  it.each([
    [[1, 4], [0, 1], [1, 2], '1/2'],
    [[3, 4], [1, 2], [1, 1], '1/2'],
    [[1, 2], [1, 3], [2, 3], '1/2'],
    [[5, 12], [1, 3], [1, 2], '1/2'],
  ] as const)('%o between %o and %o', (place, from, to, text) =>
    expect(fractionText(placeWithin(fraction(place[0], place[1]), fraction(from[0], from[1]), fraction(to[0], to[1])))).toBe(text),
  );

  it('are never off the way', () => expect(() => placeWithin(fraction(1, 4), fraction(1, 2), fraction(1, 1))).toThrow());
});

const grows = (chart: TimingChart) => {
  const values = [0, ...chart.ticks.map((tick) => fractionValue(tick.place)), 1];
  return values.every((value, index) => index === 0 || value > (values[index - 1] as number));
};

describe('a chart by hand', () => {
  const start = reshaped(emptyChart('c', 'a', 'b'), 'even', 3);

  it('stays in order whatever is done to its ticks', () => {
    const change = fc.oneof(
      fc.tuple(fc.constant('move' as const), fc.nat(29), fc.double({ min: -0.5, max: 1.5, noNaN: true })),
      fc.tuple(fc.constant('add' as const), fc.nat(0), fc.constant(0)),
      fc.tuple(fc.constant('remove' as const), fc.nat(29), fc.constant(0)),
    );
    fc.assert(
      fc.property(fc.constantFrom(...MADE_SHAPES), fc.nat(8), fc.array(change, { maxLength: 20 }), (shape, count, changes) => {
        let chart = reshaped(emptyChart('c', 'a', 'b'), shape, count);
        for (const [kind, index, value] of changes) {
          if (kind === 'add' && chart.ticks.length < MOST_INBETWEENS) chart = withTickAdded(chart);
          else if (kind === 'move' && index < chart.ticks.length) chart = withTickAt(chart, index, value);
          else if (kind === 'remove' && index < chart.ticks.length) chart = withoutTick(chart, index);
          expect(grows(chart)).toBe(true);
        }
      }),
    );
  });

  it('moves a tick as far as its neighbours let it', () => {
    expect(withTickAt(start, 1, 0.4).ticks.map((tick) => fractionText(tick.place))).toEqual(['1/4', '2/5', '3/4']);
    expect(withTickAt(start, 1, 0.1).ticks.map((tick) => fractionText(tick.place))).toEqual(['1/4', '31/120', '3/4']);
    expect(withTickAt(start, 1, 0.5)).toBe(start);
    expect(withTickAt(start, 1, 0.9).shape).toBe('hand');
  });

  it('adds a tick in the widest gap and keeps drawings with their ticks', () => {
    const drawn = { ...start, ticks: start.ticks.map((tick, index) => ({ ...tick, drawing: `d${index}` })) };
    const added = withTickAdded(withoutTick(drawn, 1));
    expect(added.ticks.map((tick) => [fractionText(tick.place), tick.drawing])).toEqual([
      ['1/4', 'd0'],
      ['1/2', null],
      ['3/4', 'd2'],
    ]);
    expect(reshaped(drawn, 'halvesFirst').ticks.map((tick) => tick.drawing)).toEqual(['d0', 'd1', 'd2']);
  });

  it('takes the place of the chart it was', () => {
    const other = emptyChart('d', 'b', 'c');
    expect(withChart([start, other], { ...start, shape: 'hand' })).toEqual([{ ...start, shape: 'hand' }, other]);
    expect(withChart([start], other)).toEqual([start, other]);
  });
});
