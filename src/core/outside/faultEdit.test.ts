import { describe, expect, it } from 'vitest';
import { applyStep, invertStep } from '@/core/edit/table';
import { mustBeDone } from '@/core/outcome';
import { layShared } from '@/core/outside/agreement';
import { editOfFault, isFaultOfTiming } from '@/core/outside/faultEdit';
import type { Fault } from '@/core/outside/faults';
import { framesOfRuns, runAt } from '@/core/sheet/runs';
import { contextOn, levelOf, projectOf, shotOf } from '@/core/testing/sheets';

const PROJECT = projectOf(
  shotOf([levelOf('Sock', '1*2 2*3 3*2 4 5*2', { pictures: 'abcde' }), levelOf('Line', '1*10', { pictures: 'f' })], 10, '010'),
);
const [SHOT] = PROJECT.shots;
if (!SHOT) throw new Error('There is a shot.');

/** What the first level shows on each frame, as numbers of pictures. */
const columnOf = (shot: typeof SHOT): readonly number[] =>
  Array.from({ length: shot.frames }, (_, frame) =>
    'Sock-1 Sock-2 Sock-3 Sock-4 Sock-5'.split(' ').indexOf(runAt(shot.levels[0]?.exposures ?? [], frame)?.drawing ?? ''),
  );

/** The faults of a file that shows these pictures beside the shot. */
const faultsOf = (file: readonly number[]): readonly Fault[] =>
  layShared({ plan: Uint32Array.from(columnOf(SHOT)), file: Uint32Array.from(file) }, () => null, null).faults;

const taken = (fault: Fault, isWhole = true) => editOfFault({ context: contextOn(SHOT), frame: fault.planFrame, isWhole }, fault);

describe('a sheet made like a file', () => {
  const planned = columnOf(SHOT);

  it.each([
    ['holds a frame once more', [...planned.slice(0, 5), planned[4] as number, ...planned.slice(5)]],
    ['holds the last frame three longer', [...planned, 4, 4, 4]],
    ['lacks a frame', planned.toSpliced(7, 1)],
    ['lacks two frames', planned.toSpliced(5, 2)],
  ])('that %s shows what the file shows, on every level, and is as long; one undo brings it back', (_what, file) => {
    const faults = faultsOf(file);
    expect(faults).toHaveLength(1);
    const edit = mustBeDone(taken(faults[0] as Fault));
    const after = mustBeDone(applyStep(PROJECT, edit.step));
    const [shot] = after.shots;
    expect(shot && columnOf(shot)).toEqual(file);
    expect(shot?.frames).toBe(file.length);
    expect(framesOfRuns(shot?.levels[1]?.exposures ?? [])).toBe(file.length);
    expect(mustBeDone(applyStep(after, invertStep(PROJECT, edit.step)))).toEqual(PROJECT);
  });

  it('is not made where the reel shows a part of it, where it would lose what is another shot’s, or where pictures differ', () => {
    const [twice] = faultsOf([...planned, 4]);
    expect(taken(twice as Fault, false)).toMatchObject({ ok: false, reason: expect.stringContaining('is trimmed on the reel') });
    expect(taken({ kind: 'missing', planFrame: 8, fileFrame: 8, frames: 5 })).toMatchObject({
      ok: false,
      reason: expect.stringContaining('past the end of shot 010'),
    });
    const other: Fault = { kind: 'other', planFrame: 2, fileFrame: 2, frames: 1, shows: null, flat: null };
    expect(isFaultOfTiming(other)).toBe(false);
    expect(taken(other)).toMatchObject({ ok: false });
  });
});
