import pixelmatch from 'pixelmatch';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import {
  type CellLayer,
  cellGrid,
  cellsApart,
  cellsOfPicture,
  everyCell,
  layCells,
  linearOf,
  luminanceOf,
  paperLight,
} from '@/core/raster/light';
import { measurePicture } from '@/core/raster/measure';
import { isNear, mayBeNear, nearness } from '@/core/raster/nearness';

const SIZE = { width: 640, height: 360 };
const svgOf = (inside: string) => Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" width="640" height="360">${inside}</svg>`);
const pixelsOf = async (inside: string) => new Uint8ClampedArray(await sharp(svgOf(inside)).ensureAlpha().raw().toBuffer());
const BODY = '<ellipse cx="300" cy="180" rx="120" ry="90" fill="#c4553a" stroke="#1d2a23" stroke-width="5"/>';

describe('what a picture measures', () => {
  it('agrees with an image library on ink, box and the extremes of its channels', async () => {
    const rgba = await pixelsOf(`${BODY}<circle cx="500" cy="90" r="30" fill="#37808a" fill-opacity="0.6"/>`);
    const { measure } = measurePicture(SIZE, rgba);
    const image = sharp(Buffer.from(rgba.buffer), { raw: { ...SIZE, channels: 4 } });
    const alpha = (await image.stats()).channels[3];
    expect(measure.inkPixels).toBeCloseTo((alpha?.sum ?? 0) / 255, 4);
    const trimmed = await sharp(svgOf(`${BODY}<circle cx="500" cy="90" r="30" fill="#37808a" fill-opacity="0.6"/>`))
      .trim({ background: { r: 0, g: 0, b: 0, alpha: 0 }, threshold: 0 })
      .raw()
      .toBuffer({ resolveWithObject: true });
    expect(measure.box).toEqual({
      left: -(trimmed.info.trimOffsetLeft ?? 0),
      top: -(trimmed.info.trimOffsetTop ?? 0),
      right: -(trimmed.info.trimOffsetLeft ?? 0) + trimmed.info.width,
      bottom: -(trimmed.info.trimOffsetTop ?? 0) + trimmed.info.height,
    });
    expect(measure.channels?.lowest).toBeLessThanOrEqual(0x1d);
    expect(measure.channels?.highest).toBe(0xc4);
  });

  it('has its middle where the shape is', async () => {
    const { measure } = measurePicture(SIZE, await pixelsOf('<rect x="100" y="40" width="60" height="20" fill="#000"/>'));
    expect(measure.centre).toEqual({ x: 130, y: 50 });
    expect(measure.inkPixels).toBe(1200);
  });

  it('is nothing when nothing is drawn', () =>
    expect(measurePicture(SIZE, new Uint8ClampedArray(SIZE.width * SIZE.height * 4))).toEqual({
      measure: { inkPixels: 0, centre: null, box: null, channels: null },
      blocks: null,
    }));

  it('has block means as an image library’s box filter', async () => {
    const rgba = await pixelsOf(BODY);
    const { blocks } = measurePicture(SIZE, rgba);
    // Blocks of 2 px on a picture of 640.
    const halved = await sharp(Buffer.from(rgba.buffer), { raw: { ...SIZE, channels: 4 } })
      .extractChannel(3)
      .resize(320, 180, { kernel: 'linear' })
      .raw()
      .toBuffer();
    let apart = 0;
    for (let row = 0; row < (blocks?.rows ?? 0); row++)
      for (let column = 0; column < (blocks?.columns ?? 0); column++)
        apart += Math.abs(
          (blocks?.rgba[(row * (blocks?.columns ?? 0) + column) * 4 + 3] ?? 0) -
            (halved[(row + (blocks?.top ?? 0)) * 320 + column + (blocks?.left ?? 0)] ?? 0),
        );
    expect(apart / ((blocks?.rows ?? 1) * (blocks?.columns ?? 1))).toBeLessThan(3);
  });
});

