import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { checkLength, countsOfMoment, countText, lengthCounts, lengthSentence, parseLength, parseMoment, plural } from '@/core/time/counts';
import { footageOf, footageText, framesOfFootage } from '@/core/time/footage';

const R24 = { num: 24, den: 1 };

describe('countsOfMoment', () => {
  it('gives the 31st frame at 24 in every count (worked by hand)', () => {
    expect(countsOfMoment(30, R24, 1)).toEqual({ frame: 31, seconds: '1.250', timecode: '00:00:01:06', footage: '1 ft 14 fr' });
  });

  it('starts from any first number', () => {
    expect(countsOfMoment(0, R24, 1001).frame).toBe(1001);
    expect(countsOfMoment(5, R24, 0).frame).toBe(5);
  });

  it('uses drop-frame where the rate has it', () => {
    expect(countsOfMoment(1800, { num: 30000, den: 1001 }, 1).timecode).toBe('00:01:00;02');
    expect(countsOfMoment(1800, { num: 30, den: 1 }, 1).timecode).toBe('00:01:00:00');
  });
});

describe('lengthSentence', () => {
  it.each([
    [1530, 30, 1, '1,530 frames at 30 = 51 s exactly'],
    [18, 30, 1, '18 frames at 30 = 0.6 s exactly'],
    [18, 12, 1, '18 frames at 12 = 1.5 s exactly'],
    [997, 24000, 1001, '997 frames at 23.976 = about 41.583 s'],
    [1, 24, 1, '1 frame at 24 = about 0.042 s'],
    [2400, 24, 1, '2,400 frames at 24 = 100 s exactly'],
  ])('%i at %i/%i', (frames, num, den, sentence) => expect(lengthSentence(frames, { num, den })).toBe(sentence));
});

describe('parseMoment', () => {
  it.each([
    ['31', 1, 30],
    ['1', 1, 0],
    ['1001', 1001, 0],
    ['1,031', 1, 1030],
    ['1s6', 1, 30],
    ['00:00:01:06', 1, 30],
    ['1+14', 1001, 30],
    ['0s', 1, 0],
  ])('%s with first frame %i is frame index %i', (text, startFrame, index) =>
    expect(parseMoment(text, R24, startFrame)).toEqual({ ok: true, value: index }),
  );

  it.each([
    ['0', 1, 'There is no frame 0: the first one is 1.'],
    ['soon', 1, '“soon” can'],
    ['1s30', 1, 'a second holds 24'],
  ])('refuses %s', (text, startFrame, reason) => {
    const moment = parseMoment(text, R24, startFrame);
    expect(moment.ok ? '' : moment.reason).toContain(reason);
  });
});

describe('what the clock shows', () => {
  const rates = [
    R24,
    { num: 24000, den: 1001 },
    { num: 25, den: 1 },
    { num: 30000, den: 1001 },
    { num: 60, den: 1 },
    { num: 125, den: 10 },
  ];
  it('can be typed wherever a moment or a length is asked', () => {
    fc.assert(
      fc.property(fc.constantFrom(...rates), fc.integer({ min: 1, max: 20_000 }), (rate, frame) => {
        const shown = countsOfMoment(frame, rate, 1);
        for (const text of [`${shown.seconds} s`, shown.footage, shown.timecode, countText(shown.frame)])
          expect([text, parseMoment(text, rate, 1)]).toEqual([text, { ok: true, value: frame }]);
        for (const text of [`${shown.seconds} s`, shown.footage, shown.timecode])
          expect(parseLength(text, rate)).toEqual({ ok: true, value: frame });
      }),
    );
  });

  it.each([
    ['1,5300', R24, "can’t be read|can't be read"],
    ['1.26 s', R24, 'lies between 30 frames \\(1.250 s\\) and 31 \\(1.292 s\\)'],
    ['3s', { num: 125, den: 10 }, 'is 37.50 frames at 12.5'],
    ['1 ft 16 fr', R24, 'a foot holds 16'],
  ])('“%s” is refused', (text, rate, reason) => {
    const length = parseLength(text, rate);
    expect(length.ok ? '' : length.reason).toMatch(new RegExp(reason));
  });

  it.each([
    ['4s', { num: 125, den: 10 }, 50],
    ['4s', { num: 24000, den: 1001 }, 96],
    ['1,530', R24, 1530],
    ['1.25 s', R24, 30],
    ['2 ft', R24, 32],
  ])('“%s” is read', (text, rate, frames) => expect(parseLength(text, rate)).toEqual({ ok: true, value: frames }));
});

