import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { areTooMany, type FlashKind, type LightRun, worstFlashes } from '@/core/check/flashRule';
import { type LightCells, luminanceOf } from '@/core/raster/light';

/*
 * Sequences are built from the definitions of WCAG 2.2 (general flash and red flash thresholds), on both sides of
 * each limit. The picture is 1024 × 768, where the field of 10° is 341 × 256 px; with cells of 16 px a quarter of
 * it is 85.25 cells.
 */
const SIZE = { width: 1024, height: 768 };
const COLUMNS = 64;
const ROWS = 48;
const RATE = { num: 24, den: 1 };

type Linear = readonly [red: number, green: number, blue: number];
const grey = (luminance: number): Linear => [luminance, luminance, luminance];

/** A frame of one light, with a patch of so many cells of another in its middle. */
function lightOf(ground: Linear, patch: Linear = ground, patchCells = COLUMNS * ROWS): LightCells {
  const channels = [0, 1, 2].map((channel) => new Float32Array(COLUMNS * ROWS).fill(ground[channel] ?? 0));
  // A field holds 21 × 16 cells: the patch is laid in rows of 20 from the middle on.
  for (let cell = 0; cell < Math.min(patchCells, COLUMNS * ROWS); cell++) {
    const at = patchCells >= COLUMNS * ROWS ? cell : (16 + Math.floor(cell / 20)) * COLUMNS + 20 + (cell % 20);
    for (const [channel, values] of channels.entries()) values[at] = patch[channel] ?? 0;
  }
  const [red = new Float32Array(), green = new Float32Array(), blue = new Float32Array()] = channels;
  const luminance = red.map((value, cell) => luminanceOf(value, green[cell] ?? 0, blue[cell] ?? 0));
  return { columns: COLUMNS, rows: ROWS, cellPx: 16, red, green, blue, luminance };
}

/** Two lights in turn, each so many frames, for a number of changes. */
const inTurn = (a: LightCells, b: LightCells, frames: number, changes: number): LightRun[] =>
  Array.from({ length: changes + 1 }, (_, index) => ({ light: index % 2 === 0 ? a : b, startFrame: index * frames }));

const flashesOf = (runs: readonly LightRun[], kind: FlashKind = 'general') => worstFlashes(runs, SIZE, RATE, kind);
const isRefused = (runs: readonly LightRun[], kind: FlashKind = 'general') => {
  const worst = flashesOf(runs, kind);
  return worst !== null && areTooMany(worst);
};

const BLACK = lightOf(grey(0));
const WHITE = lightOf(grey(1));