describe('nearly the same', () => {
  const pair = async (a: string, b: string) => {
    const [first, second] = [await pixelsOf(a), await pixelsOf(b)];
    const [one, other] = [measurePicture(SIZE, first), measurePicture(SIZE, second)];
    const changed = pixelmatch(first, second, undefined, SIZE.width, SIZE.height, { threshold: 0.1 });
    return { near: mayBeNear(one.measure, other.measure) && isNear(nearness(one.blocks, other.blocks), 10), changed };
  };

  it.each<[string, string, string, boolean]>([
    ['the same', BODY, BODY, true],
    ['with a speck', BODY, `${BODY}<rect x="30" y="30" width="2" height="2" fill="#000"/>`, true],
    ['a shade lighter', BODY, BODY.replace('#c4553a', '#c6573c'), true],
    ['moved by a pixel', BODY, BODY.replace('cx="300"', 'cx="301"'), false],
    [
      'with an eye closed',
      `${BODY}<circle cx="330" cy="150" r="9" fill="#fff"/>`,
      `${BODY}<rect x="321" y="149" width="18" height="3" fill="#1d2a23"/>`,
      false,
    ],
    ['grown a little', BODY, BODY.replace('rx="120"', 'rx="122"'), false],
    ['another picture', BODY, '<rect x="10" y="10" width="50" height="50" fill="#000"/>', false],
  ])('%s', async (_what, a, b, near) => expect((await pair(a, b)).near).toBe(near));

  it('finds nothing changed where an image comparison finds nothing changed', async () => {
    const { near, changed } = await pair(BODY, BODY);
    expect([near, changed]).toEqual([true, 0]);
  });

  it('is a distance: the same both ways', async () => {
    const [a, b] = [
      measurePicture(SIZE, await pixelsOf(BODY)).blocks,
      measurePicture(SIZE, await pixelsOf(BODY.replace('300', '320'))).blocks,
    ];
    expect(nearness(a, b)).toEqual(nearness(b, a));
    expect(nearness(a, null).changedBlocks).toBeGreaterThan(0);
    expect(nearness(null, null)).toEqual({ drawnBlocks: 0, changedBlocks: 0, largestLevels: 0 });
  });
});

describe('light', () => {
  const lightOf = (layers: readonly CellLayer[]) => {
    const light = paperLight(cellGrid(SIZE));
    layCells(light, layers, everyCell(light));
    return light;
  };
  const layerOf = (pixels: Uint8ClampedArray): CellLayer => ({
    cells: cellsOfPicture(SIZE, measurePicture(SIZE, pixels).blocks),
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
      for (let y = row * 8; y < row * 8 + 8; y++)
        for (let x = column * 8; x < column * 8 + 8; x++) {
          const at = (y * 640 + x) * 3;
          sum += luminanceOf(linearOf((data[at] ?? 0) / 255), linearOf((data[at + 1] ?? 0) / 255), linearOf((data[at + 2] ?? 0) / 255));
        }
      return sum / 64;
    };
    expect([light.columns, light.rows, light.cellPx]).toEqual([80, 45, 8]);
    for (let row = 0; row < 45; row++)
      for (let column = 0; column < 80; column++) {
        const at = row * 80 + column;
        const own = luminanceOf(light.red[at] ?? 0, light.green[at] ?? 0, light.blue[at] ?? 0);
        expect(Math.abs(own - cell(column, row))).toBeLessThan(0.03);
      }
  });

  it('blends and shines through as the W3C formulas have it', () => {
    const flat = (value: number) => new Uint8ClampedArray(SIZE.width * SIZE.height * 4).map((_, index) => (index % 4 === 3 ? 255 : value));
    const multiplied = lightOf([layerOf(flat(128)), { ...layerOf(flat(100)), blend: 'multiply' }]);
    expect(multiplied.red[0]).toBeCloseTo(linearOf((128 * 100) / 255 / 255), 4);
    const half = lightOf([{ ...layerOf(flat(0)), opacityPercent: 50 }]);
    expect(half.green[7]).toBeCloseTo(linearOf(0.5), 4);
  });

  it('changes in the cells in which two pictures differ, and in no other', async () => {
    const [a, b] = [layerOf(await pixelsOf(BODY)), layerOf(await pixelsOf(BODY.replace('cx="300"', 'cx="310"')))];
    const [one, other] = [lightOf([a]), lightOf([b])];
    const apart = new Set(cellsApart(a.cells, b.cells));
    expect(apart.size).toBeGreaterThan(20);
    for (let cell = 0; cell < 80 * 45; cell++)
      if (!apart.has(cell)) expect(Math.abs((one.red[cell] ?? 0) - (other.red[cell] ?? 0))).toBeLessThan(0.01);
    expect([...cellsApart(a.cells, a.cells)]).toEqual([]);
    layCells(one, [b], apart);
    for (let cell = 0; cell < 80 * 45; cell++) expect(Math.abs((one.red[cell] ?? 0) - (other.red[cell] ?? 0))).toBeLessThan(0.01);
  });
});
