import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Level, Shot } from '@/core/document/model';
import {
  blankBlock,
  cycleBlock,
  holdTo,
  moveBlock,
  removeExposures,
  reverseBlock,
  setLengths,
  setStepKeepingTime,
  thereAndBackBlock,
} from '@/core/edit/blockEdits';
import { copyPreviousHere, joinNext, moveExposure, newDrawingHere } from '@/core/edit/drawingEdits';
import type { Edit, EditContext } from '@/core/edit/edit';
import { cutFrames, insertFrames, trimTo } from '@/core/edit/frameEdits';
import { insertInbetween, showAgain } from '@/core/edit/numberEdits';
import { applyStep } from '@/core/edit/table';
import { mustBeDone, type Outcome } from '@/core/outcome';
import type { Block } from '@/core/sheet/block';
import {
  type FrameColumn,
  framesOf,
  held,
  inserted,
  lostBetween,
  moved,
  pastEndBetween,
  put,
  readTold,
  trimmed,
} from '@/core/testing/bruteSheet';
import { record } from '@/core/testing/record';
import { contextOn, levelOf, projectOf, shotOf, soundOf } from '@/core/testing/sheets';

const RATE = { num: 24, den: 1 };

type EditTrial = {
  readonly context: EditContext;
  readonly block: Block;
  readonly level: Level;
  readonly frame: number;
  readonly to: number;
  readonly frames: number;
};

/** Every edit of the sheet there is, on a block or a frame. */
const EDITS: Readonly<Record<string, (tried: EditTrial) => Outcome<Edit>>> = {
  'set lengths': ({ context, block, frames }) => setLengths(context, block, frames),
  'keep time': ({ context, block, frames }) => setStepKeepingTime(context, block, frames),
  hold: ({ context, level, frame, to }) => holdTo(context, level, frame, to),
  blank: ({ context, block }) => blankBlock(context, block),
  remove: ({ context, block }) => removeExposures(context, block),
  cycle: ({ context, block, frames }) => cycleBlock(context, block, frames * 4),
  'there and back': ({ context, block }) => thereAndBackBlock(context, block),
  reverse: ({ context, block }) => reverseBlock(context, block),
  'move a block': ({ context, block, to }) => moveBlock(context, block, to),
  'move an exposure': ({ context, level, frame, to }) => moveExposure(context, level, frame, to),
  join: ({ context, level, frame }) => joinNext(context, level, frame),
  'new drawing': ({ context, level, frame }) => newDrawingHere(context, level, frame),
  'copy the previous': ({ context, level, frame }) => copyPreviousHere(context, level, frame),
  'in-between': ({ context, level, frame }) => insertInbetween(context, level, frame),
  'show again': ({ context, level, block }) => showAgain(context, level, '1', block.fromFrame, block.toFrame),
  'insert blank': ({ context, frame, frames }) => insertFrames(context, 'shot', frame, frames, 'blank', false),
  'insert as a hold': ({ context, frame, frames, level }) => insertFrames(context, [level.id], frame, frames, 'hold', false),
  cut: ({ context, block }) => cutFrames(context, block.levelIds, block.fromFrame, block.toFrame, false),
  'cut with the shot': ({ context, block }) => cutFrames(context, 'shot', block.fromFrame, block.toFrame, true),
  trim: ({ context, block }) => trimTo(context, RATE, block.fromFrame, block.toFrame, true),
};

const column = fc
  .array(fc.tuple(fc.constantFrom('1', '2', '3', '4', '.'), fc.integer({ min: 1, max: 4 })), { minLength: 1, maxLength: 7 })
  .map((runs) => runs.map(([number, frames]) => `${number}*${frames}`).join(' '));

