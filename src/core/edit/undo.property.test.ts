import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Project } from '@/core/document/model';
import type { Step } from '@/core/edit/step';
import { applyStep, invertStep, STEP_TYPES } from '@/core/edit/table';
import { framesOfRuns, tidyRuns } from '@/core/sheet/runs';
import { anyStep, SIMPLE_STEPS, START } from '@/core/testing/steps';

const levelsOf = (project: Project) => project.shots.flatMap((shot) => shot.levels);

describe('steps', () => {
  it('are all tried below', () => {
    expect(new Set([...Object.keys(SIMPLE_STEPS), 'together'])).toEqual(new Set(STEP_TYPES));
  });

  it('undo to an identical document, whatever was done', () => {
    const applied = new Map(STEP_TYPES.map((type) => [type, 0]));
    const count = (each: Step): void => {
      applied.set(each.type, (applied.get(each.type) ?? 0) + 1);
      if (each.type === 'together') each.steps.forEach(count);
    };
    fc.assert(
      fc.property(fc.array(anyStep, { minLength: 1, maxLength: 25 }), (steps) => {
        const history: { before: Project; inverse: Step }[] = [];
        let project = START;
        for (const each of steps) {
          const next = applyStep(project, each);
          if (!next.ok) continue;
          const before = project;
          history.push({ before, inverse: invertStep(before, each) });
          project = next.value;
          if (next.value !== before) count(each);
        }
        for (const { before, inverse } of history.reverse()) {
          const back = applyStep(project, inverse);
          expect(back).toEqual({ ok: true, value: before });
          if (back.ok) project = back.value;
        }
        expect(project).toEqual(START);
      }),
      // The rarest kind changes something once in eighty rows of steps, counted over 4,000: at 3,000 none is missed by chance.
      { numRuns: 3000 },
    );
    // A kind of step that never changed anything proves nothing.
    expect([...applied].filter(([, times]) => times === 0)).toEqual([]);
  });

  it('leave every column in its one form, of drawings its level has', () => {
    fc.assert(
      fc.property(fc.array(anyStep, { maxLength: 25 }), (steps) => {
        let project = START;
        for (const each of steps) {
          const next = applyStep(project, each);
          if (next.ok) project = next.value;
        }
        for (const level of levelsOf(project)) {
          expect(tidyRuns(level.exposures)).toBe(level.exposures);
          const ids = new Set(level.drawings.map((drawing) => drawing.id));
          for (const run of level.exposures) expect(run.drawing === null || ids.has(run.drawing)).toBe(true);
          expect(new Set(level.drawings.map((drawing) => drawing.number)).size).toBe(level.drawings.length);
        }
      }),
      { numRuns: 200 },
    );
  });

  it('never change the document they are made on, and survive JSON', () => {
    fc.assert(
      fc.property(anyStep, (each) => {
        const before = structuredClone(START);
        const direct = applyStep(START, each);
        const carried = applyStep(START, JSON.parse(JSON.stringify(each)) as Step);
        expect(START).toEqual(before);
        expect(carried).toEqual(direct);
      }),
    );
  });

  it('push by just the difference in length', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 7 }), fc.integer({ min: 1, max: 9 }), (atFrame, newFrames) => {
        const column = (project: Project) => levelsOf(project).find((level) => level.id === 'Sock')?.exposures ?? [];
        const run = column(START).reduce<{ frames: number; end: number }>(
          (found, exposure) => (atFrame < found.end ? found : { frames: exposure.frames, end: found.end + exposure.frames }),
          { frames: 0, end: 0 },
        );
        const next = applyStep(START, {
          type: 'setLength',
          shotId: 'shot-010',
          levelId: 'Sock',
          atFrame,
          frames: newFrames,
          following: 'push',
        });
        expect(next.ok).toBe(true);
        if (next.ok) expect(framesOfRuns(column(next.value))).toBe(framesOfRuns(column(START)) + newFrames - run.frames);
      }),
    );
  });
});
