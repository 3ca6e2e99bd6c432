import { describe, expect, it, vi } from 'vitest';
import { remembered, rememberedLately, rememberedUnder } from '@/core/remembered';

describe('remembered', () => {
  it('works each value out once, also when the answer is nothing', () => {
    const work = vi.fn((list: readonly number[]) => list[0]);
    const first = remembered(work);
    const [empty, one] = [[], [7]] as const;
    expect([first(empty), first(empty), first(one), first(one)]).toEqual([undefined, undefined, 7, 7]);
    expect(work).toHaveBeenCalledTimes(2);
  });
});

describe('rememberedLately', () => {
  it('works out again only what was not asked for lately, and answers alike', () => {
    const lists = Array.from({ length: 300 }, (_, index) => [index]);
    const work = vi.fn((list: readonly number[]) => list[0]);
    const first = rememberedLately(work);
    for (const list of lists.slice(0, 256)) expect(first(list)).toBe(list[0]);
    for (const list of lists.slice(0, 256)) expect(first(list)).toBe(list[0]);
    expect(work).toHaveBeenCalledTimes(256);
    for (const list of lists.slice(256)) expect(first(list)).toBe(list[0]);
    expect(work).toHaveBeenCalledTimes(300);
    for (const list of lists.slice(44)) expect(first(list)).toBe(list[0]);
    expect(work).toHaveBeenCalledTimes(300);
    for (const list of lists.slice(0, 44)) expect(first(list)).toBe(list[0]);
    expect(work).toHaveBeenCalledTimes(344);
  });
});

describe('rememberedUnder', () => {
  it('works a value out again under something else, and keeps only the last answer', () => {
    const kept = rememberedUnder<object, string, string>();
    const value = {};
    const work = vi.fn((answer: string) => answer);
    const ask = (under: string, answer: string) => kept(value, under, () => work(answer));
    expect([ask('a', 'first'), ask('a', 'unasked'), ask('b', 'second'), ask('a', 'third')]).toEqual(['first', 'first', 'second', 'third']);
    expect(work).toHaveBeenCalledTimes(3);
  });
});
