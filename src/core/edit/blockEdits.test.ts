import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Level } from '@/core/document/model';
import {
  blankBlock,
  cycleBlock,
  holdTo,
  moveBlock,
  removeExposures,
  reverseBlock,
  setLengths,
  setStepKeepingTime,
  staggerBlock,
  thereAndBackBlock,
} from '@/core/edit/blockEdits';
import type { RestRule } from '@/core/edit/step';
import { applyStep, invertStep } from '@/core/edit/table';
import { mustBeDone } from '@/core/outcome';
import { framesOfRuns } from '@/core/sheet/runs';
import { blockOf, columnAfter, columnIn, contextOn, levelOf, projectOf, shotOf } from '@/core/testing/sheets';

const sock = (notation: string, frames = 48) => shotOf([levelOf('Sock', notation)], frames);
const all = blockOf(0, 47);
const levelIn = (shot: ReturnType<typeof sock>) => shot.levels[0] as Level;

describe('on a step with the drawings kept (worked by hand)', () => {
  it.each<[string, number, number, number, RestRule, string, string]>([
    ['1 2 3 4', 2, 0, 3, 'push', '1*2 2*2 3*2 4*2', '4 exposures on twos'],
    ['1 2 3 4 5*4', 2, 0, 3, 'push', '1*2 2*2 3*2 4*2 5*4', '4 exposures on twos, what follows moves 4 frames down'],
    ['1 2 3 4 5*6', 2, 0, 3, 'overwrite', '1*2 2*2 3*2 4*2 5*2', '4 exposures on twos, covering 4 frames of what follows'],
    ['1*2 2*2', 1, 0, 3, 'push', '1 2', '2 exposures on ones'],
    ['1*2 2*2 3', 1, 0, 3, 'overwrite', '1 2 .*2 3', '2 exposures on ones, leaving 2 frames blank'],
    ['1*2 .*3 2*2', 3, 0, 6, 'push', '1*3 .*3 2*3', '2 exposures on threes'],
    ['1*4 2*4', 7, 5, 5, 'push', '1*4 2*7', '1 exposure for 7 frames each'],
  ])('%s on %i, frames %i to %i, %s: %s', (before, step, from, to, following, after, says) => {
    const shot = sock(before);
    const edit = setLengths(contextOn(shot, following), blockOf(from, to), step);
    expect(columnAfter(shot, edit)).toBe(after);
    expect(mustBeDone(edit).says).toBe(says);
  });

  it('works on several levels at once', () => {
    const shot = shotOf([levelOf('Sock', '1 2 3'), levelOf('Pegs', '1*4 2')], 48);
    const edit = setLengths(contextOn(shot), blockOf(0, 2, 'Sock', 'Pegs'), 2);
    expect([columnAfter(shot, edit), columnAfter(shot, edit, 'Pegs')]).toEqual(['1*2 2*2 3*2', '1*2 2']);
  });

  it('says when there is nothing to set, and that a length makes no sense', () => {
    expect(columnAfter(sock('1*2'), setLengths(contextOn(sock('1*2')), blockOf(20, 30), 2))).toContain('no drawing here');
    expect(columnAfter(sock('1*2'), setLengths(contextOn(sock('1*2')), all, 2))).toContain('on twos already');
    expect(columnAfter(sock('1*2'), setLengths(contextOn(sock('1*2')), all, 0))).toContain('A length of 0 frames');
  });
});

describe('on a step with the time kept (worked by hand)', () => {
  it.each([
    ['1 2 3 4 5 6 7 8', 2, '1*2 3*2 5*2 7*2', '2, 4, 6, 8 are no longer exposed'],
    ['1 2 3 4 5', 2, '1*2 3*2 5', '2, 4 are no longer exposed'],
    ['1*2 2*2', 1, '1 1a 2 2a', '2 new planned in-betweens: 1a, 2a'],
    ['1*2 2*2 .*2 3*2', 1, '1 1a 2 2a .*2 3 3a', '3 new planned in-betweens'],
  ])('%s on %i: %s', (before, step, after, says) => {
    const shot = sock(before);
    const block = blockOf(0, framesOfRuns(levelIn(shot).exposures) - 1);
    const edit = setStepKeepingTime(contextOn(shot), block, step);
    expect(columnAfter(shot, edit)).toBe(after);
    expect(mustBeDone(edit).says).toContain(says);
  });

  it('does not call a drawing lost that shows elsewhere', () => {
    const shot = sock('1 2 1 2 .*2 2');
    expect(mustBeDone(setStepKeepingTime(contextOn(shot), blockOf(0, 3), 2)).says).not.toContain('no longer');
  });
});

