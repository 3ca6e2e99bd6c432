import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { checkSize, isEvenSize, sizeText } from '@/core/document/size';
import { mustBeDone } from '@/core/outcome';
import { notationOf, parseNotation, runsFromNotation } from '@/core/sheet/notation';
import {
  drawingShownAt,
  exposuresOf,
  levelTiming,
  neighbourDrawing,
  nextDrawingNumber,
  stepByDrawing,
  stepByKey,
  timingWord,
} from '@/core/sheet/reading';
import { timingShare, workOfLevel, workOfProject, workOfShot } from '@/core/sheet/work';
import { record } from '@/core/testing/record';
import { levelOf, projectOf, shotOf } from '@/core/testing/sheets';

describe('what shows at a frame', () => {
  const sock = levelOf('Sock', '1*2 2*3 . 3');
  it.each([
    [0, '1'],
    [1, '1'],
    [2, '2'],
    [4, '2'],
    [5, undefined],
    [6, '3'],
    [7, undefined],
  ])('on frame %i it is %s', (frame, number) => expect(drawingShownAt(sock, frame)?.number).toBe(number));

  it('is a still level’s one drawing on every frame', () => {
    const yard = levelOf('Yard', '1', { kind: 'still' });
    expect(drawingShownAt(yard, 0)?.number).toBe('1');
    expect(drawingShownAt(yard, 9999)?.number).toBe('1');
  });
});

describe('neighbours and steps', () => {
  const level = levelOf('Sock', '1*2 2*2 .*2 3*2 1*2');
  const numberOf = (run: ReturnType<typeof neighbourDrawing>) => level.drawings.find((drawing) => drawing.id === run?.drawing)?.number;

  it.each([
    [2, 'before', 1, '1'],
    [2, 'after', 1, '3'],
    [2, 'after', 2, '1'],
    [5, 'before', 1, '2'],
    [5, 'before', 2, '1'],
    [0, 'before', 1, undefined],
    [9, 'after', 1, undefined],
  ] as const)('from frame %i %s, %i away, is %s', (frame, direction, steps, number) => {
    expect(numberOf(neighbourDrawing(level, frame, direction, steps))).toBe(number);
  });

  it('steps to where exposures start, and stays in the shot', () => {
    expect(stepByDrawing(level, 0, 1, 9)).toBe(2);
    expect(stepByDrawing(level, 2, 1, 9)).toBe(4);
    expect(stepByDrawing(level, 3, -1, 9)).toBe(2);
    expect(stepByDrawing(level, 0, -1, 9)).toBe(0);
    expect(stepByDrawing(level, 8, 1, 9)).toBe(9);
    expect(stepByDrawing(level, 2, 1, 3)).toBe(3);
  });

  it('steps to keys', () => {
    const keyed = {
      ...level,
      drawings: level.drawings.map((drawing) => (drawing.number === '3' ? { ...drawing, role: 'key' as const } : drawing)),
    };
    expect(stepByKey(keyed, 0, 1)).toBe(6);
    expect(stepByKey(keyed, 8, -1)).toBe(6);
    expect(stepByKey(keyed, 6, 1)).toBeUndefined();
  });

  it('lists all exposures of a drawing', () => {
    expect(exposuresOf(level, 'Sock-1').map((run) => run.startFrame)).toEqual([0, 8]);
  });
});

describe('numbers and words', () => {
  it.each([
    ['', [], '1'],
    ['1 2 3', [], '4'],
    ['1 12a 2', [], '13'],
    ['1', ['9'], '10'],
  ])('after %s %s comes %s', (notation, extra, next) => expect(nextDrawingNumber(levelOf('A', notation, { extra }))).toBe(next));

  it.each([
    [1, 'on ones'],
    [2, 'on twos'],
    [3, 'on threes'],
    [5, 'on 5s'],
    [8, 'on 8s'],
    [9, 'held for 9 frames'],
  ])('%i frames at 24 are %s', (frames, word) => expect(timingWord(frames, 24)).toBe(word));

  it.each([
    ['1*2 2*2 3*2', 'on 2s'],
    ['1*2 2*2 3*2 1*2 2*2 3*2', 'cycle 3'],
    ['1 2*2 3*3 4*4', 'mixed'],
    ['1*2 2*2 3*2 4', 'on 2s'],
    ['', 'empty'],
  ])('%s is timed %s', (notation, words) => expect(levelTiming(levelOf('A', notation))).toBe(words));

  it('calls a still level still', () => expect(levelTiming(levelOf('Yard', '1', { kind: 'still' }))).toBe('still'));
});

