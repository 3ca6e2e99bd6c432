import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { KNOWN_RATES, makeRate, nominalRate, parseRate, rateFraction, rateName, sameRate } from '@/core/time/rate';

describe('makeRate', () => {
  it.each([
    [24, 1, 24, 1],
    [48, 2, 24, 1],
    [24000, 1001, 24000, 1001],
    [60000, 2002, 30000, 1001],
    [1, 1, 1, 1],
    [240, 1, 240, 1],
  ])('brings %i/%i to lowest terms', (num, den, lowestNum, lowestDen) => {
    expect(makeRate(num, den)).toEqual({ ok: true, value: { num: lowestNum, den: lowestDen } });
  });

  it.each([
    [0, 1, '0/1'],
    [1, 0, '1/0'],
    [-24, 1, '-24/1'],
    [24.5, 1, '24.5/1'],
    [Number.NaN, 1, 'NaN/1'],
    [24, Number.POSITIVE_INFINITY, '24/Infinity'],
    [241, 1, '241/1'],
    [1, 2, '1/2'],
    [2_000_000, 1, '2000000/1'],
  ])('refuses %d/%d and names it', (num, den, named) => {
    const rate = makeRate(num, den);
    expect(rate.ok).toBe(false);
    expect(rate.ok ? '' : rate.reason).toContain(named);
    expect(rate.ok ? '' : rate.reason).toMatch(/must be|choose from/);
  });

  it('gives the same rate for every multiple', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 240 }), fc.integer({ min: 1, max: 1000 }), (rate, factor) => {
        expect(makeRate(rate * factor, factor)).toEqual({ ok: true, value: { num: rate, den: 1 } });
      }),
    );
  });
});

describe('parseRate', () => {
  it.each([
    ['24', '24/1'],
    [' 25 ', '25/1'],
    ['23.976', '24000/1001'],
    ['23.98', '24000/1001'],
    ['29.97', '30000/1001'],
    ['59.94', '60000/1001'],
    ['24000/1001', '24000/1001'],
    ['48 / 2', '24/1'],
    ['12.5', '25/2'],
  ])('reads %s as %s', (text, fraction) => {
    const rate = parseRate(text);
    expect(rate.ok && rateFraction(rate.value)).toBe(fraction);
  });

  it.each(['', 'fast', '24 fps', '-24', '0', '1/0', '24/', '1e3'])('refuses %s', (text) => {
    expect(parseRate(text).ok).toBe(false);
  });

  it('reads back the name of every known rate', () => {
    for (const { rate, name } of KNOWN_RATES) {
      expect(rateName(rate)).toBe(name);
      const read = parseRate(name);
      expect(read.ok && sameRate(read.value, rate)).toBe(true);
    }
  });
});

describe('nominalRate', () => {
  it.each([
    [24000, 1001, 24],
    [30000, 1001, 30],
    [60000, 1001, 60],
    [25, 1, 25],
  ])('of %i/%i is %i', (num, den, nominal) => expect(nominalRate({ num, den })).toBe(nominal));

  it('names an unnamed rate by its value', () => expect(rateName({ num: 25, den: 2 })).toBe('12.5'));
});
