import { describe, expect, it } from 'vitest';
import { linesOf } from '@/core/raster/outline';

const SIZE = { width: 7, height: 5 };

function picture(colourAt: (x: number, y: number) => readonly number[]): Uint8ClampedArray {
  const rgba = new Uint8ClampedArray(SIZE.width * SIZE.height * 4);
  for (let y = 0; y < SIZE.height; y++) for (let x = 0; x < SIZE.width; x++) rgba.set(colourAt(x, y), (y * SIZE.width + x) * 4);
  return rgba;
}

/** Rows of signs: `o` where there is a full line, `.` where there is a fainter one. */
const shown = (lines: Uint8ClampedArray) =>
  Array.from({ length: SIZE.height }, (_, y) =>
    Array.from({ length: SIZE.width }, (_unused, x) => {
      const alpha = lines[(y * SIZE.width + x) * 4 + 3] ?? 0;
      return alpha === 255 ? 'o' : alpha > 0 ? '.' : ' ';
    }).join(''),
  );

const EMPTY = [0, 0, 0, 0];
const FLAT = [200, 80, 60, 255];

describe('linesOf', () => {
  it('shows the border of a flat shape and not its inside', () => {
    const lines = linesOf(
      SIZE,
      picture((x, y) => (x >= 1 && x <= 5 && y >= 1 && y <= 3 ? FLAT : EMPTY)),
      '#6d59c7',
    );
    expect(shown(lines)[2]).toBe('oo   oo');
    expect([...lines.slice(SIZE.width * 2 * 4, SIZE.width * 2 * 4 + 4)]).toEqual([109, 89, 199, 255]);
  });

  it('shows a dark line within a flat shape', () => {
    const lines = linesOf(
      SIZE,
      picture((x) => (x === 3 ? [20, 20, 20, 255] : [250, 240, 220, 255])),
      '#000000',
    );
    expect(shown(lines)[2]).toBe('  ooo  ');
  });

  it('is fainter for small steps and nothing for none', () => {
    expect(
      shown(
        linesOf(
          SIZE,
          picture((x) => (x < 3 ? [100, 100, 100, 255] : [140, 140, 140, 255])),
          '#000000',
        ),
      )[0],
    ).toBe('  ..   ');
    expect(
      shown(
        linesOf(
          SIZE,
          picture(() => FLAT),
          '#000000',
        ),
      )
        .join('')
        .trim(),
    ).toBe('');
    expect(
      shown(
        linesOf(
          SIZE,
          picture(() => EMPTY),
          '#000000',
        ),
      )
        .join('')
        .trim(),
    ).toBe('');
  });
});
