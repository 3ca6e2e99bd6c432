import { describe, expect, it } from 'vitest';
import { levelOf, shotOf } from '@/core/testing/sheets';
import { framesSteppedTo } from '@/features/draw/useNextReady';

/** Drawings 1 to 24, each on fours: drawing n from frame 4 (n − 1). */
const level = levelOf('Sock', Array.from({ length: 24 }, (_, place) => `${place + 1}*4`).join(' '));
const shot = shotOf([level], 96);

describe('what keys go to from a frame', () => {
  it.each([
    ['in the middle', 48, [48, 52, 44, 72, 24]],
    ['in the middle of a drawing', 50, [50, 52, 44, 74, 26]],
    ['at the beginning, where nothing is before', 0, [0, 4, 24]],
    ['at the end, where nothing comes after', 95, [95, 88, 71]],
  ])('is the frame, drawings beside it and seconds beside it: %s', (_, frame, frames) =>
    expect(framesSteppedTo(shot, level, frame, 24)).toEqual(frames),
  );

  it('names no frame twice: a second on is the next drawing there', () => {
    const slow = levelOf('Sock', '1*24 2*24');
    expect(framesSteppedTo(shotOf([slow], 48), slow, 0, 24)).toEqual([0, 24]);
  });

  it('is on a level without drawings only seconds', () => {
    const still = levelOf('Yard', '1', { kind: 'still' });
    expect(framesSteppedTo(shotOf([still], 60), still, 30, 24)).toEqual([30, 54, 6]);
  });
});
