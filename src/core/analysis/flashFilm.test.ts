import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FlashFilm } from '@/core/analysis/flashFilm';
import type { Flashes } from '@/core/analysis/flashRule';
import { codedOf, lightOfPicture, linearOf } from '@/core/analysis/light';
import type { Size } from '@/core/document/model';
import type { RenderRun } from '@/core/render/renderPlan';
import type { PictureStack, StackLayer } from '@/core/render/stacks';
import { type Light, plainFlashes } from '@/core/testing/plainFlashes';
import { record } from '@/core/testing/record';

type Box = readonly [left: number, top: number, width: number, height: number];
type Colour = readonly [red: number, green: number, blue: number, alpha?: number];
type ColouredBox = { readonly box: Box; readonly colour: Colour };

/** A picture with filled boxes, each in place of what was there. */
function picture({ width, height }: Size, boxes: readonly ColouredBox[]): Uint8ClampedArray {
  const rgba = new Uint8ClampedArray(width * height * 4);
  const words = new Uint32Array(rgba.buffer);
  for (const { box, colour } of boxes) {
    const [left, top, across, down] = box;
    const [red, green, blue, alpha = 255] = colour;
    const word = ((alpha << 24) | (blue << 16) | (green << 8) | red) >>> 0;
    for (let y = top; y < Math.min(height, top + down); y++) words.fill(word, y * width + left, y * width + Math.min(width, left + across));
  }
  return rgba;
}

/** A film of stacks of pictures by name, each so many frames. */
function filmOf(stacks: readonly (readonly StackLayer[])[], frames: number): { stacks: PictureStack[]; runs: RenderRun[] } {
  return {
    stacks: stacks.map((layers, index) => ({ key: String(index), layers, finished: true })),
    runs: stacks.map((_, stack) => ({ stack, startFrame: stack * frames, frames })),
  };
}

async function flashesOf(
  size: Size,
  pictures: Readonly<Record<string, readonly ColouredBox[]>>,
  stacks: readonly (readonly StackLayer[])[],
  frames: number,
) {
  const lights = new Map(
    Object.entries(pictures).map(([name, boxes]) => [
      name,
      lightOfPicture(size, picture(size, boxes), { left: 0, top: 0, right: size.width, bottom: size.height }),
    ]),
  );
  const film = filmOf(stacks, frames);
  return (await new FlashFilm(size, (name) => lights.get(name) ?? null).worst(film.stacks, film.runs, { num: 24, den: 1 })) ?? [];
}

const general = (worst: readonly Flashes[]) => worst.find(({ kind }) => kind === 'general');
const plain = (...names: string[]): StackLayer[] => names.map((name) => ({ picture: name, opacityPercent: 100 }));
const inTurn = <T>(first: T, second: T, times: number): T[] =>
  Array.from({ length: times }, (_, index) => (index % 2 === 0 ? first : second));

const SCREEN = { width: 1024, height: 768 };
const BLACK: Colour = [0, 0, 0];
const WHITE: Colour = [255, 255, 255];
const ALL: Box = [0, 0, 4096, 4096];
/** Greys whose relative luminance is 0.2 and 0.31 as near as 8 bits have them: 0.1981 and 0.3095. */
const LOW: Colour = [123, 123, 123];
const HIGH: Colour = [151, 151, 151];

