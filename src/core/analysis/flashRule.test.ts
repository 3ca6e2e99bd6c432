import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { areTooMany, type FlashKind, luminanceTurns, redTurns } from '@/core/analysis/flashRule';
import { FlashWatch } from '@/core/analysis/flashWatch';
import { type LightCells, wholeGrid } from '@/core/analysis/layLight';
import { luminanceOf } from '@/core/analysis/light';
import { LightHistory } from '@/core/analysis/lightHistory';
import { type Light, mostOpposing, type PlainFilm, plainFlashes } from '@/core/testing/plainFlashes';
import { record } from '@/core/testing/record';

/*
 * Sequences are built from the definitions of WCAG 2.2 (general flash and red flash thresholds), on both sides of
 * each limit. The picture is 1024 × 768, where the field of 10° is 341 × 256 px; with cells of 16 px a quarter of
 * it is 85.25 cells.
 */
const SIZE = { width: 1024, height: 768 };
const COLUMNS = 64;
const ROWS = 48;
const RATE = { num: 24, den: 1 };

const grey = (luminance: number): Light => [luminance, luminance, luminance];

/** A run of frames that shows one light, from `startFrame` on. */
type LightRun = { readonly light: LightCells; readonly startFrame: number };

/** The worst second of a film given by its lights in order; null when there is no flash at all. */
function worstFlashes(runs: readonly LightRun[], size: typeof SIZE, rate: typeof RATE, kind: FlashKind) {
  const grid = runs[0]?.light;
  if (!grid) return null;
  const history = new LightHistory(grid, rate.num / rate.den);
  const watch = new FlashWatch(size, rate, kind, grid);
  for (const { light, startFrame } of runs) {
    const next = history.next(startFrame);
    for (const channel of ['red', 'green', 'blue', 'luminance'] as const) next[channel].set(light[channel]);
    watch.change(history, wholeGrid(grid));
  }
  return watch.worst;
}

