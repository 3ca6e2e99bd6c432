import { describe, expect, it } from 'vitest';
import { type FileTimes, mistimedFrames, rateOfTimes } from '@/core/handover/fileTimes';
import { frameRangeWords } from '@/core/handover/frameWords';
import { type Asked, type Counted, judge } from '@/core/handover/receipt';
import { KNOWN_RATES, type Rate } from '@/core/time/rate';

const asked: Asked = { frames: 96, rate: { num: 24, den: 1 }, width: 1280, height: 720, firstNumber: 1 };
const good: Counted = {
  frames: 96,
  rate: { num: 24, den: 1 },
  durationMicroseconds: 4_000_000,
  timeToleranceMicroseconds: 1,
  width: 1280,
  height: 720,
  repeatFrames: [],
  wrongFrames: [],
  mistimedFrames: [],
  untellableChanges: 0,
  comparison: { kind: 'within', toleranceLevels: 3, largestLevels: 0.4 },
};

describe('judge', () => {
  it('agrees when every line does, and says so', () => {
    const verdict = judge(asked, good);
    expect(verdict.agrees).toBe(true);
    expect(verdict.sentences[0]).toBe('Agrees: 96 frames, each there once, each the picture the sheet asks for.');
    expect(verdict.lines.map((line) => line.what)).toEqual([
      'frames',
      'rate',
      'length',
      'frames on time',
      'size',
      'right pictures',
      'repeats*',
    ]);
  });

  it.each([
    [{ frames: 95, wrongFrames: [] }, 'frames', '1 frame asked for is not in the file.'],
    [{ frames: 120 }, 'frames', 'The file holds 24 frames too many.'],
    [{ rate: { num: 30, den: 1 } }, 'rate', 'Asked for 24/1 frames a second, the file says 30/1.'],
    [{ durationMicroseconds: 3_200_000 }, 'length', ''],
    [{ width: 640 }, 'size', ''],
    [{ repeatFrames: [41] }, 'repeats*', 'The picture before is repeated, with no hold on the sheet, on frame 42.'],
    [{ wrongFrames: [2, 3, 4, 8] }, 'right pictures', 'Not the picture meant on frames 3–5, 9.'],
    [{ mistimedFrames: [0] }, 'frames on time', 'Not at its time: frame 1.'],
  ] as const)('disagrees with %o at “%s”', (part, what, sentence) => {
    const verdict = judge(asked, { ...good, ...part });
    expect(verdict.agrees).toBe(false);
    expect(verdict.lines.find((line) => line.what === what)?.agrees).toBe(false);
    expect(verdict.sentences.join(' ')).toContain(sentence);
    expect(verdict.sentences.join(' ')).not.toContain('Agrees');
  });

  it('takes a length within what the container can count', () => {
    const webm = { ...good, durationMicroseconds: 4_000_900, timeToleranceMicroseconds: 1000 };
    expect(judge(asked, webm).agrees).toBe(true);
    expect(judge(asked, { ...webm, durationMicroseconds: 4_001_100 }).agrees).toBe(false);
  });

  it('has no rate or length for picture files, and says that they were compared exactly', () => {
    const verdict = judge(asked, { ...good, rate: null, durationMicroseconds: null, comparison: { kind: 'exact' } });
    expect(verdict.agrees).toBe(true);
    expect(verdict.lines.map((line) => line.what)).toEqual(['frames', 'size', 'right pictures', 'repeats*']);
    expect(verdict.sentences.at(-1)).toContain('pixel for pixel');
  });

  it('says when changes are too small to be told apart', () => {
    expect(judge(asked, { ...good, untellableChanges: 2 }).sentences.at(-1)).toContain(
      '2 changes from one drawing to the next are too small',
    );
  });

  it('names frames by their numbers', () => {
    const verdict = judge({ ...asked, firstNumber: 1001 }, { ...good, wrongFrames: [0] });
    expect(verdict.sentences.join(' ')).toContain('frame 1001');
  });
});

describe('frameRangeWords', () => {
  it.each([
    [[5], 'frame 5'],
    [[3, 4, 5, 9], 'frames 3–5, 9'],
    [[1, 3, 5, 7, 9, 11, 13, 15], 'frames 1, 3, 5, 7, 9, 11 and 2 more places'],
    [[1, 3, 5, 7, 9, 11, 13], 'frames 1, 3, 5, 7, 9, 11 and 1 more place'],
  ])('%j', (frames, words) => expect(frameRangeWords(frames)).toBe(words));
});

describe('the rate a file’s times give', () => {
  const times = (rate: Rate, frames: number, quantumMicroseconds: number, offset = 0): FileTimes => ({
    startMicroseconds: Array.from(
      { length: frames },
      (_, index) => offset + Math.round((index * rate.den * 1e6) / rate.num / quantumMicroseconds) * quantumMicroseconds,
    ),
    lastDurationMicroseconds: Math.round((rate.den * 1e6) / rate.num / quantumMicroseconds) * quantumMicroseconds,
    quantumMicroseconds,
  });

  it.each(KNOWN_RATES.map(({ rate, name }) => [name, rate] as const))('is %s in microseconds and in thousandths', (_name, rate) => {
    for (const quantum of [1, 1000]) {
      expect(rateOfTimes(times(rate, 2000, quantum), { num: 17, den: 1 })).toEqual(rate);
      expect(mistimedFrames(times(rate, 500, quantum), rate)).toEqual([]);
    }
  });

  it('tells 24 from 24000/1001, and 30 from 24, whatever was asked for', () => {
    expect(rateOfTimes(times({ num: 24, den: 1 }, 1530, 1), { num: 24000, den: 1001 })).toEqual({ num: 24, den: 1 });
    expect(rateOfTimes(times({ num: 30, den: 1 }, 96, 1), { num: 24, den: 1 })).toEqual({ num: 30, den: 1 });
  });

  it('gives an unnamed rate by its value, and none for an empty film', () => {
    expect(rateOfTimes(times({ num: 175, den: 10 }, 1000, 1), { num: 24, den: 1 })).toEqual({ num: 17_500, den: 1000 });
    expect(rateOfTimes({ startMicroseconds: [], lastDurationMicroseconds: 0, quantumMicroseconds: 1 }, { num: 24, den: 1 })).toBeNull();
  });

  it('reads a film of one frame by that frame’s length', () => {
    expect(rateOfTimes(times({ num: 24, den: 1 }, 1, 1), { num: 24, den: 1 })).toEqual({ num: 24, den: 1 });
  });

  it('finds frames off their time', () => {
    const shifted = times({ num: 24, den: 1 }, 10, 1);
    const starts = shifted.startMicroseconds.with(4, (shifted.startMicroseconds[4] ?? 0) + 20_000);
    expect(mistimedFrames({ ...shifted, startMicroseconds: starts }, { num: 24, den: 1 })).toEqual([4]);
    expect(mistimedFrames(times({ num: 24, den: 1 }, 3, 1, 41_667), { num: 24, den: 1 })).toEqual([0, 1, 2]);
  });
});