describe.each(Object.entries(EDITS))('what is said beforehand of: %s', (_name, make) => {
  it('is what the sheet then shows, frame by frame', () => {
    let made = 0;
    fc.assert(
      fc.property(
        column,
        column,
        record({
          from: fc.nat(14),
          length: fc.integer({ min: 1, max: 8 }),
          to: fc.nat(16),
          frames: fc.integer({ min: 1, max: 4 }),
          shotFrames: fc.integer({ min: 4, max: 20 }),
          both: fc.boolean(),
          following: fc.constantFrom('push' as const, 'overwrite' as const),
        }),
        (first, second, { from, length, to, frames, shotFrames, both, following }) => {
          const shot: Shot = shotOf([levelOf('Sock', first), levelOf('Pegs', second)], shotFrames);
          const [level] = shot.levels as [Level];
          const block = { fromFrame: from, toFrame: from + length - 1, levelIds: both ? ['Sock', 'Pegs'] : ['Sock'] };
          const edit = make({ context: contextOn(shot, following), block, level, frame: from, to, frames });
          if (!edit.ok) return;
          made++;
          // What is promised can be made.
          const after = mustBeDone(applyStep(projectOf(shot), edit.value.step)).shots[0] as Shot;
          const told = readTold(edit.value.says);
          expect(told.lost, edit.value.says).toEqual(lostBetween(shot, after));
          expect(told.pastEnd, edit.value.says).toEqual(pastEndBetween(shot, after));
          if (both) return;
          const [was, is] = [framesOf(level), framesOf(after.levels[0] as Level)];
          // What follows is what comes after the last frame the edit is about: as many frames down or up as said.
          if (told.moves !== null) {
            expect(is.length - was.length).toBe(told.moves);
            const last = was.at(-1);
            expect(is.at(-1)).toBe(last);
          }
          // What is covered showed a drawing, and shows another, or none, or went past the end.
          if (told.covering !== null) {
            expect(told.covering).toBeGreaterThan(0);
            expect(told.covering).toBeLessThanOrEqual(was.filter((number) => number !== null).length);
          }
          if (told.leavingBlank !== null) {
            const blanked = was.filter((number, frame) => number !== null && (is[frame] ?? null) === null).length;
            expect(blanked).toBeGreaterThanOrEqual(told.leavingBlank > 0 ? 1 : 0);
          }
        },
      ),
      { numRuns: 300 },
    );
    expect(made).toBeGreaterThan(20);
  });
});

/** What the frame-by-frame sheet has after an edit of one level; for edits that are as simple as that. */
const PLAIN: Readonly<
  Record<string, (was: FrameColumn, tried: { from: number; length: number; to: number; frames: number; pushes: boolean }) => FrameColumn>
> = {
  hold: (was, { from, to, pushes }) => held(was, from, to, pushes),
  blank: (was, { from, length }) =>
    put(
      was,
      from,
      Math.min(length, Math.max(0, was.length - from)),
      Array.from({ length: Math.min(length, Math.max(0, was.length - from)) }, () => null),
    ),
  reverse: (was, { from, length }) => put(was, from, length, [...padTo(was, from + length).slice(from, from + length)].reverse()),
  'move a block': (was, { from, length, to, pushes }) => moved(was, from, length, to, pushes),
  'insert blank': (was, { from, frames }) => inserted(was, from, frames),
  cut: (was, { from, length }) => put(was, from, length, []),
  'cut with the shot': (was, { from, length }) => put(was, from, length, []),
  trim: (was, { from, length }) => trimmed(padTo(was, from + length).slice(from, from + length)),
};
const padTo = (frames: FrameColumn, length: number): FrameColumn => [
  ...frames,
  ...Array.from({ length: Math.max(0, length - frames.length) }, () => null),
];

describe.each(Object.entries(PLAIN))('the column after: %s', (name, plain) => {
  it('is that of a sheet of one drawing a frame', () => {
    let made = 0;
    fc.assert(
      fc.property(
        column,
        record({
          from: fc.nat(12),
          length: fc.integer({ min: 1, max: 8 }),
          to: fc.nat(15),
          frames: fc.integer({ min: 1, max: 4 }),
          following: fc.constantFrom('push' as const, 'overwrite' as const),
        }),
        (notation, { from, length, to, frames, following }) => {
          const shot: Shot = shotOf([levelOf('Sock', notation)], 16);
          const [level] = shot.levels as [Level];
          const block = { fromFrame: from, toFrame: from + length - 1, levelIds: ['Sock'] };
          const edit = (EDITS[name] as (tried: EditTrial) => Outcome<Edit>)({
            context: contextOn(shot, following),
            block,
            level,
            frame: from,
            to,
            frames,
          });
          if (!edit.ok) return;
          made++;
          const after = mustBeDone(applyStep(projectOf(shot), edit.value.step)).shots[0]?.levels[0] as Level;
          expect(framesOf(after)).toEqual(plain(framesOf(level), { from, length, to, frames, pushes: following === 'push' }));
        },
      ),
      { numRuns: 400 },
    );
    expect(made).toBeGreaterThan(50);
  });
});