describe('parseLength', () => {
  it.each([
    ['96', 96],
    ['4s', 96],
    ['4s12', 108],
    ['4 s 12', 108],
    ['00:00:04:00', 96],
    ['6+00', 96],
    ['6+08', 104],
    ['1,530', 1530],
    [' 1 ', 1],
  ])('reads %s as %i frames at 24', (text, frames) => expect(parseLength(text, R24)).toEqual({ ok: true, value: frames }));

  it('counts seconds as timecode does at 23.976', () =>
    expect(parseLength('4s', { num: 24000, den: 1001 })).toEqual({ ok: true, value: 96 }));

  it.each([
    ['0', '0 frames'],
    ['0s', '0 frames'],
    ['1000001', '1000001 frames'],
    ['4s24', '24 frames after the seconds'],
    ['6+16', '16 frames after the feet'],
    ['soon', 'soon'],
    ['-4', '-4'],
    ['4.5', '4.5'],
    ['', ''],
    ['00:00:04:24', '00:00:04:24'],
  ])('refuses %s with a sentence', (text, named) => {
    const length = parseLength(text, R24);
    expect(length.ok).toBe(false);
    expect(length.ok ? '' : length.reason).toContain(named);
  });

  it('reads back every count it shows', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 100_000 }),
        fc.constantFrom(R24, { num: 25, den: 1 }, { num: 30000, den: 1001 }),
        (frames, rate) => {
          const counts = lengthCounts(frames, rate);
          expect(parseLength(String(counts.frames), rate)).toEqual({ ok: true, value: frames });
          expect(parseLength(counts.timecode, rate)).toEqual({ ok: true, value: frames });
          expect(parseLength(counts.footage, rate)).toEqual({ ok: true, value: frames });
        },
      ),
    );
  });
});

describe('footage (common practice: 16 frames a foot of 35 mm, 40 of 16 mm)', () => {
  it('runs 90 feet of 35 mm and 36 of 16 mm a minute at 24', () => {
    expect(footageOf(24 * 60, '35mm')).toEqual({ feet: 90, frames: 0 });
    expect(footageOf(24 * 60, '16mm')).toEqual({ feet: 36, frames: 0 });
  });

  it.each([
    [96, '6+00'],
    [30, '1+14'],
    [0, '0+00'],
  ])('%i frames are %s', (frames, text) => {
    expect(footageText(frames)).toBe(text);
    expect(framesOfFootage(text)).toEqual({ ok: true, value: frames });
  });

  it.each(['6', '6+', '+4', '6+99', 'x+1'])('refuses %s', (text) => expect(framesOfFootage(text).ok).toBe(false));
});

describe('words for counts', () => {
  it('parts thousands and fits the noun', () => {
    expect(countText(1_234_567)).toBe('1,234,567');
    expect(countText(96)).toBe('96');
    expect(plural(1, 'frame')).toBe('1 frame');
    expect(plural(1530, 'frame')).toBe('1,530 frames');
    expect(plural(2, 'repeat of this', 'repeats of this')).toBe('2 repeats of this');
  });

  it.each([0, -1, 1.5, Number.NaN, 1_000_001])('refuses a length of %d', (frames) => expect(checkLength(frames).ok).toBe(false));
});