describe('holding, blanking, removing (worked by hand)', () => {
  it.each<[string, number, RestRule, string]>([
    ['1*2 2*2 3*2', 9, 'overwrite', '1*2 2*7'],
    ['1*2 2*2 3*2', 9, 'push', '1*2 2*7 3*2'],
    ['1*2 2*4 3*2', 4, 'push', '1*2 2*2 3*2'],
    ['1*2 2*4 3*2', 4, 'overwrite', '1*2 2*2 .*2 3*2'],
  ])('%s, 2 held to frame %i, %s: %s', (before, toFrame, following, after) => {
    const shot = sock(before);
    expect(columnAfter(shot, holdTo(contextOn(shot, following), levelIn(shot), 2, toFrame - 1))).toBe(after);
  });

  it('refuses to hold a drawing to a frame before it, and a blank', () => {
    const shot = sock('.*2 1*2');
    expect(columnAfter(shot, holdTo(contextOn(shot), levelIn(shot), 2, 1))).toContain('begins on frame 3');
    expect(columnAfter(shot, holdTo(contextOn(shot), levelIn(shot), 0, 9))).toContain('shows no drawing on frame 1');
    expect(columnAfter(shot, holdTo(contextOn(shot), levelIn(shot), 2, 3))).toContain('is held to frame 4 already');
  });

  it.each([
    ['1*4 2*4', 2, 5, '1*2 .*4 2*2'],
    ['1*4 2*4', 4, 20, '1*4'],
  ])('%s with frames %i to %i blank: %s', (before, from, to, after) => {
    const shot = sock(before);
    expect(columnAfter(shot, blankBlock(contextOn(shot), blockOf(from, to)))).toBe(after);
  });

  it.each([
    ['1*4 2*4 3*2', 5, 5, '1*4 3*2', 'Remove 1 exposure'],
    ['1*4 .*2 2*4 3*2', 2, 7, '3*2', 'Remove 2 exposures'],
  ])('%s without the exposures on %i to %i: %s', (before, from, to, after, says) => {
    const shot = sock(before);
    const edit = removeExposures(contextOn(shot), blockOf(from, to));
    expect(columnAfter(shot, edit)).toBe(after);
    expect(mustBeDone(edit).says).toContain(says);
  });

  it('say when there is nothing there', () => {
    const shot = sock('1*2');
    expect(columnAfter(shot, blankBlock(contextOn(shot), blockOf(10, 12)))).toContain('blank here already');
    expect(columnAfter(shot, removeExposures(contextOn(shot), blockOf(10, 12)))).toContain('no exposure here');
  });
});

describe('patterns (worked by hand)', () => {
  it.each([
    ['1*2 2*2 3*2', 15, 1, '1*2 2*2 3*2 1*2 2*2 3*2 1*2 2'],
    ['1*2 2*2 3*2', 8, 2, '2*2 3*2 1*2 2*2'],
    ['1*2', 6, 1, '1*6'],
  ])('%s cycled to %i frames from its exposure %i: %s', (before, frames, from, after) => {
    const shot = sock(before);
    const block = blockOf(0, framesOfRuns(levelIn(shot).exposures) - 1);
    expect(columnAfter(shot, cycleBlock(contextOn(shot), block, frames, from))).toBe(after);
  });

  it.each([
    ['1 2 3 4', '1 2 3 4 3 2'],
    ['1 2', '(Ping-pong: nothing changes on frames 1–2.)'],
    ['1*2 2 3*4', '1*2 2 3*4 2'],
  ])('%s there and back: %s', (before, after) => {
    const shot = sock(before);
    const block = blockOf(0, framesOfRuns(levelIn(shot).exposures) - 1);
    expect(columnAfter(shot, thereAndBackBlock(contextOn(shot), block))).toBe(after);
  });

  it('goes there and back over and over without a doubled end', () => {
    const shot = sock('1 2 3 4');
    expect(columnAfter(shot, thereAndBackBlock(contextOn(shot), blockOf(0, 3), 14))).toBe('1 2 3 4 3 2 1 2 3 4 3 2 1 2');
  });

  it('reverses and staggers', () => {
    const shot = sock('1*2 2 3*4');
    expect(columnAfter(shot, reverseBlock(contextOn(shot), blockOf(0, 6)))).toBe('3*4 2 1*2');
    const six = sock('1 2 3 4 5 6');
    expect(columnAfter(six, staggerBlock(contextOn(six), blockOf(0, 5)))).toBe('1 3 2 4 3 5 4 6');
    const two = sock('1 2');
    expect(columnAfter(two, staggerBlock(contextOn(two), blockOf(0, 1)))).toContain('at least three');
  });

  it('refuses cycles that make no sense', () => {
    const shot = sock('1 2');
    expect(columnAfter(shot, cycleBlock(contextOn(shot), blockOf(0, 1), 0))).toContain('A length of 0');
    expect(columnAfter(shot, cycleBlock(contextOn(shot), blockOf(0, 1), 8, 0))).toContain('begins with its exposure 1, 2, 3');
    expect(columnAfter(shot, cycleBlock(contextOn(shot), blockOf(10, 11), 8))).toContain('nothing changes');
  });

  it.each<[string, number, number, number, RestRule, string]>([
    ['1*2 2*2 3*2', 0, 1, 4, 'overwrite', '.*2 2*2 1*2'],
    ['1*2 2*2 3*2', 0, 1, 2, 'push', '2*2 1*2 3*2'],
    ['1*2 2*2 3*2', 4, 5, 0, 'push', '3*2 1*2 2*2'],
    ['1*4', 0, 3, 1, 'overwrite', '. 1*4'],
  ])('%s, frames %i to %i moved to %i, %s: %s', (before, from, to, target, following, after) => {
    const shot = sock(before);
    expect(columnAfter(shot, moveBlock(contextOn(shot, following), blockOf(from, to), target))).toBe(after);
  });

  it('refuses a move out of the shot', () => {
    const shot = sock('1*2', 10);
    expect(columnAfter(shot, moveBlock(contextOn(shot), blockOf(0, 1), 10))).toContain('outside shot');
  });
});

