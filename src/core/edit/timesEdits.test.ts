import { expect, it } from 'vitest';
import type { Level } from '@/core/document/model';
import { applyStep } from '@/core/edit/table';
import { setEachLength } from '@/core/edit/timesEdits';
import { mustBeDone } from '@/core/outcome';
import { columnAfter, contextOn, levelOf, projectOf, shotOf } from '@/core/testing/sheets';

const shotWith = (notation: string, frames: number) => shotOf([levelOf('Sock', notation, {})], frames);
const levelIn = (shot: ReturnType<typeof shotWith>) => shot.levels[0] as Level;

it('each exposure gets a length of its own, and a shot they end with follows', () => {
  const shot = shotWith('1*2 2*2 3*2', 6);
  const edit = setEachLength(contextOn(shot), levelIn(shot), 0, 5, [12, 1, 2]);
  expect(columnAfter(shot, edit)).toBe('1*12 2 3*2');
  expect(mustBeDone(applyStep(projectOf(shot), mustBeDone(edit).step)).shots[0]?.frames).toBe(15);
});

it('within a shot the rest is pushed and the shot stays as long', () => {
  const shot = shotWith('1*2 2*2 3*2', 12);
  const edit = setEachLength(contextOn(shot), levelIn(shot), 0, 3, [3, 3]);
  expect(columnAfter(shot, edit)).toBe('1*3 2*3 3*2');
  expect(mustBeDone(applyStep(projectOf(shot), mustBeDone(edit).step)).shots[0]?.frames).toBe(12);
});

it('is refused where there are not as many exposures as times, and where nothing changes', () => {
  const shot = shotWith('1*2 2*2 3*2', 6);
  expect(setEachLength(contextOn(shot), levelIn(shot), 0, 5, [3, 3])).toEqual({
    ok: false,
    reason: 'Sock has 3 exposures on these frames, and 2 times were given.',
  });
  expect(setEachLength(contextOn(shot), levelIn(shot), 0, 5, [2, 2, 2]).ok).toBe(false);
});
