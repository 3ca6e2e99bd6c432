import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { deltaOf, withDelta } from '@/core/delta';
import { applyStep } from '@/core/edit/table';
import { anyStep, START } from '@/core/testing/steps';

/** As it arrives on the other side of a message. */
const sent = <T>(value: T): T => structuredClone(value);

describe('a delta', () => {
  it('makes the next value of the one before, sent as a message', () => {
    fc.assert(
      fc.property(fc.jsonValue(), fc.jsonValue(), (before, after) => {
        expect(withDelta(sent(before), sent(deltaOf(before, after)))).toEqual(after);
      }),
    );
  });

  it('makes every document of the one before, through chains of steps', () => {
    fc.assert(
      fc.property(fc.array(anyStep, { maxLength: 12 }), (steps) => {
        let here = START;
        let there: unknown = sent(START);
        for (const step of steps) {
          const next = applyStep(here, step);
          if (!next.ok) continue;
          there = withDelta(there, sent(deltaOf(here, next.value)));
          here = next.value;
        }
        expect(there).toEqual(here);
      }),
    );
  });

  it('leaves what did not change the very same there', () => {
    const before = {
      shots: [
        { id: 'a', levels: [{ n: 1 }, { n: 2 }] },
        { id: 'b', levels: [] },
      ],
      title: 'One',
    };
    const [first, second] = before.shots;
    const after = { ...before, shots: [{ ...first, levels: [first?.levels[0], { n: 3 }] }, second] };
    const there = sent(before);
    const next = withDelta(there, sent(deltaOf(before, after))) as typeof before;
    expect(next).toEqual(after);
    expect(next.shots[1]).toBe(there.shots[1]);
    expect(next.shots[0]?.levels[0]).toBe(there.shots[0]?.levels[0]);
  });

  it('of one exposure among 10,000 is as small as of one among three', () => {
    const runs = Array.from({ length: 10_000 }, (_, index) => ({ drawing: String(index), frames: 2 }));
    const changed = runs.map((run, index) => (index === 5000 ? { ...run, frames: 3 } : run));
    const longer = [...runs.slice(0, 5000), { drawing: 'new', frames: 1 }, ...runs.slice(5000)];
    expect(JSON.stringify(deltaOf(runs, changed)).length).toBeLessThan(120);
    expect(JSON.stringify(deltaOf(runs, longer)).length).toBeLessThan(120);
  });

  it('takes maps whole, and refuses a value it was not taken from', () => {
    const map = new Map([['a', 1]]);
    expect(withDelta({ facts: new Map() }, deltaOf({ facts: new Map() }, { facts: map }))).toEqual({ facts: map });
    expect(() => withDelta([], deltaOf({ a: 1 }, { a: 2 }))).toThrow();
    expect(() => withDelta({}, deltaOf([1], [2, 3]))).toThrow();
  });
});
