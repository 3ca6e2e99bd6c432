import fc from 'fast-check';
import Timecode from 'smpte-timecode';
import { describe, expect, it } from 'vitest';
import { frameOfTimecode, hasDropFrame, timecodeOf } from '@/core/time/timecode';

const R2997 = { num: 30000, den: 1001 };
const R5994 = { num: 60000, den: 1001 };

describe('drop-frame at 30000/1001 (SMPTE ST 12-1)', () => {
  it.each([
    [0, '00:00:00;00'],
    [1799, '00:00:59;29'],
    [1800, '00:01:00;02'],
    [3597, '00:01:59;29'],
    [3598, '00:02:00;02'],
    [17981, '00:09:59;29'],
    [17982, '00:10:00;00'],
    [107892, '01:00:00;00'],
  ])('frame %i is %s', (frame, text) => {
    expect(timecodeOf(frame, R2997, true)).toBe(text);
    expect(frameOfTimecode(text, R2997)).toEqual({ ok: true, value: frame });
  });

  it('agrees with an independent timecode library on every frame of an hour', () => {
    for (let frame = 0; frame < 107_892; frame += 7) {
      expect(timecodeOf(frame, R2997, true)).toBe(new Timecode(frame, 29.97, true).toString());
    }
  });

  it.each(['00:01:00;00', '00:01:00;01', '00:09:00;00', '01:11:00;01'])('refuses the number %s, which it skips', (text) => {
    const frame = frameOfTimecode(text, R2997);
    expect(frame.ok ? '' : frame.reason).toContain('skips');
  });

  it('keeps 00 and 01 in every tenth minute', () => {
    expect(frameOfTimecode('00:10:00;00', R2997)).toEqual({ ok: true, value: 17_982 });
    expect(frameOfTimecode('00:20:00;01', R2997)).toEqual({ ok: true, value: 35_965 });
  });
});

describe('drop-frame at 60000/1001 (SMPTE ST 12-1, from memory)', () => {
  it.each([
    [3599, '00:00:59;59'],
    [3600, '00:01:00;04'],
    [215_784, '01:00:00;00'],
  ])('frame %i is %s', (frame, text) => {
    expect(timecodeOf(frame, R5994, true)).toBe(text);
    expect(frameOfTimecode(text, R5994)).toEqual({ ok: true, value: frame });
  });
});

describe('non-drop', () => {
  it.each([
    [30, 24, 1, '00:00:01:06'],
    [1530, 30, 1, '00:00:51:00'],
    [86_400, 24000, 1001, '01:00:00:00'],
    [96, 24, 1, '00:00:04:00'],
    [59, 60, 1, '00:00:00:59'],
    [2_160_000, 25, 1, '00:00:00:00'],
  ])('frame %i at %i/%i is %s', (frame, num, den, text) => expect(timecodeOf(frame, { num, den })).toBe(text));

  it.each([24, 25, 30, 50, 60] as const)('agrees with an independent timecode library at %i', (rate) => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: rate * 86_399 }), (frame) => {
        expect(timecodeOf(frame, { num: rate, den: 1 })).toBe(new Timecode(frame, rate, false).toString());
      }),
    );
  });

  it('goes back to its frame, drop and non-drop', () => {
    const rates = [{ num: 24000, den: 1001 }, { num: 24, den: 1 }, { num: 25, den: 1 }, R2997, R5994, { num: 120, den: 1 }];
    fc.assert(
      fc.property(fc.constantFrom(...rates), fc.integer({ min: 0, max: 2_000_000 }), fc.boolean(), (rate, frame, drop) => {
        const asDrop = drop && hasDropFrame(rate);
        expect(frameOfTimecode(timecodeOf(frame, rate, asDrop), rate)).toEqual({ ok: true, value: frame });
      }),
    );
  });
});

describe('refusals', () => {
  it('has no drop-frame at 23.976 (SMPTE ST 12-1)', () => {
    expect(hasDropFrame({ num: 24000, den: 1001 })).toBe(false);
    expect(() => timecodeOf(0, { num: 24000, den: 1001 }, true)).toThrow('no drop-frame');
    const read = frameOfTimecode('00:00:01;00', { num: 24000, den: 1001 });
    expect(read.ok ? '' : read.reason).toContain('no drop-frame at 23.976');
  });

  it.each(['00:00:00:24', '00:60:00:00', '00:00:60:00', '24:00:00:00', '1:2:3', 'noon', '00:00:04', ''])('refuses %s at 24', (text) => {
    expect(frameOfTimecode(text, { num: 24, den: 1 }).ok).toBe(false);
  });
});
