import pixelmatch from 'pixelmatch';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { measurePicture } from '@/core/analysis/measure';
import { isNear, mayBeNear, nearness } from '@/core/analysis/nearness';

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
