import { describe, expect, it } from 'vitest';
import type { ShelfEntry } from '@/contracts/project';
import { foundOnShelf, inShelfOrder } from '@/features/shelf/shelfOrder';

const entry = (title: string, frames: number, num: number, keptAt: string): ShelfEntry => ({
  id: title,
  title,
  frames,
  rate: { num, den: 1 },
  keptAt,
  size: { width: 64, height: 36 },
  shots: 1,
  drawings: 0,
  drawn: 0,
  putAwayAt: null,
  cover: [],
});

const SHELF = [
  entry('Reel 10', 240, 24, '2026-01-03T00:00:00.000Z'),
  entry('Reel 2', 240, 12, '2026-01-01T00:00:00.000Z'),
  entry('Été', 300, 25, '2026-01-02T00:00:00.000Z'),
];
const titles = (entries: readonly ShelfEntry[]) => entries.map(({ title }) => title);

describe('the shelf', () => {
  it.each([
    ['saved', ['Reel 10', 'Été', 'Reel 2']],
    // Numbers within names count as numbers.
    ['name', ['Été', 'Reel 2', 'Reel 10']],
    ['rate', ['Reel 2', 'Reel 10', 'Été']],
    // 240 frames at 12 are 20 s, at 24 they are 10 s; 300 at 25 are 12 s.
    ['length', ['Reel 2', 'Été', 'Reel 10']],
  ] as const)('stands in order of %s', (order, expected) => expect(titles(inShelfOrder(SHELF, order))).toEqual(expected));

  it.each([
    ['', ['Reel 10', 'Reel 2', 'Été']],
    ['reel', ['Reel 10', 'Reel 2']],
    ['2 REEL', ['Reel 2']],
    ['ete', ['Été']],
    ['nothing', []],
  ])('finds %j', (wanted, expected) => expect(titles(foundOnShelf(SHELF, wanted))).toEqual(expected));
});