/** A column of drawings 1, 2, 3 … held as long as told. */
const heldFor = (frames: readonly number[]) => frames.map((held, index) => `${index + 1}*${held}`).join(' ');
const lengths = fc.array(fc.integer({ min: 1, max: 5 }), { minLength: 1, maxLength: 12 });

describe('whatever the sheet', () => {
  it('ones to twos to ones with the drawings kept is the same column', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 30 }), (count) => {
        const before = heldFor(Array.from({ length: count }, () => 1)).replaceAll('*1', '');
        const shot = sock(before, 90);
        const twos = mustBeDone(setLengths(contextOn(shot), blockOf(0, count - 1), 2));
        const after = mustBeDone(applyStep(projectOf(shot), twos.step)).shots[0] as typeof shot;
        expect(columnAfter(after, setLengths(contextOn(after), blockOf(0, 2 * count - 1), 1))).toBe(count === 1 ? '1' : before);
      }),
    );
  });

  it('a cycle has the frames asked for, there and back all but one of each end, a reversal twice is nothing', () => {
    fc.assert(
      fc.property(lengths, fc.integer({ min: 1, max: 80 }), fc.integer({ min: 1, max: 12 }), (frames, asked, from) => {
        const shot = sock(heldFor(frames), 200);
        const total = framesOfRuns(levelIn(shot).exposures);
        const block = blockOf(0, total - 1);
        const framesAfter = (edit: ReturnType<typeof cycleBlock>) =>
          edit.ok ? framesOfRuns(mustBeDone(applyStep(projectOf(shot), edit.value.step)).shots[0]?.levels[0]?.exposures ?? []) : null;
        expect([asked, null]).toContain(framesAfter(cycleBlock(contextOn(shot), block, asked, from)));
        const ends = (frames[0] ?? 0) + (frames.length > 1 ? (frames.at(-1) ?? 0) : 0);
        if (frames.length > 2) expect(framesAfter(thereAndBackBlock(contextOn(shot), block))).toBe(2 * total - ends);
        if (frames.length > 1) {
          const once = mustBeDone(applyStep(projectOf(shot), mustBeDone(reverseBlock(contextOn(shot), block)).step));
          const reversed = once.shots[0] as typeof shot;
          expect(columnAfter(reversed, reverseBlock(contextOn(reversed), block))).toBe(columnIn(projectOf(shot), 'Sock'));
        }
      }),
    );
  });

  it('time kept is time kept: the column stays as long as it was, and undoes', () => {
    fc.assert(
      fc.property(lengths, fc.integer({ min: 1, max: 4 }), fc.constantFrom<RestRule>('push', 'overwrite'), (frames, step, following) => {
        const shot = sock(heldFor(frames), 200);
        const total = framesOfRuns(levelIn(shot).exposures);
        const edit = setStepKeepingTime(contextOn(shot, following), blockOf(0, total - 1), step);
        if (!edit.ok) return;
        const project = projectOf(shot);
        const after = mustBeDone(applyStep(project, edit.value.step));
        expect(framesOfRuns(after.shots[0]?.levels[0]?.exposures ?? [])).toBe(total);
        expect(mustBeDone(applyStep(after, invertStep(project, edit.value.step)))).toEqual(project);
      }),
    );
  });
});
