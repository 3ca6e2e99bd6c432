import { describe, expect, it, vi } from 'vitest';
import { remembered, rememberedUnder } from '@/core/remembered';

describe('remembered', () => {
  it('works each value out once, also when the answer is nothing', () => {
    const work = vi.fn((list: readonly number[]) => list[0]);
    const first = remembered(work);
    const [empty, one] = [[], [7]] as const;
    expect([first(empty), first(empty), first(one), first(one)]).toEqual([undefined, undefined, 7, 7]);
    expect(work).toHaveBeenCalledTimes(2);
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
