import { describe, expect, it } from 'vitest';
import { consequencesOfRate, consequencesOfSize } from '@/core/document/ruledOut';

const words = (told: ReturnType<typeof consequencesOfRate>) =>
  told.map((each) => `${each.rulesOut ? 'rules out' : 'to know'}: ${each.words}`).join(' ');

describe('what a choice rules out', () => {
  it.each([
    [1280, 720, ''],
    [1921, 1080, 'rules out films'],
    [3840, 2160, '12 can be held ready'],
  ])('%i × %i: %s', (width, height, part) => {
    const told = words(consequencesOfSize({ width, height }));
    if (part === '') expect(told).toBe('');
    else expect(told).toContain(part);
  });

  it.each([
    [24, 1, ''],
    [25, 1, ''],
    // SMPTE ST 12-1: 86,400 frames of timecode at 24000/1001 last 3,603.6 s.
    [24000, 1001, 'lasts 3.6 s more than an hour'],
    [30000, 1001, 'is drop-frame'],
    [35, 2, 'not one of the usual rates'],
    [60, 1, 'rules out GIF'],
  ])('%i/%i: %s', (num, den, part) => {
    const told = words(consequencesOfRate({ num, den }));
    if (part === '') expect(told).toBe('');
    else expect(told).toContain(part);
  });
});
