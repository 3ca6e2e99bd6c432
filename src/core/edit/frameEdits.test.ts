import { describe, expect, it } from 'vitest';
import type { Shot } from '@/core/document/model';
import { cutFrames, type FrameScope, type InsertedAs, insertFrames, trimTo } from '@/core/edit/frameEdits';
import { setNote } from '@/core/edit/noteEdits';
import { applyStep } from '@/core/edit/table';
import { mustBeDone } from '@/core/outcome';
import { columnAfter, columnIn, contextOn, levelOf, projectOf, shotOf } from '@/core/testing/sheets';

const RATE = { num: 24, den: 1 };
const sock = (notation: string, frames = 24) => shotOf([levelOf('Sock', notation)], frames);
const made = (shot: Shot, edit: ReturnType<typeof setNote>) =>
  mustBeDone(applyStep(projectOf(shot), mustBeDone(edit).step)).shots[0] as Shot;

describe('inserting frames (worked by hand)', () => {
  it.each<[string, number, number, InsertedAs, string]>([
    ['1*2 2*2', 3, 3, 'blank', '1*2 .*3 2*2'],
    ['1*2 2*2', 3, 3, 'hold', '1*5 2*2'],
    ['1*2 2*4 3', 4, 1, 'hold', '1*2 2*5 3'],
    ['1*2 2*4 3', 4, 1, 'blank', '1*2 2*5 3'],
    ['1*2 2*2', 1, 2, 'blank', '.*2 1*2 2*2'],
    ['1*2 2*2', 1, 2, 'hold', '1*4 2*2'],
  ])('%s at frame %i, %i more as %s: %s', (before, atFrame, frames, as, result) => {
    const shot = sock(before);
    expect(columnAfter(shot, insertFrames(contextOn(shot), ['Sock'], atFrame - 1, frames, as, false))).toBe(result);
  });

  it('lets the shot’s length and its notes follow, and says so', () => {
    const shot: Shot = {
      ...sock('1*2 2*2', 24),
      notes: [
        { frame: 0, kind: 'note', words: 'a' },
        { frame: 3, kind: 'word', words: 'b' },
      ],
    };
    const edit = insertFrames(contextOn(shot), 'shot', 2, 6, 'hold', true);
    expect(mustBeDone(edit).says).toBe('Insert 6 frames before frame 3 in the whole shot; the shot goes from 24 to 30 frames');
    expect(made(shot, edit)).toMatchObject({ frames: 30, notes: [{ frame: 0 }, { frame: 9 }] });
    expect(mustBeDone(insertFrames(contextOn(shot), 'shot', 2, 6, 'hold', false)).says).toContain('the shot stays 24 frames');
  });

  it('refuses lengths that make no sense and places where nothing moves', () => {
    const shot = sock('1*2', 24);
    expect(columnAfter(shot, insertFrames(contextOn(shot), ['Sock'], 1, 0, 'hold', false))).toContain('A length of 0');
    expect(columnAfter(shot, insertFrames(contextOn(shot), ['Sock'], 20, 2, 'hold', false))).toContain('blank already');
    expect(columnAfter(shot, insertFrames(contextOn(shot), 'shot', 1, 1_000_000, 'hold', true))).toContain('from 1 to 1,000,000');
  });
});

