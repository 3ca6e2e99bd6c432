import { describe, expect, it } from 'vitest';
import { START_LOOP } from '@/core/output/loop';
import { loopWords, rungsDown, sizeOfRung } from '@/core/output/loopLadder';

describe('ways to make a loop smaller', () => {
  it('begin with what was asked for and end in the smallest size', () => {
    const rungs = rungsDown('gif', { ...START_LOOP, dither: 'diffused' }, 1280);
    expect(rungs[0]).toEqual({ options: { ...START_LOOP, dither: 'diffused' }, widthPx: 1280 });
    expect(rungs.slice(0, 6).map(({ options }) => loopWords('gif', options))).toEqual([
      '256 colours, diffused dither',
      '256 colours, no dither',
      '128 colours, no dither',
      '64 colours, no dither',
      '32 colours, no dither',
      '16 colours, no dither',
    ]);
    expect([...new Set(rungs.map(({ widthPx }) => widthPx))]).toEqual([1280, 960, 640, 480, 320]);
  });

  it('never take more colours than were asked for, nor less than can be seen', () => {
    expect(rungsDown('gif', { ...START_LOOP, colours: 32 }, 64).map(({ options, widthPx }) => [options.colours, widthPx])).toEqual([
      [32, 64],
      [16, 64],
      [32, 48],
      [16, 48],
      [32, 32],
      [16, 32],
    ]);
  });

  it('of a WebP lower its quality, of an APNG only its size', () => {
    expect(
      rungsDown('awebp', { ...START_LOOP, quality: 80 }, 100)
        .map(({ options }) => options.quality)
        .slice(0, 4),
    ).toEqual([80, 75, 60, 40]);
    expect(rungsDown('apng', START_LOOP, 101).map(({ widthPx }) => widthPx)).toEqual([101, 76, 50, 38]);
  });

  it('are as wide as was asked for in the words it was asked in', () => {
    const [first, ...rest] = rungsDown('apng', START_LOOP, 640);
    expect(first && sizeOfRung(first, 640, { kind: 'half' })).toEqual({ kind: 'half' });
    expect(rest[0] && sizeOfRung(rest[0], 640, { kind: 'half' })).toEqual({ kind: 'width', widthPx: 480 });
  });
});
