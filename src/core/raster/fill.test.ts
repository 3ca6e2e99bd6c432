import { execFileSync } from 'node:child_process';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { filledArea } from '@/core/raster/fill';
import { layColour } from '@/core/raster/layColour';

const INK: readonly number[] = [29, 42, 35, 255];

/** A picture from rows of signs: `#` ink, anything else empty. */
function pictureFrom(rows: readonly string[]) {
  const size = { width: rows[0]?.length ?? 0, height: rows.length };
  const rgba = new Uint8ClampedArray(size.width * size.height * 4);
  rows
    .join('')
    .split('')
    .forEach((sign, index) => {
      if (sign === '#') rgba.set(INK, index * 4);
    });
  return { size, rgba };
}

/** The area as rows of signs: `o` where colour comes. */
function shown(rows: readonly string[], x: number, y: number, closesGapsPx = 0): string[] {
  const { size, rgba } = pictureFrom(rows);
  const area = filledArea(size, rgba, x, y, { tolerance: 0, closesGapsPx });
  return rows.map((row, line) =>
    row
      .split('')
      .map((sign, column) => (area[line * size.width + column] === 1 ? 'o' : sign))
      .join(''),
  );
}

const BOX = ['#######', '#     #', '#     #', '#######'];

describe('filledArea', () => {
  it('stays within closed walls', () => expect(shown(BOX, 2, 1)).toEqual(['#######', '#ooooo#', '#ooooo#', '#######']));

  it('does not go between walls that touch by a corner', () =>
    expect(shown(['  # ', '  # ', '##  ', '    '], 0, 0)).toEqual(['oo# ', 'oo# ', '##  ', '    ']));

  it('fills a wall that is pressed on', () => expect(shown(BOX, 0, 0)[1]).toBe('o     o'));

  it('reaches nothing outside the page', () => expect(shown(BOX, 9, 1)).toEqual(BOX));

  /** A square room of 40 px with walls 3 px thick, and a gap of so many px in its right wall, on a page of 80 × 60. */
  const room = (gapPx: number) => {
    const size = { width: 80, height: 60 };
    const rgba = new Uint8ClampedArray(size.width * size.height * 4);
    for (let y = 10; y < 50; y++)
      for (let x = 10; x < 50; x++) {
        const wall = x < 13 || x >= 47 || y < 13 || y >= 47;
        const gap = x >= 47 && y >= 30 && y < 30 + gapPx;
        if (wall && !gap) rgba.set(INK, (y * size.width + x) * 4);
      }
    return { size, rgba };
  };

  it.each([
    [0, 0, false],
    [1, 0, true],
    [4, 0, true],
    [5, 3, true],
    [4, 4, false],
    [6, 6, false],
    [10, 10, false],
    [11, 8, true],
  ])('a gap of %i px, closing gaps up to %i px: runs out %s', (gapPx, closesGapsPx, runsOut) => {
    const { size, rgba } = room(gapPx);
    const area = filledArea(size, rgba, 30, 30, { tolerance: 0, closesGapsPx });
    const outside = area.reduce((count, value, index) => count + (value === 1 && index % size.width >= 62 ? 1 : 0), 0);
    expect(outside > 0).toBe(runsOut);
    if (runsOut) return;
    const inside = (x: number, y: number) => area[y * size.width + x];
    // The whole room is filled, its corners to within the octagon's own, and never a wall.
    for (let y = 13; y < 47; y++) for (let x = 16; x < 44; x++) if (y >= 16 && y < 44) expect(inside(x, y)).toBe(1);
    expect([inside(13, 30), inside(30, 13), inside(46, 20), inside(30, 46)]).toEqual([1, 1, 1, 1]);
    expect([inside(12, 30), inside(30, 12), inside(48, 20)]).toEqual([0, 0, 0]);
  });

  it('fills between two lines closer than the gap that is closed', () => {
    const rows = ['##########', '          ', '          ', '##########'];
    expect(shown(rows, 4, 1, 12)).toEqual(['##########', 'oooooooooo', 'oooooooooo', '##########']);
  });

  it('takes nearly equal colours as one up to the tolerance', () => {
    const size = { width: 4, height: 1 };
    const rgba = new Uint8ClampedArray([100, 0, 0, 255, 104, 0, 0, 255, 109, 0, 0, 255, 100, 0, 0, 255]);
    const area = (tolerance: number) => [...filledArea(size, rgba, 0, 0, { tolerance, closesGapsPx: 0 })];
    expect([area(0), area(4), area(9)]).toEqual([
      [1, 0, 0, 0],
      [1, 1, 0, 0],
      [1, 1, 1, 1],
    ]);
  });

  it('never fills a wall, and fills everything that hangs together with the start, whatever gaps are closed', () => {
    fc.assert(
      fc.property(
        fc.array(fc.stringMatching(/^[# ]{9}$/), { minLength: 9, maxLength: 9 }),
        fc.integer({ min: 0, max: 8 }),
        fc.integer({ min: 0, max: 8 }),
        fc.integer({ min: 0, max: 5 }),
        (rows, x, y, gap) => {
          const plain = shown(rows, x, y, 0).join('');
          const closed = shown(rows, x, y, gap).join('');
          expect(closed[y * 9 + x]).toBe('o');
          closed.split('').forEach((sign, index) => {
            if (sign === 'o') expect(plain[index]).toBe('o');
          });
        },
      ),
    );
  });

  it('agrees with ffmpeg’s floodfill on random pictures', () => {
    const size = { width: 40, height: 30 };
    for (let seed = 1; seed <= 8; seed++) {
      const grey = Uint8Array.from({ length: size.width * size.height }, (_, index) =>
        (Math.imul(index + seed, 2654435761) >>> 13) % 100 < 34 + seed ? 0 : 200,
      );
      const start = grey.indexOf(200, 300);
      const [x, y] = [start % size.width, Math.floor(start / size.width)];
      const theirs = execFileSync(
        'ffmpeg',
        [
          '-v',
          'error',
          '-f',
          'rawvideo',
          '-pix_fmt',
          'gray',
          '-s',
          '40x30',
          '-i',
          '-',
          '-vf',
          `floodfill=x=${x}:y=${y}:s0=200:d0=77`,
          '-f',
          'rawvideo',
          '-',
        ],
        { input: grey },
      );
      const rgba = new Uint8ClampedArray(grey.length * 4);
      grey.forEach((value, index) => {
        rgba.set([value, value, value, 255], index * 4);
      });
      const area = filledArea(size, rgba, x, y, { tolerance: 0, closesGapsPx: 0 });
      expect([...area]).toEqual([...theirs].map((value) => (value === 77 ? 1 : 0)));
    }
  });
});

describe('layColour', () => {
  it('replaces what it fills and lies under the soft edge beside it', () => {
    const size = { width: 4, height: 1 };
    const rgba = new Uint8ClampedArray([0, 0, 0, 0, 0, 0, 0, 128, 0, 0, 0, 255, 0, 0, 0, 0]);
    layColour(size, rgba, new Uint8Array([1, 0, 0, 0]), '#ff8000');
    expect([...rgba.slice(0, 4)]).toEqual([255, 128, 0, 255]);
    expect([...rgba.slice(4, 8)]).toEqual([127, 64, 0, 255]);
    expect([...rgba.slice(8)]).toEqual([0, 0, 0, 255, 0, 0, 0, 0]);
  });
});
