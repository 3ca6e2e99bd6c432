import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Exposure, Project } from '@/core/document/model';
import { rebase } from '@/core/edit/rebase';
import type { Step } from '@/core/edit/step';
import { applyStep } from '@/core/edit/table';
import { runAt } from '@/core/sheet/runs';
import { record } from '@/core/testing/record';
import { levelOf, projectOf, shotOf } from '@/core/testing/sheets';
import { anyStep, START } from '@/core/testing/steps';

/** Those of some steps that apply one after another, and what they leave. */
function applied(start: Project, steps: readonly Step[]): { made: Step[]; after: Project } {
  let after = start;
  const made = steps.filter((step) => {
    const next = applyStep(after, step);
    if (next.ok) after = next.value;
    return next.ok;
  });
  return { made, after };
}

describe('rebase, whatever two windows made', () => {
  it('gives what applying theirs and then what mine came to gives, and leaves mine alone when there are none of theirs', () => {
    const kinds = { made: 0, conflict: 0 };
    fc.assert(
      fc.property(fc.array(anyStep, { maxLength: 12 }), fc.array(anyStep, { maxLength: 12 }), (theirs, ours) => {
        const others = applied(START, theirs);
        const mine = applied(START, ours);
        const result = rebase(START, others.made, mine.made);
        let project = others.after;
        for (const each of result.mine) {
          kinds[each.kind]++;
          if (each.kind === 'conflict') expect(each.reason).toMatch(/^.{8,}[.!?]$/s);
          if (each.kind === 'conflict' || !each.step) continue;
          const next = applyStep(project, each.step);
          expect(next.ok).toBe(true);
          if (next.ok) project = next.value;
        }
        expect(result.project).toEqual(project);
        const alone = rebase(START, [], mine.made);
        expect(alone.project).toEqual(mine.after);
        expect(alone.mine.every((each) => each.kind === 'made')).toBe(true);
        for (const [index, each] of alone.mine.entries())
          if (each.kind === 'made' && each.step) expect(each.step).toEqual(mine.made[index]);
      }),
      { numRuns: 1500 },
    );
    expect(kinds.made).toBeGreaterThan(1000);
    expect(kinds.conflict).toBeGreaterThan(200);
  });
});

/*
 * A second account of the same, made in another way: every frame of the column carries a token of its own,
 * and both windows' steps move tokens about as plain arrays. An exposure that mine changes must, on the
 * other document, be the very frames with the tokens it was made on.
 */
type Cell = { readonly token: number; readonly drawing: string | null };

const cellsOf = (runs: readonly Exposure[]): Cell[] => {
  let token = 0;
  return runs.flatMap((run) => Array.from({ length: run.frames }, () => ({ token: token++, drawing: run.drawing })));
};
let fresh = 1_000_000;
const newCells = (drawing: string | null, frames: number): Cell[] => Array.from({ length: frames }, () => ({ token: fresh++, drawing }));

type ExposureIntent = { readonly type: 'setLength' | 'removeExposure'; readonly atFrame: number; readonly frames: number };

/** The cells once an exposure got another length, what follows pushed; or was removed. */
function moved(cells: readonly Cell[], { type, atFrame, frames }: ExposureIntent): Cell[] {
  const drawing = cells[atFrame]?.drawing ?? null;
  let [start, end] = [atFrame, atFrame + 1];
  while (start > 0 && cells[start - 1]?.drawing === drawing) start--;
  while (end < cells.length && cells[end]?.drawing === drawing) end++;
  const own = cells.slice(start, end);
  const kept = type === 'removeExposure' ? [] : [...own.slice(0, frames), ...newCells(drawing, Math.max(0, frames - own.length))];
  return [...cells.slice(0, start), ...kept, ...cells.slice(end)];
}

describe('exposures changed in two windows', () => {
  it('are the very frames they were made on, by a second account', () => {
    const column = '1*2 2*3 1*2 3 2*2 1*4 3*2 2';
    const before = projectOf(shotOf([levelOf('Sock', column)], 60));
    const runs = before.shots[0]?.levels[0]?.exposures ?? [];
    const meant = record({
      type: fc.constantFrom('setLength' as const, 'setLength' as const, 'removeExposure' as const),
      atFrame: fc.nat(20),
      frames: fc.integer({ min: 1, max: 6 }),
    });
    const stepOf = ({ type, atFrame, frames }: ExposureIntent): Step =>
      type === 'setLength'
        ? { type, shotId: 'shot-010', levelId: 'Sock', atFrame, frames, following: 'push' }
        : { type, shotId: 'shot-010', levelId: 'Sock', atFrame };
    let tried = 0;
    fc.assert(
      fc.property(fc.array(meant, { minLength: 1, maxLength: 4 }), meant, (theirs, ours) => {
        let cells = cellsOf(runs);
        let project = before;
        const made: Step[] = [];
        for (const each of theirs) {
          const next = applyStep(project, stepOf(each));
          if (!next.ok) continue;
          cells = moved(cells, each);
          project = next.value;
          made.push(stepOf(each));
        }
        if (!applyStep(before, stepOf(ours)).ok) return;
        const [result] = rebase(before, made, [stepOf(ours)]).mine;
        if (result?.kind !== 'made' || !result.step || !('atFrame' in result.step)) return;
        tried++;
        const was = runAt(runs, ours.atFrame);
        const is = cells.slice();
        // Every frame of the exposure as it was is still there, together, at the frame it was mapped to.
        const tokens = cellsOf(runs).slice(was?.startFrame, was?.endFrame);
        const at = is.findIndex((cell) => cell.token === tokens[ours.atFrame - (was?.startFrame ?? 0)]?.token);
        expect(at).toBe(result.step.atFrame);
        expect(is[at]?.drawing).toBe(was?.drawing);
      }),
      { numRuns: 3000 },
    );
    expect(tried).toBeGreaterThan(500);
  });
});