/** A frame of one light, with a patch of so many cells of another in its middle. */
function lightOf(ground: Light, patch: Light = ground, patchCells = COLUMNS * ROWS): LightCells {
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
    [84, false],
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

  it('are not told fewer because something else changed shortly before', () => {
    // In a black room a patch flickers four times on frames 22 to 29; the room turns grey on frame 2.
    const room = (ground: number) => (patch: number) => lightOf(grey(ground), grey(patch), 100);
    const [black, dim] = [room(0), room(0.2159)];
    const flicker = (ground: typeof black) =>
      Array.from({ length: 8 }, (_, index) => ({ light: ground(index % 2 === 0 ? 1 : 0), startFrame: 22 + index }));
    const alone = [{ light: black(0), startFrame: 0 }, ...flicker(black)];
    const after = [{ light: black(0), startFrame: 0 }, { light: dim(0), startFrame: 2 }, ...flicker(dim)];
    expect(flashesOf(alone)).toMatchObject({ flashes: 4, fromFrame: 22, toFrame: 29 });
    expect(flashesOf(after)).toMatchObject({ flashes: 4, fromFrame: 22, toFrame: 29 });
  });

  it('of different places are not added up, nor is a rise here and a fall there a flash', () => {
    // Two pairs a quarter second apart, each swapping four times a second: two flashes at any one place.
    const [columns, half] = [COLUMNS, COLUMNS / 2];
    const sides = (left: number, right: number) => {
      const light = lightOf(grey(0));
      for (let cell = 0; cell < columns * ROWS; cell++) {
        const value = cell % columns < half ? left : right;
        for (const channel of [light.red, light.green, light.blue, light.luminance]) channel[cell] = value;
      }
      return light;
    };
    const runs = [0, 3, 6, 9, 12, 15, 18, 21].map((startFrame, index) => ({
      light: sides(Math.floor((index + 1) / 2) % 2, Math.floor(index / 2) % 2),
      startFrame,
    }));
    expect(flashesOf(runs)?.flashes).toBe(2);
    expect(
      flashesOf([
        { light: sides(0, 1), startFrame: 0 },
        { light: sides(1, 0), startFrame: 5 },
      ]),
    ).toBeNull();
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
  const red = (share: number): Light => [share * 0.5, ((1 - share) / 2) * 0.5, ((1 - share) / 2) * 0.5];
  it.each<[string, Light, Light, boolean]>([
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
    const [a, b] = [lightOf([0, 0, 0]), lightOf([0, 0, 0], [0.5, 0, 0], 84)];
    expect(isRefused(inTurn(a, b, 2, 12), 'red')).toBe(false);
    expect(isRefused(inTurn(a, lightOf([0, 0, 0], [0.5, 0, 0], 86), 2, 12), 'red')).toBe(true);
    expect(isRefused(inTurn(a, lightOf([0.5, 0, 0]), 4, 30), 'red')).toBe(false);
  });
});

/*
 * The second opinion: films of every kind that can go wrong, held against the definitions written out plainly. Cells
 * are 64 px of the screen, so that the 16 × 12 of them hold the rectangle at several places.
 */
const PLAIN = { columns: 16, rows: 12, cellPx: 64 };
const shade = fc.oneof(
  fc.constantFrom<Light>([0, 0, 0], [1, 1, 1], [1, 0, 0], [0.4, 0.02, 0.02], [0.8, 0.8, 0.8], [0.21, 0.21, 0.21], [0.31, 0.31, 0.31]),
  fc
    .tuple(fc.float({ min: 0, max: 1, noNaN: true }), fc.float({ min: 0, max: 1, noNaN: true }), fc.float({ min: 0, max: 1, noNaN: true }))
    .map(([r, g, b]): Light => [Math.fround(r), Math.fround(g), Math.fround(b)]),
);
const event = record({
  frame: fc.integer({ min: 0, max: 12 }),
  every: fc.integer({ min: 1, max: 4 }),
  times: fc.integer({ min: 1, max: 14 }),
  left: fc.integer({ min: 0, max: 14 }),
  top: fc.integer({ min: 0, max: 10 }),
  width: fc.integer({ min: 1, max: 16 }),
  height: fc.integer({ min: 1, max: 12 }),
  shades: fc.array(shade, { minLength: 2, maxLength: 3 }),
});
const randomFilm = record({
  framesPerSecond: fc.constantFrom(8, 12, 12000 / 1001),
  ground: shade,
  events: fc.array(event, { minLength: 1, maxLength: 4 }),
});

/** A film's frames: a ground, and boxes that change, over each other. */
function framesOf({
  ground,
  events,
}: {
  ground: Light;
  events: readonly (typeof event extends fc.Arbitrary<infer E> ? E : never)[];
}): Light[][] {
  return Array.from({ length: 22 }, (_, frame) => {
    const lights: Light[] = Array.from({ length: PLAIN.columns * PLAIN.rows }, () => ground);
    for (const { frame: start, every, times, left, top, width, height, shades } of events) {
      if (frame < start) continue;
      const shown = shades[Math.min(times, Math.floor((frame - start) / every)) % shades.length] as Light;
      for (let y = top; y < Math.min(PLAIN.rows, top + height); y++)
        for (let x = left; x < Math.min(PLAIN.columns, left + width); x++) lights[y * PLAIN.columns + x] = shown;
    }
    return lights;
  });
}

function lightOfFrame(lights: readonly Light[]): LightCells {
  const channel = (index: 0 | 1 | 2) => Float32Array.from(lights, (light) => light[index]);
  const [red, green, blue] = [channel(0), channel(1), channel(2)];
  return { ...PLAIN, red, green, blue, luminance: red.map((value, cell) => luminanceOf(value, green[cell] ?? 0, blue[cell] ?? 0)) };
}

describe('the quick walk and the definitions written out plainly', () => {
  it('tell the same number for five hundred random films', () => {
    const seen = new Map<number, number>();
    fc.assert(
      fc.property(randomFilm, (film) => {
        const frames = framesOf(film);
        const runs = frames.flatMap((lights, startFrame) =>
          startFrame > 0 && lights.every((light, cell) => light === frames[startFrame - 1]?.[cell])
            ? []
            : [{ light: lightOfFrame(lights), startFrame }],
        );
        const rate = Number.isInteger(film.framesPerSecond) ? { num: film.framesPerSecond, den: 1 } : { num: 12000, den: 1001 };
        const plain: PlainFilm = { ...PLAIN, cellScreenPx: 64, framesPerSecond: film.framesPerSecond, frames };
        for (const kind of ['general', 'red'] as const) {
          const told = worstFlashes(runs, SIZE, rate, kind)?.flashes ?? 0;
          seen.set(told, (seen.get(told) ?? 0) + 1);
          expect(told, kind).toBe(plainFlashes(plain, kind));
        }
      }),
      { numRuns: 500, seed: 2321 },
    );
    // They are not all alike: some films are over the limit, some just under, some stand still.
    expect([...seen.keys()].filter((told) => told > 3).length).toBeGreaterThan(2);
    for (const few of [0, 1, 2, 3]) expect(seen.get(few) ?? 0).toBeGreaterThan(20);
  }, 120_000);

  it('tell the same turns of a cell', () => {
    const states = fc.array(shade, { minLength: 1, maxLength: 26 });
    fc.assert(
      fc.property(states, (lights) => {
        const [red, green, blue] = [0, 1, 2].map((channel) => lights.map((light) => light[channel] as number)) as [
          number[],
          number[],
          number[],
        ];
        const luminance = lights.map(([r, g, b]) => luminanceOf(r, g, b));
        expect(luminanceTurns(luminance, lights.length, 100).turns).toBe(mostOpposing('general', lights));
        expect(redTurns(red, green, blue, lights.length, 100).turns).toBe(mostOpposing('red', lights));
      }),
      { numRuns: 2000 },
    );
  });
});