describe('cutting frames out (worked by hand)', () => {
  it.each<[string, number, number, FrameScope, string]>([
    ['1*2 2*2 3*2', 2, 3, ['Sock'], '1 2 3*2'],
    ['1*2 2*2 1*2', 3, 4, ['Sock'], '1*4'],
    ['1*2 2*2 3*2', 5, 24, 'shot', '1*2 2*2'],
  ])('%s without frames %i to %i: %s', (before, from, to, scope, result) => {
    const shot = sock(before);
    expect(columnAfter(shot, cutFrames(contextOn(shot), scope, from - 1, to - 1, false))).toBe(result);
  });

  it('takes notes on the frames away, moves later ones, and says all of it', () => {
    const shot: Shot = {
      ...sock('1*2 2*4', 24),
      notes: [
        { frame: 2, kind: 'note', words: 'gone' },
        { frame: 9, kind: 'note', words: 'moves' },
      ],
    };
    const edit = cutFrames(contextOn(shot), 'shot', 2, 4, true);
    expect(mustBeDone(edit).says).toBe('Cut frames 3–5 in the whole shot and 1 note with them; the shot goes from 24 to 21 frames');
    expect(made(shot, edit)).toMatchObject({ frames: 21, notes: [{ frame: 6, words: 'moves' }] });
  });

  it('leaves at least a frame', () => {
    const shot = sock('1*2', 24);
    expect(columnAfter(shot, cutFrames(contextOn(shot), 'shot', 0, 23, true))).toContain('without a frame');
  });
});

describe('words on frames', () => {
  const shot: Shot = { ...sock('1*2'), notes: [{ frame: 4, kind: 'note', words: 'drops' }] };

  it('are written, changed and taken away, one of a kind on a frame', () => {
    const both = made(shot, setNote(contextOn(shot), 4, 'accent', ' plop '));
    expect(both.notes).toEqual([
      { frame: 4, kind: 'note', words: 'drops' },
      { frame: 4, kind: 'accent', words: 'plop' },
    ]);
    expect(made(both, setNote(contextOn(both), 4, 'note', 'lands')).notes).toHaveLength(2);
    expect(made(both, setNote(contextOn(both), 4, 'note', '')).notes).toEqual([{ frame: 4, kind: 'accent', words: 'plop' }]);
    expect(made(both, setNote(contextOn(both), 4, null, '')).notes).toEqual([]);
  });

  it('stay in the order of frames', () => {
    expect(made(shot, setNote(contextOn(shot), 1, 'word', 'oh')).notes.map((note) => note.frame)).toEqual([1, 4]);
  });

  it('refuse what changes nothing or is too long', () => {
    expect(columnAfter(shot, setNote(contextOn(shot), 4, 'note', 'drops'))).toContain('says so already');
    expect(columnAfter(shot, setNote(contextOn(shot), 7, 'note', ' '))).toContain('Nothing is written on frame 8');
    expect(columnAfter(shot, setNote(contextOn(shot), 7, 'note', 'x'.repeat(401)))).toContain('at most 400 characters');
  });
});

describe('trimming every level (worked by hand)', () => {
  const sock = levelOf('Sock', '1*4 2*4 3*4');
  const peg = levelOf('Peg', '.*2 1*3 2*2');
  const notes: Shot['notes'] = [1, 5].map((frame) => ({ frame, kind: 'note', words: String(frame) }));
  const shot: Shot = { ...shotOf([sock, peg], 12), notes };

  it.each([
    [2, 8, true, '1*2 2*4 3', '1*3 2*2', 7, [3]],
    [2, 8, false, '1*2 2*4 3', '1*3 2*2', 12, [3]],
    [8, 11, true, '3*4', '', 4, []],
    [0, 3, true, '1*4', '.*2 1*2', 4, [1]],
  ])('to frames %i–%i (length follows %s)', (from, to, follows, sockAfter, pegAfter, frames, noted) => {
    const after = mustBeDone(applyStep(projectOf(shot), mustBeDone(trimTo(contextOn(shot), RATE, from, to, follows)).step));
    expect([columnIn(after, 'Sock'), columnIn(after, 'Peg'), after.shots[0]?.frames]).toEqual([sockAfter, pegAfter, frames]);
    expect(after.shots[0]?.notes.map((each) => each.frame)).toEqual(noted);
  });

  it('says what it does, and when there is nothing to trim', () => {
    expect(mustBeDone(trimTo(contextOn(shot), RATE, 2, 8, true)).says).toBe(
      'Trim to frames 3–9, on every level; the shot goes from 12 to 7 frames',
    );
    const edit = trimTo(contextOn(shot), RATE, 0, 11, true);
    expect(edit.ok ? '' : edit.reason).toContain('nothing to trim');
  });
});
