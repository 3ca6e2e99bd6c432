import { describe, expect, it } from 'vitest';
import { chartFor } from '@/core/chart/chartEdits';
import { chartsWithPath, markerAt, markersOf } from '@/core/chart/markers';
import { type KeyPair, pairAt } from '@/core/chart/pair';
import { placesOnCharts } from '@/core/chart/places';
import type { Level } from '@/core/document/model';
import type { TimingChart } from '@/core/document/timingChart';
import { ids, levelOf } from '@/core/testing/sheets';
import { fraction, fractionText } from '@/core/time/fraction';

const straight = (
  id: string,
  from: string,
  to: string,
  ticks: readonly (readonly [number, number, string | null])[],
  y: number,
): TimingChart => ({
  id,
  fromDrawing: from,
  toDrawing: to,
  shape: 'hand',
  ticks: ticks.map(([num, den, drawing]) => ({ place: fraction(num, den), drawing })),
  path: [
    { x: 0, y },
    { x: 80, y },
  ],
});

const first = straight(
  'first',
  'Sock-1',
  'Sock-4',
  [
    [1, 8, 'Sock-2'],
    [1, 2, 'Sock-3'],
  ],
  10,
);
const second = straight('second', 'Sock-4', 'Sock-6', [[1, 4, 'Sock-5']], 50);
const plain = levelOf('Sock', '1*2 2*2 3*2 4*2 5*2 6*2 7*4');
const level: Level = {
  ...plain,
  drawings: plain.drawings.map((drawing) => (['1', '4', '6'].includes(drawing.number) ? { ...drawing, role: 'key' } : drawing)),
  charts: [first, { ...second, path: second.path }],
};

describe('markers on a way', () => {
  it('lie where the chart’s fractions fall on it, keys at its ends', () => {
    expect(markersOf(level, first).map(({ drawing, point }) => [drawing.number, point.x, point.y])).toEqual([
      ['1', 0, 10],
      ['2', 10, 10],
      ['3', 40, 10],
      ['4', 80, 10],
    ]);
  });

  it('leave out a tick that has no drawing, and all of a chart without a way', () => {
    expect(markersOf(level, straight('c', 'Sock-1', 'Sock-4', [[1, 2, null]], 0))).toHaveLength(2);
    expect(markersOf(level, { ...first, path: [] })).toEqual([]);
    expect(chartsWithPath({ ...level, charts: [first, { ...second, path: [] }] })).toEqual([first]);
  });

  it.each([
    [0, '1', 0, 10],
    [3, '2', 10, 10],
    [5, '3', 40, 10],
    [9, '5', 20, 50],
    [11, '6', 80, 50],
  ])('at frame %i stand at drawing %s', (frame, number, x, y) => {
    const marker = markerAt(level, frame);
    expect([marker?.drawing.number, marker?.point]).toEqual([number, { x, y }]);
  });

  it('goes by the chart of the keys around it where two charts hold a drawing', () => {
    // Drawing 4 ends the first chart and begins the second; from its frame on the second counts.
    expect(markerAt(level, 6)?.chart.id).toBe('second');
  });

  it('stands nowhere for a blank and for a drawing on no chart', () => {
    expect(markerAt(level, 13)).toBeUndefined();
    expect(markerAt(level, 40)).toBeUndefined();
    expect(markerAt(levelOf('Line', '1*2'), 0)).toBeUndefined();
  });
});

describe('fractions for the sheet', () => {
  it('are those of in-betweens, by drawing', () => {
    expect([...placesOnCharts(level)]).toEqual([
      ['Sock-2', '1/8'],
      ['Sock-3', '1/2'],
      ['Sock-5', '1/4'],
    ]);
    expect(placesOnCharts(plain).size).toBe(0);
  });
});

describe('the chart of a pair', () => {
  const pair = (frame: number) => pairAt({ ...level, charts: [] }, frame) as KeyPair;

  it('is the kept one, else an even one of the drawings between', () => {
    expect(chartFor(level, pairAt(level, 0) as KeyPair, ids())).toEqual({ chart: first, isKept: true });
    const offered = chartFor({ ...level, charts: [] }, pair(0), ids());
    expect(offered.isKept).toBe(false);
    expect(offered.chart.ticks.map((tick) => [fractionText(tick.place), tick.drawing])).toEqual([
      ['1/3', 'Sock-2'],
      ['2/3', 'Sock-3'],
    ]);
  });

  it('has as many in-betweens as fit on twos where none stand between', () => {
    const bare = levelOf('Sock', '1*12 2*2');
    const keys: Level = { ...bare, drawings: bare.drawings.map((drawing) => ({ ...drawing, role: 'key' })) };
    expect(chartFor(keys, pairAt(keys, 0) as KeyPair, ids()).chart.ticks).toHaveLength(5);
  });

  it('is the same for the same pair asked again', () => {
    const bare = { ...level, charts: [] };
    expect(pairAt(bare, 0)).toBe(pairAt(bare, 3));
    expect(chartFor(bare, pairAt(bare, 0) as KeyPair, ids()).chart).toBe(chartFor(bare, pairAt(bare, 3) as KeyPair, ids()).chart);
  });
});