describe('how much of the field flashes', () => {
  const share = (width: number, height: number) => (100 * width * height) / (341 * 256);

  it.each<[string, Box, Colour, Colour, boolean]>([
    ['23.5 % off the grid', [101, 203, 143, 143], BLACK, WHITE, false],
    ['24.7 % off the grid', [101, 203, 147, 147], BLACK, WHITE, false],
    ['25.1 % off the grid', [101, 203, 148, 148], BLACK, WHITE, true],
    ['33.9 % of little contrast off the grid', [100, 200, 172, 172], LOW, HIGH, true],
    ['25.1 % of little contrast off the grid', [100, 200, 148, 148], LOW, HIGH, true],
    ['24.7 % of little contrast off the grid', [100, 200, 147, 147], LOW, HIGH, false],
  ])('%s', async (_what, box, ground, patch, refused) => {
    const worst = general(
      await flashesOf(
        SCREEN,
        {
          ground: [{ box: ALL, colour: ground }],
          patch: [
            { box: ALL, colour: ground },
            { box, colour: patch },
          ],
        },
        inTurn(plain('ground'), plain('patch'), 14),
        2,
      ),
    );
    expect(worst !== undefined).toBe(refused);
    if (worst) expect(Math.abs(worst.fieldPercent - share(box[2], box[3]))).toBeLessThan(0.3);
  });

  it('is told to a third of a hundredth of it, and what is over the limit is found, wherever a patch lies and however it is laid', async () => {
    const sizes: readonly Size[] = [SCREEN, { width: 1920, height: 1080 }, { width: 1280, height: 720 }];
    let [over, under] = [0, 0];
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom(...sizes),
        record({
          percent: fc.double({ min: 22, max: 40, noNaN: true }),
          aspect: fc.double({ min: 0.6, max: 1.6, noNaN: true }),
          x: fc.nat(300),
          y: fc.nat(300),
        }),
        fc.constantFrom<[Colour, Colour]>(
          [BLACK, WHITE],
          [LOW, HIGH],
          [
            [90, 40, 20],
            [200, 180, 160],
          ],
          [
            [255, 255, 255],
            [180, 190, 200],
          ],
        ),
        fc.boolean(),
        async (size, { percent, aspect, x, y }, [ground, patch], asLevel) => {
          const scale = Math.min(1024 / size.width, 768 / size.height);
          const area = (percent / 100) * 341 * 256;
          const [width, height] = [Math.round(Math.sqrt(area * aspect) / scale), Math.round(Math.sqrt(area / aspect) / scale)];
          // What is meant must lie within the rectangle of 341 × 256.
          fc.pre(width * scale < 341 && height * scale < 256);
          const box: Box = [x, y, width, height];
          const pictures = {
            ground: [{ box: ALL, colour: ground }],
            patch: asLevel
              ? [{ box, colour: patch }]
              : [
                  { box: ALL, colour: ground },
                  { box, colour: patch },
                ],
          };
          const shown = asLevel ? plain('ground', 'patch') : plain('patch');
          const worst = general(await flashesOf(size, pictures, inTurn(plain('ground'), shown, 10), 2));
          const truly = share(width * scale, height * scale);
          if (truly > 25) expect(worst).toBeDefined();
          if (truly < 24.6) expect(worst).toBeUndefined();
          if (worst) expect(Math.abs(worst.fieldPercent - truly)).toBeLessThan(0.34);
          if (worst) over++;
          else under++;
        },
      ),
      { numRuns: 60, seed: 77 },
    );
    expect(Math.min(over, under)).toBeGreaterThan(5);
  }, 120_000);
});

