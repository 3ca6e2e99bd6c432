import { describe, expect, it } from 'vitest';
import type { Shot } from '@/core/document/model';
import { copyBlock, pasteCopied, pasteWritten } from '@/core/edit/pasteEdits';
import type { RestRule } from '@/core/edit/step';
import { applyStep } from '@/core/edit/table';
import { mustBeDone } from '@/core/outcome';
import { blockText, parseBlockText } from '@/core/sheet/blockText';
import { sheetColumns } from '@/core/sheet/columns';
import { blockOf, columnAfter, contextOn, levelOf, pictureOf, projectOf, shotOf } from '@/core/testing/sheets';

const shot = shotOf([levelOf('Pegs', '1*4 2*4'), levelOf('Sock', '1*2 2*2 .*2 3*2', { pictures: 'abc' })], 24);
const pasteText = (text: string, levelId = 'Sock', atFrame = 0, following: RestRule = 'overwrite', on: Shot = shot) => {
  const written = parseBlockText(text);
  return written.ok ? pasteWritten(contextOn(on, following), sheetColumns(on), levelId, atFrame, written.value) : written;
};

describe('a block as text', () => {
  it('is a row a frame and a column a level', () => {
    expect(blockText(shot, blockOf(1, 4, 'Sock', 'Pegs'))).toBe('1\t1\n2\t1\n2\t1\n.\t2');
  });

  it('comes back as the same column', () => {
    const text = blockText(shot, blockOf(0, 7, 'Sock'));
    expect(
      columnAfter(
        shotOf([levelOf('Sock', '', { extra: ['1', '2', '3'] })], 24),
        pasteText(text, 'Sock', 0, 'overwrite', shotOf([levelOf('Sock', '', { extra: ['1', '2', '3'] })], 24)),
      ),
    ).toBe('1*2 2*2 .*2 3*2');
  });

  it.each([
    ['numbers, a line a frame', '5\n5\n6', '5*2 6 2 .*2 3*2'],
    ['empty cells that hold', '5\n\n6\n', '5*2 6 2 .*2 3*2'],
    ['the notation', '5*2 6', '5*2 6 2 .*2 3*2'],
    ['empty cells of a spreadsheet, the last one too', '5\n""\n6\n""', '5*2 6*2 .*2 3*2'],
    ['empty cells at the end', '5\n\n6\n\n', '5*2 6*2 .*2 3*2'],
    ['a spreadsheet’s line ends', '5\r\n5\r\n.\r\n', '5*2 . 2 .*2 3*2'],
  ])('is read from %s', (_what, text, after) => expect(columnAfter(shot, pasteText(text))).toBe(after));

  it('takes cells of the sheet’s own table as one level with roles', () => {
    const edit = pasteText('1 key\n1\n2\n2\n3 key\n3');
    expect(columnAfter(shot, edit)).toBe('1*2 2*2 3*4');
    const after = mustBeDone(applyStep(projectOf(shot), mustBeDone(edit).step)).shots[0];
    expect(after?.levels[1]?.drawings.map((drawing) => drawing.role)).toEqual(['key', 'inbetween', 'key']);
    const fresh = pasteText('7 key\n8 breakdown');
    const planned = mustBeDone(applyStep(projectOf(shot), mustBeDone(fresh).step)).shots[0]?.levels[1]?.drawings.slice(3);
    expect(planned?.map((drawing) => [drawing.number, drawing.role])).toEqual([
      ['7', 'key'],
      ['8', 'breakdown'],
    ]);
  });

  it('pushes what is there when the Push the rest', () =>
    expect(columnAfter(shot, pasteText('5*2 6', 'Sock', 2, 'push'))).toBe('1*2 5*2 6 2*2 .*2 3*2'));

  it('takes columns one beside the other, as the sheet stands', () => {
    const edit = pasteText('7\t8\n7\t8');
    expect([columnAfter(shot, edit), columnAfter(shot, edit, 'Pegs')]).toEqual(['7*2 2*2 .*2 3*2', '8*2 1*2 2*4']);
    expect(mustBeDone(edit).says).toContain('2 new drawings');
  });

  it.each([
    ['', 'nothing in what was pasted'],
    [' \n \n', 'nothing in what was pasted'],
    ['1\t2\n1', 'Row 2 has 1 column and another has 2'],
    ['1\n!!\n2', 'Row 2, column 1: “!!” is not a drawing'],
    ['1\t2\n1\t€5', 'Row 2, column 2: “€5”'],
    ['1*2 2*0', 'Line 1: “2*0” is no exposure'],
    ['hello world, what\nis this', 'Line 1: “world,” is no exposure'],
    [Array.from({ length: 100_001 }, () => '1').join('\n'), '100,001 rows; at most 100,000 rows'],
    [Array.from({ length: 201 }, () => '1').join('\t'), '201 columns'],
    ['1\t2\t3', 'from Sock on the sheet has 2'],
  ])('refuses rubbish naming the place (%#)', (text, reason) => expect(columnAfter(shot, pasteText(text))).toContain(reason));
});