describe('an exposure held longer over what follows', () => {
  it('covers as many frames as showed a drawing there', () => {
    fc.assert(
      fc.property(column, fc.integer({ min: 1, max: 10 }), (notation, longer) => {
        const shot = shotOf([levelOf('Sock', `9*2 ${notation}`)], 40);
        const [level] = shot.levels as [Level];
        const was = framesOf(level);
        const edit = holdTo(contextOn(shot, 'overwrite'), level, 0, 1 + longer);
        const standing = was.slice(2, 2 + longer).filter((number) => number !== null).length;
        expect(readTold(mustBeDone(edit).says).covering).toBe(standing === 0 || was.length <= 2 ? null : standing);
      }),
    );
  });
});

describe('sentences that were wrong', () => {
  const says = (edit: Outcome<Edit>) => (edit.ok ? edit.value.says : edit.reason);
  it('a drawing that meets itself after a join stands as long as both', () => {
    const shot = shotOf([levelOf('Sock', '1*4 2*3 1*2')]);
    expect(says(joinNext(contextOn(shot), shot.levels[0] as Level, 0))).toBe(
      'Join 1 with 2: 1 is held for 9 frames; 2 is no longer exposed',
    );
  });

  it('an in-between past the end of its shot is refused before it is promised', () => {
    const shot = shotOf([levelOf('Sock', '1*2 2*6')], 4);
    expect(insertInbetween(contextOn(shot), shot.levels[0] as Level, 3).ok).toBe(false);
  });

  it('a cut that leaves a sound past its shot’s end says so', () => {
    const shot = { ...shotOf([levelOf('Sock', '1*24')]), sounds: [soundOf('Plop', 22, 4000)] };
    expect(says(cutFrames(contextOn(shot), 'shot', 0, 3, true))).not.toContain('Plop');
    const late = { ...shot, sounds: [{ ...soundOf('Plop', 23, 4000) }] };
    expect(says(cutFrames(contextOn(late), 'shot', 20, 23, true))).toContain('Plop then starts past the shot’s end');
  });

  it('a shot is trimmed to its own length where a level runs past it', () => {
    const shot = shotOf([levelOf('Sock', '1*2 2*6')], 4);
    const edit = trimTo(contextOn(shot), RATE, 0, 3, true);
    expect(framesOf((mustBeDone(applyStep(projectOf(shot), mustBeDone(edit).step)).shots[0] as Shot).levels[0] as Level)).toHaveLength(4);
  });

  it('frames inserted as a hold after the last drawing hold it', () => {
    const shot = shotOf([levelOf('Sock', '1*2 2*2')], 12);
    const edit = insertFrames(contextOn(shot), ['Sock'], 4, 3, 'hold', false);
    expect(framesOf((mustBeDone(applyStep(projectOf(shot), mustBeDone(edit).step)).shots[0] as Shot).levels[0] as Level).join('')).toBe(
      '1122222',
    );
  });

  it('with several levels, each that something happens to is named', () => {
    const shot = shotOf([levelOf('Sock', '1*4 2*2'), levelOf('Pegs', '5*2 6*4 7*2')], 24);
    const edit = setLengths(contextOn(shot, 'push'), { fromFrame: 0, toFrame: 1, levelIds: ['Sock', 'Pegs'] }, 3);
    expect(says(edit)).toBe('2 exposures on threes, what follows moves 1 frame up on Sock, what follows moves 1 frame down on Pegs');
  });
});