describe('flashes of stacks of pictures', () => {
  it('are seen where one picture is laid once and then twice', async () => {
    const size = { width: 256, height: 192 };
    // Black at half opacity on white paper is 0.21 in light, laid twice 0.05.
    const half: StackLayer = { picture: 'black', opacityPercent: 50 };
    const worst = await flashesOf(size, { black: [{ box: ALL, colour: BLACK }] }, inTurn([half], [half, half], 9), 3);
    expect(general(worst)).toMatchObject({ flashes: 4, fieldPercent: 100 });
  });

  it('of a level half there are reckoned as they are laid, in coded values', async () => {
    // Black at half opacity over white is 0.2140 in light, not a half: against 0.3050 no flash, against 0.3185 one.
    const size = { width: 256, height: 192 };
    const half: StackLayer = { picture: 'black', opacityPercent: 50 };
    const against = (value: number) =>
      flashesOf(
        size,
        { black: [{ box: ALL, colour: BLACK }], grey: [{ box: ALL, colour: [value, value, value] }] },
        inTurn([half], plain('grey'), 12),
        2,
      );
    expect(general(await against(150))).toBeUndefined();
    expect(general(await against(153))).toBeDefined();
    const inked = await flashesOf(
      size,
      { wash: [{ box: ALL, colour: [0, 0, 0, 127] }], grey: [{ box: ALL, colour: [150, 150, 150] }] },
      inTurn(plain('wash'), plain('grey'), 12),
      2,
    );
    expect(general(inked)).toBeUndefined();
  });

  it('are those of the definitions, pixel by pixel, whatever lies over what', async () => {
    // 24 × 18 px: a pixel is a cell, and the rectangle of 10° 8 × 6 of them.
    const size = { width: 24, height: 18 };
    const colour = fc.constantFrom<Colour>(
      BLACK,
      WHITE,
      LOW,
      HIGH,
      [255, 0, 0],
      [255, 0, 0, 128],
      [0, 60, 200],
      [250, 250, 250],
      [0, 0, 0, 90],
    );
    const box = fc.tuple(fc.nat(16), fc.nat(12), fc.integer({ min: 3, max: 24 }), fc.integer({ min: 3, max: 18 }));
    const boxes = fc.array(record({ box, colour }), { minLength: 1, maxLength: 2 });
    const layer = record({ picture: fc.constantFrom('a', 'b', 'c'), opacityPercent: fc.constantFrom(100, 100, 100, 60, 21) });
    const stack = fc.array(layer, { maxLength: 3 });
    const cast = fc.array(stack, { minLength: 2, maxLength: 3 });
    let found = 0;
    await fc.assert(
      fc.asyncProperty(
        record({ a: boxes, b: boxes, c: boxes }),
        cast,
        fc.array(fc.nat(2), { minLength: 12, maxLength: 20 }),
        fc.integer({ min: 1, max: 3 }),
        async (pictures, stacks, order, frames) => {
          const shown = order.map((index) => stacks[index % stacks.length] as StackLayer[]);
          const told = await flashesOf(size, pictures, shown, frames);
          const pixels = new Map(Object.entries(pictures).map(([name, list]) => [name, picture(size, list)]));
          const lights = new Map(stacks.map((layers) => [layers, laidPlainly(size, layers, pixels)]));
          const film = {
            columns: 24,
            rows: 18,
            cellScreenPx: 1024 / 24,
            framesPerSecond: 24,
            frames: shown.flatMap((layers) =>
              Array.from({ length: frames }, () => lights.get(layers as (typeof stacks)[number]) as Light[]),
            ),
          };
          for (const kind of ['general', 'red'] as const) {
            const truly = plainFlashes(film, kind);
            if (truly > 3) found++;
            expect(told.find((flashes) => flashes.kind === kind)?.flashes ?? 0, kind).toBe(truly > 3 ? truly : 0);
          }
        },
      ),
      { numRuns: 200, seed: 8 },
    );
    expect(found).toBeGreaterThan(20);
  }, 240_000);
});

/** Source-over in coded values on white, as canvases do it, in light. */
function laidPlainly({ width, height }: Size, layers: readonly StackLayer[], pixels: ReadonlyMap<string, Uint8ClampedArray>): Light[] {
  return Array.from({ length: width * height }, (_, pixel) => {
    let below: [number, number, number] = [1, 1, 1];
    for (const { picture: name, opacityPercent } of layers) {
      const rgba = pixels.get(name) as Uint8ClampedArray;
      const part = ((rgba[pixel * 4 + 3] as number) / 255) * (opacityPercent / 100);
      below = below.map((channel, index) =>
        linearOf((1 - part) * codedOf(channel) + (part * (rgba[pixel * 4 + index] as number)) / 255),
      ) as [number, number, number];
    }
    return below;
  });
}