describe('a great many new drawings', () => {
  const numbers = (count: number) => Array.from({ length: count }, (_, index) => String(index + 10)).join('\n');

  it('are refused past what one edit may change, and taken up to it', () => {
    expect(columnAfter(shot, pasteText(numbers(100_000)))).toContain('100,001 changes at once');
    const edit = mustBeDone(pasteText(numbers(4999)));
    expect(mustBeDone(applyStep(projectOf(shot), edit.step)).shots[0]?.levels[1]?.drawings).toHaveLength(5002);
  });
});

describe('a copied block', () => {
  const copied = mustBeDone(copyBlock(shot, blockOf(0, 3, 'Sock')));
  const paste = (on: Shot, levelId: string, atFrame: number, withDrawings: boolean) =>
    pasteCopied(contextOn(on, 'overwrite'), sheetColumns(on), levelId, atFrame, copied, withDrawings);
  const drawingsAfter = (on: Shot, edit: ReturnType<typeof paste>, levelId: string) =>
    mustBeDone(applyStep(projectOf(on), mustBeDone(edit).step)).shots[0]?.levels.find((level) => level.id === levelId)?.drawings ?? [];

  it('shows the very same drawings on its own level', () => {
    const edit = paste(shot, 'Sock', 10, false);
    expect(columnAfter(shot, edit)).toBe('1*2 2*2 .*2 3*2 .*2 1*2 2*2');
    expect(drawingsAfter(shot, edit, 'Sock')).toHaveLength(3);
  });

  it('becomes independent drawings with their pictures when asked', () => {
    const edit = paste(shot, 'Sock', 8, true);
    expect(columnAfter(shot, edit)).toBe('1*2 2*2 .*2 3*2 4*2 5*2');
    expect(drawingsAfter(shot, edit, 'Sock').slice(3)).toMatchObject([
      { number: '4', picture: pictureOf('a') },
      { number: '5', picture: pictureOf('b') },
    ]);
  });

  it('finds the numbers of another level, and plans those it has not', () => {
    const other = shotOf([levelOf('Line', '1*2')], 24, '020');
    const edit = paste(other, 'Line', 4, false);
    expect(columnAfter(other, edit, 'Line')).toBe('1*2 .*2 1*2 2*2');
    expect(drawingsAfter(other, edit, 'Line')).toMatchObject([{ number: '1' }, { number: '2', picture: null }]);
  });

  it('is refused where nothing is exposed or nothing would change', () => {
    expect(copyBlock(shot, blockOf(20, 22, 'Sock'))).toMatchObject({ ok: false });
    expect(columnAfter(shot, paste(shot, 'Sock', 0, false))).toContain('Nothing changes');
  });
});
