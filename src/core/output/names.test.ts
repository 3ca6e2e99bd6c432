import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { checkNames, LAYOUTS, type Named, type NamePart, nameOf, START_NUMBERING, sameName } from '@/core/output/names';

const FROM = { project: 'Wash Day!', rate: '24', date: '2026-11-26' };
const NAMED: Named = { scope: '020', shot: '020', level: 'Sock', drawing: '7', frame: 31, place: 30, reelFrame: 103 };
const name = (parts: readonly NamePart[], named: Partial<Named> = {}, numbering = START_NUMBERING) =>
  nameOf(parts, { ...NAMED, ...named }, FROM, numbering);

describe('names from parts', () => {
  it.each([
    [LAYOUTS.flat, 'wash-day_020.0031'],
    [LAYOUTS.shot, '020/wash-day_020.0031'],
    [LAYOUTS.level, 'sock/020_sock.0031'],
    [LAYOUTS.shotLevel, '020/sock/020_sock.0031'],
    [[{ part: 'level' }, { part: 'separator', text: '-' }, { part: 'drawing' }] as const, 'sock-0007'],
    [[{ part: 'reelFrame' }, { part: 'words', words: ' Ünder' }, { part: 'rate' }] as const, '0103 Ünder24'],
    [[{ part: 'date' }] as const, '2026-11-26'],
  ])('%#', (parts, wanted) => expect(name(parts)).toBe(wanted));

  it('say what they are of where there is no shot, level or drawing', () => {
    expect(name(LAYOUTS.shotLevel, { scope: null, shot: null, level: null })).toBe('reel/all/reel_all.0031');
    expect(name([{ part: 'drawing' }], { drawing: null })).toBe('0031');
    expect(name([{ part: 'reelFrame' }], { reelFrame: null })).toBe('0031');
  });

  it('are numbered from a number on, in steps, with so many digits', () => {
    expect(name([{ part: 'frame' }], {}, { start: 1001, step: 10, digits: 6 })).toBe('001301');
    expect(name([{ part: 'frame' }], { frame: 123_456 })).toBe('123456');
  });
});

describe('names are refused', () => {
  it.each([
    [['a.png', 'a.png'], 'Two files would be called “a.png”'],
    [['Sock.png', 'sock.png'], '“Sock.png” and “sock.png” would be one file'],
    [['é.png', 'e\u0301.png'], 'would be one file'],
    [['a', 'a/b.png'], '“a” would be a file and “a” a folder'],
    [['../a.png'], '“..” leads elsewhere'],
    [['a//b.png'], 'A name or folder is empty'],
    [['CON.png'], '“CON.png” is a name that some systems keep for themselves'],
    [['shots/lpt1/a.png'], '“lpt1” is a name that some systems keep'],
    [['a?.png'], '“a?.png” holds “?”, which some systems refuse'],
    [['a\u0007.png'], 'a control character'],
    [['a./b.png'], '“a.” ends with a dot'],
    [['a /b.png'], '“a ” ends with a space'],
    [[' a.png'], 'begins with a space'],
    [[`${'x'.repeat(300)}.png`], 'is 304 bytes long, and 255 is the most'],
    [[`${'🧦'.repeat(64)}.png`], 'is 260 bytes long'],
    [['\uD83E.png'], 'half of a character'],
  ])('%o', (paths, reason) => {
    const checked = checkNames(paths);
    expect(checked.ok ? '' : checked.reason).toContain(reason);
  });

  it('but not what every system takes', () => {
    const fine = [
      '010/line/010_line.0001.png',
      '010/line/010_line.0002.png',
      'été 🧦.png',
      `${'x'.repeat(251)}.png`,
      'conrad.png',
      '.hidden',
    ];
    expect(checkNames(fine)).toEqual({ ok: true, value: fine });
  });

  it('just where two are one to a folder that tells neither capitals nor accents apart', () => {
    const anyName = fc.string({ unit: fc.constantFrom('a', 'A', 'e\u0301', 'é', 'É', '1'), minLength: 1, maxLength: 3 });
    fc.assert(
      fc.property(fc.array(anyName, { maxLength: 6 }), (names) => {
        expect(checkNames(names).ok).toBe(new Set(names.map(sameName)).size === names.length);
      }),
    );
  });
});
