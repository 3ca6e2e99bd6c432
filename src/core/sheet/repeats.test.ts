import { describe, expect, it } from 'vitest';
import { repeatPattern } from '@/core/sheet/repeats';

/** Frames of which those at some places (from 1) repeat the one before. */
const at = (frames: number, ...places: number[]) => Array.from({ length: frames }, (_, index) => places.includes(index + 1));

describe('the pattern of repeats', () => {
  it.each<[string, boolean[], string]>([
    ['none', at(10), ''],
    [
      '24 stepped evenly to 30: floor(k · 24/30)',
      Array.from({ length: 40 }, (_, k) => k > 0 && Math.floor(k * 0.8) === Math.floor((k - 1) * 0.8)),
      ': every 5th',
    ],
    [
      '24 stepped evenly to 25',
      Array.from({ length: 60 }, (_, k) => k > 0 && Math.floor(k * 0.96) === Math.floor((k - 1) * 0.96)),
      ': every 25th',
    ],
    ['on twos', Array.from({ length: 20 }, (_, k) => k % 2 === 1), ': each picture is held for 2 frames'],
    ['two and three in turn', Array.from({ length: 25 }, (_, k) => ![0, 2].includes(k % 5)), ': pictures stand 3 and 2 frames in turn'],
    ['every fifth but one', at(50, 3, 8, 13, 18, 23, 28, 33, 43, 48), ': every 5th, but for frame 38'],
    ['a list', at(30, 4, 11, 12, 20), ', in no regular pattern: frames 4, 11, 12, 20'],
    ['too many missing', at(30, 3, 8, 23), ', in no regular pattern: frames 3, 8, 23'],
  ])('%s', (_what, repeats, words) => expect(repeatPattern(repeats)).toBe(words));
});
