import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Exposure } from '@/core/document/model';
import { MOST_PARTS, type RunPart, runParts } from '@/core/edit/runParts';
import { framesOfRuns, tidyRuns } from '@/core/sheet/runs';
import { record } from '@/core/testing/record';

const run = record({ drawing: fc.constantFrom('a', 'b', 'c', 'd', null), frames: fc.integer({ min: 1, max: 5 }) });
const runs = fc.array(run, { maxLength: 40 }).map((list) => tidyRuns(list as Exposure[]));
const taken = (parts: readonly RunPart[], isTaken: (index: number) => boolean) =>
  tidyRuns(parts.flatMap((part, index) => (isTaken(index) ? part.after : part.before)));

describe('two lists of exposures held against each other', () => {
  it('are made of their parts in order, and all of them taken are the other list', () => {
    fc.assert(
      fc.property(runs, runs, (before, after) => {
        const parts = runParts(before, after);
        expect(parts.flatMap((part) => part.before)).toEqual(before);
        expect(parts.flatMap((part) => part.after)).toEqual(after);
        expect(taken(parts, () => true)).toEqual(after);
        expect(taken(parts, () => false)).toEqual(before);
        // Every part begins where the ones before it end, in either list.
        let [start, startAfter] = [0, 0];
        for (const part of parts) {
          expect([part.startFrame, part.startFrameAfter]).toEqual([start, startAfter]);
          start += part.before.reduce((sum, { frames }) => sum + frames, 0);
          startAfter += part.after.reduce((sum, { frames }) => sum + frames, 0);
        }
      }),
      { numRuns: 500 },
    );
  });

  it('taken one after another lead to the other list whatever the order', () => {
    fc.assert(
      fc.property(runs, runs, fc.infiniteStream(fc.boolean()), (before, after, choices) => {
        const parts = runParts(before, after);
        const first = parts.map(() => choices.next().value as boolean);
        const half = taken(parts, (index) => first[index] as boolean);
        const rest = runParts(half, after);
        expect(taken(rest, () => true)).toEqual(after);
        expect(framesOfRuns(half)).toBeLessThanOrEqual(framesOfRuns(before) + framesOfRuns(after));
      }),
      { numRuns: 300 },
    );
  });

  it('that are the same differ nowhere, however long', () => {
    const long = Array.from({ length: 20_000 }, (_, index) => ({ drawing: `d${index % 900}`, frames: 2 }));
    expect(runParts(long, [...long]).every(({ isSame }) => isSame)).toBe(true);
  });

  it('that differ everywhere are one difference, found at once', () => {
    const long = Array.from({ length: 9000 }, (_, index) => ({ drawing: `d${index}`, frames: 2 }));
    const other = Array.from({ length: 9000 }, (_, index) => ({ drawing: `e${index}`, frames: 2 }));
    expect(runParts(long, other)).toHaveLength(1);
    const holds = long.map(({ drawing }) => ({ drawing, frames: 3 }));
    expect(runParts(long.slice(0, MOST_PARTS + 1), holds.slice(0, MOST_PARTS + 1))).toHaveLength(1);
    expect(runParts(long.slice(0, MOST_PARTS), holds.slice(0, MOST_PARTS))).toHaveLength(MOST_PARTS);
  });
});
