import { describe, expect, it } from 'vitest';
import { type Clip, clipRateWords, emptyDrawingsFor, repeatWords, type TracingChoices, traceOver } from '@/core/bring/trace';
import { applyStep } from '@/core/edit/table';
import { mustBeDone } from '@/core/outcome';
import { columnIn, contextOn, levelOf, pictureOf, projectOf, shotOf } from '@/core/testing/sheets';

/** A clip from letters, one a frame at so many frames a second: a letter again is a repeat. */
function clipOf(letters: string, perSecond: number): Clip {
  const frames = letters.split('').map((letter, index) => ({
    startMicroseconds: Math.round((index * 1e6) / perSecond),
    repeats: letters[index - 1] === letter,
    picture: pictureOf(letter),
  }));
  return { name: 'wind.mp4', frames, endMicroseconds: Math.round((letters.length * 1e6) / perSecond) };
}

const choices: TracingChoices = {
  way: 'readAs',
  repeats: 'held',
  startFrame: 0,
  roomFrames: 'keepLength',
  emptyDrawings: false,
  levelName: 'Wind',
};
const shot = shotOf([levelOf('Sock', '1*4')], 12);

function traced(clip: Clip, part: Partial<TracingChoices>, perSecond = 24) {
  const tracing = traceOver(contextOn(shot), clip, { ...choices, ...part }, { num: perSecond, den: 1 });
  const after = mustBeDone(applyStep(projectOf(shot), mustBeDone(tracing.edit).step));
  const level = after.shots[0]?.levels.find(({ name }) => name === 'Wind');
  return {
    column: columnIn(after, level?.id ?? ''),
    lost: tracing.lost,
    kind: level?.kind,
    levels: after.shots[0]?.levels.map(({ name }) => name),
    frames: after.shots[0]?.frames,
  };
}

describe('a clip traced over (worked by hand)', () => {
  it('read as is frame for frame, repeats held and numbered by the clip’s own frames', () => {
    expect(traced(clipOf('abbcd', 30), {})).toMatchObject({ column: '1 2*2 4 5', lost: [], kind: 'guide' });
    expect(traced(clipOf('abbcd', 30), { repeats: 'apart' }).column).toBe('1 2 3 4 5');
    expect(traced(clipOf('ab', 30), { startFrame: 3 }).column).toBe('.*3 1 2');
  });

  it.each([
    ['abcdef', 12, 24, '1*2 2*2 3*2 4*2 5*2 6*2', []],
    ['abcdefghij', 30, 24, '1 2 4 5 6 7 9 10', [3, 8]],
    ['abcdef', 24, 24, '1 2 3 4 5 6', []],
    ['abcdefghijklmnopqrstuvwx', 24, 25, '1 2 3 4 5 6 7 8 9 10 11 12 13*2 14 15 16 17 18 19 20 21 22 23 24', []],
    ['aabbcc', 24, 12, '1 3 5', []],
  ])('%s at %i converted to %i: %s', (letters, from, to, column, lost) => {
    expect(traced(clipOf(letters, from), { way: 'converted' }, to)).toMatchObject({ column, lost });
  });

  it('may come with an empty drawing for every picture, and with a longer shot', () => {
    expect(traced(clipOf('abbcdefghijklmn', 24), { emptyDrawings: true, roomFrames: 'growShot' })).toMatchObject({
      levels: ['Sock', 'Wind', 'Wind drawn'],
      frames: 15,
    });
    const said = mustBeDone(
      traceOver(contextOn(shot), clipOf('abb', 24), { ...choices, emptyDrawings: true }, { num: 24, den: 1 }).edit,
    ).says;
    expect(said).toBe('Guide Wind: 2 pictures on frames 1–3, with 2 empty drawings to go with them');
  });

  it('empty drawings are made for a guide that is there already, and for nothing else', () => {
    const guide = levelOf('Wind', '1*2 4 .*2 1', { kind: 'guide', pictures: 'ab' });
    const edit = mustBeDone(emptyDrawingsFor(contextOn(shotOf([guide])), guide));
    const level = mustBeDone(applyStep(projectOf(shotOf([guide])), edit.step)).shots[0]?.levels[1];
    expect(level).toMatchObject({ name: 'Wind drawn', kind: 'animated' });
    expect(level?.drawings.map(({ number, picture }) => [number, picture])).toEqual([
      ['1', null],
      ['4', null],
    ]);
    expect(level?.exposures.map((run) => run.frames)).toEqual([2, 1, 2, 1]);
    expect(emptyDrawingsFor(contextOn(shot), levelOf('Sock', '1')).ok).toBe(false);
  });
});

describe('what is said of a clip', () => {
  it.each([
    ['abcdef', 'None of 6 pictures repeats the one before.'],
    ['abcddefghhijkl', '2 of 14 pictures repeat the one before: every 5th.'],
    ['aabbccdd', '4 of 8 pictures repeat the one before: each picture is held for 2 frames.'],
    ['abbcccddeeeff', '7 of 13 pictures repeat the one before: pictures stand 2 and 3 frames in turn.'],
    ['aabbbccdddeefff', '9 of 15 pictures repeat the one before: pictures stand 3 and 2 frames in turn.'],
    ['abbcdeefgh', '2 of 10 pictures repeat the one before: every 4th.'],
    ['abbcdeefghijkk', '3 of 14 pictures repeat the one before, in no regular pattern: frames 3, 7, 14.'],
  ])('%s: %s', (letters, words) => expect(repeatWords(clipOf(letters, 24).frames).startsWith(words)).toBe(true));

  it('its rate, or that it varies', () => {
    expect(clipRateWords(clipOf('abcdef', 24))).toBe('24 frames a second');
    const { frames, ...rest } = clipOf('abc', 25);
    expect(
      clipRateWords({ ...rest, frames: frames.with(1, { ...(frames[1] as (typeof frames)[number]), startMicroseconds: 55_000 }) }),
    ).toBe('a rate that varies: its frames last 25 to 55 ms');
  });
});
