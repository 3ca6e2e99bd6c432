import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Exposure } from '@/core/document/model';
import { columnRuns, runsTouching, sheetColumns } from '@/core/sheet/columns';
import { framesOfRuns, placedRuns, runAt, sameRuns, sliceRuns, spliceRuns, tidyRuns } from '@/core/sheet/runs';
import { record } from '@/core/testing/record';
import { levelOf, shotOf } from '@/core/testing/sheets';

const runs = fc.array(record({ drawing: fc.constantFrom('a', 'b', 'c', null), frames: fc.integer({ min: 1, max: 6 }) }), {
  maxLength: 12,
});

/** The drawing on each frame, written out: what runs mean. */
const perFrame = (list: readonly Exposure[]) => list.flatMap((run) => Array.from({ length: run.frames }, () => run.drawing));
const trimmed = (frames: (string | null)[]) => frames.slice(0, frames.findLastIndex((drawing) => drawing !== null) + 1);

describe('tidyRuns', () => {
  it('joins two touching exposures of one drawing: 1*2 1*3 is always 1*5', () => {
    const run = (drawing: string | null, frames: number) => ({ drawing, frames });
    expect(tidyRuns([run('1', 2), run('1', 3)])).toEqual([run('1', 5)]);
    expect(tidyRuns([run('1', 2), run(null, 1), run(null, 2), run('2', 1), run(null, 4)])).toEqual([
      run('1', 2),
      run(null, 3),
      run('2', 1),
    ]);
    expect(tidyRuns([run(null, 3)])).toEqual([]);
    expect(tidyRuns([run('1', 2), run('2', 0), run('1', 1)])).toEqual([run('1', 3)]);
  });

  it('changes nothing that shows, and nothing at all the second time', () => {
    fc.assert(
      fc.property(runs, (list) => {
        const tidy = tidyRuns(list);
        expect(perFrame(tidy)).toEqual(trimmed(perFrame(list)));
        expect(tidyRuns(tidy)).toBe(tidy);
        for (const [index, run] of tidy.entries()) expect(run.drawing).not.toBe(tidy[index + 1]?.drawing);
      }),
    );
  });
});

describe('spliceRuns', () => {
  it('does on runs what splice does on frames', () => {
    fc.assert(
      fc.property(runs, fc.nat(40), fc.nat(10), runs, (list, from, removed, inserted) => {
        const tidy = tidyRuns(list);
        const at = Math.min(from, framesOfRuns(tidy));
        const written = perFrame(tidy);
        written.splice(at, removed, ...perFrame(inserted));
        expect(perFrame(spliceRuns(tidy, at, removed, inserted))).toEqual(trimmed(written));
      }),
    );
  });
});

describe('reading runs', () => {
  it('finds the run of a frame, and what it covers', () => {
    const list = [
      { drawing: 'a', frames: 2 },
      { drawing: null, frames: 3 },
      { drawing: 'b', frames: 1 },
    ];
    expect(runAt(list, 0)).toEqual({ index: 0, drawing: 'a', startFrame: 0, endFrame: 2 });
    expect(runAt(list, 4)).toEqual({ index: 1, drawing: null, startFrame: 2, endFrame: 5 });
    expect(runAt(list, 5)).toEqual({ index: 2, drawing: 'b', startFrame: 5, endFrame: 6 });
    expect(runAt(list, 6)).toBeUndefined();
    expect(runAt(list, -1)).toBeUndefined();
  });

  it('agrees with itself frame by frame', () => {
    fc.assert(
      fc.property(runs, (list) => {
        const written = perFrame(list);
        for (const [frame, drawing] of written.entries()) expect(runAt(list, frame)?.drawing).toBe(drawing);
        expect(placedRuns(list).at(-1)?.endFrame ?? 0).toBe(framesOfRuns(list));
      }),
    );
  });

  it('slices any frames, padded with blank', () => {
    fc.assert(
      fc.property(runs, fc.nat(50), fc.nat(30), (list, from, length) => {
        const written = perFrame(list);
        const wanted = Array.from({ length }, (_, index) => written[from + index] ?? null);
        expect(perFrame(sliceRuns(list, from, from + length))).toEqual(wanted);
      }),
    );
  });

  it('knows equal columns', () => {
    expect(sameRuns([{ drawing: 'a', frames: 2 }], [{ drawing: 'a', frames: 2 }])).toBe(true);
    expect(sameRuns([{ drawing: 'a', frames: 2 }], [{ drawing: 'a', frames: 3 }])).toBe(false);
    expect(sameRuns([{ drawing: 'a', frames: 2 }], [])).toBe(false);
  });
});

describe('columns of the sheet', () => {
  it('are all but still levels, in front first', () => {
    const shot = shotOf([levelOf('Yard', '1', { kind: 'still' }), levelOf('Line', '1*2'), levelOf('Sock', '1*2')]);
    expect(sheetColumns(shot).map((level) => level.name)).toEqual(['Sock', 'Line']);
  });

  it('write the blank after the last exposure out, up to the end of the shot', () => {
    const level = levelOf('Sock', '1*2 2*2');
    expect(columnRuns(level, 10).at(-1)).toEqual({ index: 2, drawing: null, startFrame: 4, endFrame: 10 });
    expect(columnRuns(level, 3)).toHaveLength(2);
    expect(columnRuns(level, 3)).toBe(columnRuns(level, 3));
  });

  it('give the runs of any window, as looking at each would', () => {
    fc.assert(
      fc.property(runs, fc.nat(50), fc.integer({ min: 1, max: 20 }), (list, from, length) => {
        const placed = placedRuns(list);
        const wanted = placed.filter((run) => run.endFrame > from && run.startFrame < from + length);
        expect(runsTouching(placed, from, from + length)).toEqual(wanted);
      }),
    );
  });
});
