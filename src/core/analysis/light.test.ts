import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { type LightLayer, layLight, paperLight, wholeGrid } from '@/core/analysis/layLight';
import { cellGrid, lightOfPicture, linearOf, luminanceOf } from '@/core/analysis/light';
import { boxAround, LightApart } from '@/core/analysis/lightApart';
import { measurePicture } from '@/core/analysis/measure';

const SIZE = { width: 640, height: 360 };
/** Side of a cell: 0.1° are 3.41 px of the screen, 2.13 px of a film that is shown 1.6 times as large. */
const CELL = 2;
const pixelsOf = async (inside: string) =>
  new Uint8ClampedArray(
    await sharp(Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" width="640" height="360">${inside}</svg>`))
      .ensureAlpha()
      .raw()
      .toBuffer(),
  );
const BODY = '<ellipse cx="300" cy="180" rx="120" ry="90" fill="#c4553a" stroke="#1d2a23" stroke-width="5"/>';

describe('light', () => {
  const lightOf = (layers: readonly LightLayer[]) => {
    const light = paperLight(cellGrid(SIZE));
    layLight(light, layers, wholeGrid(light));
    return light;
  };
  const layerOf = (pixels: Uint8ClampedArray): LightLayer => ({
    light: lightOfPicture(SIZE, pixels, measurePicture(SIZE, pixels).measure.box),
    opacityPercent: 100,
  });

  // WCAG 2.2 "relative luminance" and IEC 61966-2-1; contrast ratios of well-known pairs follow from it: white on
  // black 21:1, #777777 on white 4.48:1, #767676 on white 4.54:1 (WCAG 2.2 Understanding 1.4.3, from memory).
  it.each([
    [[255, 255, 255], 1],
    [[0, 0, 0], 0],
    [[255, 0, 0], 0.2126],
    [[0, 255, 0], 0.7152],
    [[0, 0, 255], 0.0722],
    [[10, 10, 10], 10 / 255 / 12.92],
  ])('of %o is %f', ([red = 0, green = 0, blue = 0], luminance) =>
    expect(luminanceOf(linearOf(red / 255), linearOf(green / 255), linearOf(blue / 255))).toBeCloseTo(luminance, 6),
  );

  it('gives the published contrasts', () => {
    const contrast = (grey: number) => 1.05 / (luminanceOf(linearOf(grey / 255), linearOf(grey / 255), linearOf(grey / 255)) + 0.05);
    expect(contrast(0)).toBeCloseTo(21, 9);
    expect(contrast(0x77)).toBeCloseTo(4.48, 2);
    expect(contrast(0x76)).toBeCloseTo(4.54, 2);
  });

  it('of pictures over each other is that of the composite an image library makes', async () => {
    const still = await pixelsOf('<rect width="640" height="360" fill="#d9e2c6"/><rect y="240" width="640" height="120" fill="#8fae72"/>');
    const sock = await pixelsOf(BODY);
    const light = lightOf([layerOf(still), layerOf(sock)]);
    const raw = (pixels: Uint8ClampedArray) => ({ input: Buffer.from(pixels.buffer), raw: { ...SIZE, channels: 4 as const } });
    const { data } = await sharp({ create: { ...SIZE, channels: 4, background: '#fff' } })
      .composite([raw(still), raw(sock)])
      .removeAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    const cell = (column: number, row: number) => {
      let sum = 0;
      for (let y = row * CELL; y < row * CELL + CELL; y++)
        for (let x = column * CELL; x < column * CELL + CELL; x++) {
          const at = (y * 640 + x) * 3;
          sum += luminanceOf(linearOf((data[at] ?? 0) / 255), linearOf((data[at + 1] ?? 0) / 255), linearOf((data[at + 2] ?? 0) / 255));
        }
      return sum / CELL ** 2;
    };
    expect([light.columns, light.rows, light.cellPx]).toEqual([320, 180, CELL]);
    let off = 0;
    for (let row = 0; row < 180; row++)
      for (let column = 0; column < 320; column++) {
        const at = row * 320 + column;
        const own = luminanceOf(light.red[at] ?? 0, light.green[at] ?? 0, light.blue[at] ?? 0);
        if (Math.abs(own - cell(column, row)) > 0.03) off++;
      }
    // Only where soft edges of the line run through a cell of four pixels: less than 2 % of them.
    expect(off).toBeLessThan(320 * 180 * 0.02);
  });

  it('blends and shines through as the W3C formulas have it', () => {
    const flat = (value: number) => new Uint8ClampedArray(SIZE.width * SIZE.height * 4).map((_, index) => (index % 4 === 3 ? 255 : value));
    const multiplied = lightOf([layerOf(flat(128)), { ...layerOf(flat(100)), blend: 'multiply' }]);
    expect(multiplied.red[0]).toBeCloseTo(linearOf((128 * 100) / 255 / 255), 3);
    const half = lightOf([{ ...layerOf(flat(0)), opacityPercent: 50 }]);
    expect(half.green[7]).toBeCloseTo(linearOf(0.5), 3);
  });

  it('changes in the blocks of cells in which two pictures differ, and in no other', async () => {
    const [a, b] = [layerOf(await pixelsOf(BODY)), layerOf(await pixelsOf(BODY.replace('cx="300"', 'cx="310"')))];
    const [one, other] = [lightOf([a]), lightOf([b])];
    const apart = new LightApart(cellGrid(SIZE));
    const blocks = new Set(apart.between(a.light, b.light) ?? []);
    expect(blocks.size).toBeGreaterThan(20);
    const blockOf = (cell: number) =>
      Math.floor(Math.floor(cell / one.columns) / 2) * (one.columns / 2) + Math.floor((cell % one.columns) / 2);
    for (let cell = 0; cell < one.columns * one.rows; cell++) if (!blocks.has(blockOf(cell))) expect(one.red[cell]).toBe(other.red[cell]);
    expect(apart.between(a.light, a.light)).toHaveLength(0);
    expect(apart.between(a.light, b.light)).toHaveLength(blocks.size);
    // Against nothing every block it covers may change: more than are listed one by one.
    expect(apart.between(a.light, null)).toBeNull();
    layLight(one, [b], a.light.box && b.light.box ? (boxAround(a.light.box, b.light.box) ?? wholeGrid(one)) : wholeGrid(one));
    expect(one.red).toEqual(other.red);
  });
});
