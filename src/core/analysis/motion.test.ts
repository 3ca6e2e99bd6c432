import { describe, expect, it } from 'vitest';
import { measurePicture, type PictureMeasure } from '@/core/analysis/measure';
import { lengthsOf, measuredExposures, sizesAgainst, travelOf } from '@/core/analysis/motion';
import { levelOf, pictureOf } from '@/core/testing/sheets';

const SIZE = { width: 200, height: 100 };

/** A rectangle, measured. */
function measured(x: number, y: number, width: number, height: number): PictureMeasure {
  const rgba = new Uint8ClampedArray(SIZE.width * SIZE.height * 4);
  for (let row = y; row < y + height; row++)
    for (let column = x; column < x + width; column++) rgba.set([10, 20, 30, 255], (row * SIZE.width + column) * 4);
  return measurePicture(SIZE, rgba).measure;
}

const measures = new Map([
  [pictureOf('a'), measured(0, 0, 10, 10)],
  [pictureOf('b'), measured(30, 40, 10, 10)],
  [pictureOf('c'), measured(30, 52, 20, 10)],
]);

describe('travel', () => {
  it('is the way from middle to middle, over the frames it takes', () => {
    const exposures = measuredExposures(levelOf('Sock', '1*2 2*4 3*2', { pictures: 'abc' }), measures);
    // From (5, 5) to (35, 45) are 50 px, a 3-4-5 triangle; from there to (40, 57) are 13, a 5-12-13 one.
    expect(travelOf(exposures)).toEqual([
      { number: '1', startFrame: 0, frames: 2, centre: { x: 5, y: 5 }, distancePx: 50, pxPerFrame: 25 },
      { number: '2', startFrame: 2, frames: 4, centre: { x: 35, y: 45 }, distancePx: 13, pxPerFrame: 3.25 },
    ]);
  });

  it('goes on over a blank, and over what isn’t drawn', () => {
    const over = (notation: string, pictures: string) =>
      travelOf(measuredExposures(levelOf('Sock', notation, { pictures }), measures)).map(({ number, pxPerFrame }) => [number, pxPerFrame]);
    expect(over('1*2 .*3 2*2', 'ab')).toEqual([['1', 10]]);
    expect(over('1*2 2*3 3*2', 'a-b')).toEqual([['1', 10]]);
    expect(over('1*2 2*2 1*2', 'ab')).toEqual([
      ['1', 25],
      ['2', 25],
    ]);
    expect(over('1*2', 'a')).toEqual([]);
  });
});

describe('sizes', () => {
  it('are against the reference, in percent', () => {
    const exposures = measuredExposures(levelOf('Sock', '1*2 3*2', { pictures: 'ac' }), measures);
    expect(sizesAgainst(exposures, measured(0, 0, 10, 10))).toEqual([
      { number: '1', startFrame: 0, inkPercent: 100, boxPercent: 100 },
      { number: '3', startFrame: 2, inkPercent: 200, boxPercent: 200 },
    ]);
    expect(sizesAgainst(exposures, { inkPixels: 0, centre: null, box: null, channels: null })).toEqual([]);
  });
});

describe('lengths', () => {
  it('are those of exposures within the shot', () =>
    expect(lengthsOf(levelOf('Sock', '1*2 . 2*4 3*2'), 5)).toEqual([
      { number: '1', startFrame: 0, frames: 2 },
      { number: '2', startFrame: 3, frames: 4 },
    ]));
});