describe('notation', () => {
  it.each(['1*2 2*2 .*3 5', '1 12a . 2', '3*42'])('goes there and back: %s', (text) => expect(notationOf(levelOf('A', text))).toBe(text));

  it.each(['1*0', '1**2', '*2', '1*', '1,2', '1*-2'])('refuses %s and names it', (text) => {
    const written = parseNotation(text);
    expect(written.ok ? '' : written.reason).toContain(text);
  });

  it('refuses a number the level does not have', () => {
    const runs = runsFromNotation('1 9', { name: 'Sock', drawings: levelOf('Sock', '1').drawings });
    expect(runs).toEqual({ ok: false, reason: 'Sock has no drawing 9.' });
  });

  it('keeps any run of exposures', () => {
    const part = record({ number: fc.constantFrom('1', '2', '3a', '.'), frames: fc.integer({ min: 1, max: 99 }) });
    fc.assert(
      fc.property(fc.array(part), (parts) => {
        const text = parts.map(({ number, frames }) => `${number}*${frames}`).join(' ');
        expect(mustBeDone(parseNotation(text))).toEqual(
          parts.map(({ number, frames }) => ({ number: number === '.' ? null : number, frames })),
        );
      }),
    );
  });
});

describe('work', () => {
  const sock = levelOf('Sock', '1*2 2*2 3*12', { pictures: 'ab-' });
  const guide = levelOf('Clip', '1*24', { kind: 'guide', pictures: 'c' });
  const shot = shotOf([levelOf('Yard', '1', { kind: 'still', pictures: 'd' }), guide, sock]);

  it('counts drawings to make and made, guides apart', () => {
    expect(workOfLevel(sock)).toEqual({ drawings: 3, drawn: 2 });
    expect(workOfLevel(guide)).toEqual({ drawings: 0, drawn: 0 });
    expect(workOfShot(shot)).toEqual({ drawings: 4, drawn: 3 });
    expect(workOfProject(projectOf(shot, shotOf([levelOf('B', '1')], 1, '020')))).toEqual({ drawings: 5, drawn: 3 });
  });

  it('shares frames among ones, twos and holds', () => {
    const mixed = shotOf([levelOf('A', '1 2*2 3*3 4*5 5*9 .*4 6')]);
    expect(timingShare([mixed], { num: 24, den: 1 })).toEqual({ ones: 2, twos: 2, threes: 3, longer: 5, holds: 9 });
  });
});

describe('sizes', () => {
  it.each([
    [1280, 720, true],
    [1, 1, true],
    [16_384, 4096, true],
    [16_384, 16_384, false],
    [0, 720, false],
    [16_385, 1, false],
    [1280.5, 720, false],
    [-1, 720, false],
  ])('%d × %d', (width, height, ok) => expect(checkSize(width, height).ok).toBe(ok));

  it('names the side and what would be right', () => {
    const size = checkSize(20_000, 720);
    expect(size.ok ? '' : size.reason).toBe('A picture width of 20000 px is not possible: it must be a whole number from 1 to 16,384.');
  });

  it('knows what 4:2:0 can hold', () => {
    expect(isEvenSize({ width: 1280, height: 720 })).toBe(true);
    expect(isEvenSize({ width: 1281, height: 720 })).toBe(false);
    expect(sizeText({ width: 1280, height: 720 })).toBe('1280 × 720');
  });
});