describe('general flashes', () => {
  it('are pairs of opposing changes: eight changes within a second are four', () => {
    expect(flashesOf(inTurn(BLACK, WHITE, 3, 8))).toEqual({ kind: 'general', flashes: 4, fromFrame: 3, toFrame: 24, fieldPercent: 100 });
    expect(isRefused(inTurn(BLACK, WHITE, 3, 8))).toBe(true);
  });

  it.each<[string, number, number, boolean]>([
    ['seven changes are three flashes and a half', 3, 7, false],
    ['four flashes', 3, 8, true],
    ['on twos, six times a second', 2, 12, true],
    ['on fours, three times a second', 4, 60, false],
    ['four spread over more than a second', 4, 8, false],
    ['one change is no flash', 3, 1, false],
  ])('%s', (_what, frames, changes, refused) => expect(isRefused(inTurn(BLACK, WHITE, frames, changes))).toBe(refused));

  it.each<[string, number, number, boolean]>([
    ['10 % of the greatest luminance', 0.3, 0.4, true],
    ['a hair less', 0.3, 0.399, false],
    ['the darker at 0.79', 0.79, 0.9, true],
    ['the darker at 0.80', 0.8, 0.95, false],
    ['the darker at 0.80 and white', 0.8, 1, false],
  ])('%s', (_what, dark, light, refused) => expect(isRefused(inTurn(lightOf(grey(dark)), lightOf(grey(light)), 2, 12))).toBe(refused));

  it.each([
    [86, true],
    [85, false],
    [1, false],
  ])('over %i cells of 16 px, a quarter of the field being 85.25', (cells, refused) =>
    expect(isRefused(inTurn(BLACK, lightOf(grey(0), grey(1), cells), 2, 12))).toBe(refused),
  );

  it('in two places, each under a quarter of the field and further apart than it, are none', () => {
    const spread = lightOf(grey(0));
    for (let cell = 0; cell < 160; cell++) {
      const at = cell < 80 ? Math.floor(cell / 8) * COLUMNS + (cell % 8) : (30 + Math.floor((cell - 80) / 8)) * COLUMNS + 50 + (cell % 8);
      for (const values of [spread.red, spread.green, spread.blue, spread.luminance]) values[at] = 1;
    }
    expect(isRefused(inTurn(BLACK, spread, 2, 12))).toBe(false);
  });

  it('count a rise over several frames once', () => {
    const steps = [0, 0.3, 0.6, 0.9, 0.6, 0.3].map((luminance) => lightOf(grey(luminance)));
    const runs = Array.from({ length: 60 }, (_, frame) => ({ light: steps[frame % 6] as LightCells, startFrame: frame }));
    // Up and down once in six frames: four flashes in 24.
    expect(flashesOf(runs)?.flashes).toBe(4);
  });

  it('don’t count a movement that only goes one way', () => {
    const rise = Array.from({ length: 24 }, (_, frame) => ({ light: lightOf(grey(frame / 24)), startFrame: frame }));
    expect(flashesOf(rise)?.flashes ?? 0).toBe(0);
  });

  it('are none in a film that stands, or has no frames', () => {
    expect(flashesOf([])).toBeNull();
    expect(flashesOf([{ light: WHITE, startFrame: 0 }])).toBeNull();
  });

  it('are as many however long the film before and after stands', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 8 }),
        fc.integer({ min: 2, max: 30 }),
        fc.integer({ min: 0, max: 500 }),
        (frames, changes, before) => {
          const runs = inTurn(BLACK, WHITE, frames, changes);
          const later = runs.map((run, index) => ({ ...run, startFrame: index === 0 ? 0 : run.startFrame + before }));
          expect(flashesOf(later)?.flashes).toBe(flashesOf(runs)?.flashes);
        },
      ),
      { numRuns: 40 },
    );
  });
});

describe('red flashes', () => {
  // R/(R + G + B) of 0.8 and just under, on linear values.
  const red = (share: number): Linear => [share * 0.5, ((1 - share) / 2) * 0.5, ((1 - share) / 2) * 0.5];
  it.each<[string, Linear, Linear, boolean]>([
    ['saturated red and black', [0.2, 0, 0], [0, 0, 0], true],
    ['saturated red and white of equal luminance', [0.5, 0, 0], grey(0.1063), true],
    ['red of 0.85 and a green blue', red(0.85), [0, 0.3, 0.3], true],
    ['red of 0.85 and grey, 0.19 apart in chromaticity', red(0.85), grey(0.1), false],
    ['red of 0.79 and a green blue', red(0.79), [0, 0.3, 0.3], false],
    ['two saturated reds', [0.5, 0, 0], [0.4, 0, 0], false],
    ['blue and black', [0, 0, 1], [0, 0, 0], false],
    ['saturated red and an orange near to it', red(0.9), red(0.75), false],
  ])('%s', (_what, a, b, refused) => expect(isRefused(inTurn(lightOf(a), lightOf(b), 2, 12), 'red')).toBe(refused));

  it('have to be more than three in a second, over a quarter of the field', () => {
    const [a, b] = [lightOf([0, 0, 0]), lightOf([0, 0, 0], [0.5, 0, 0], 85)];
    expect(isRefused(inTurn(a, b, 2, 12), 'red')).toBe(false);
    expect(isRefused(inTurn(a, lightOf([0, 0, 0], [0.5, 0, 0], 86), 2, 12), 'red')).toBe(true);
    expect(isRefused(inTurn(a, lightOf([0.5, 0, 0]), 4, 30), 'red')).toBe(false);
  });
});
