import { createHash } from 'node:crypto';
import fc from 'fast-check';
import pixelmatch from 'pixelmatch';
import { describe, expect, it } from 'vitest';
import { boundsOfPixels } from '@/core/raster/bounds';
import { canonicalisePixels } from '@/core/raster/canonical';
import { differenceOfPixels } from '@/core/raster/difference';
import { digestOfBytes, digestOfPixels } from '@/core/raster/digest';
import { blockSide, changedBlocks, i420Planes, meanDifference, signatureOfPlanes } from '@/core/raster/signature';
import { i420Bytes, pixelsToI420 } from '@/core/raster/yuv';

const pixelsOf = (width: number, height: number) => fc.uint8Array({ minLength: width * height * 4, maxLength: width * height * 4 });

describe('digest', () => {
  it('is SHA-256 of the size and the pixels, as another implementation has it', async () => {
    const rgba = Uint8Array.from({ length: 24 }, (_, index) => index * 9);
    const head = Buffer.alloc(8);
    head.writeUInt32BE(3, 0);
    head.writeUInt32BE(2, 4);
    const expected = createHash('sha256').update(head).update(rgba).digest('hex');
    expect(await digestOfPixels(3, 2, rgba)).toBe(expected);
    expect(await digestOfPixels(2, 3, rgba)).not.toBe(expected);
  });

  it('of text is the published one (FIPS 180-2, example “abc”)', async () => {
    expect(await digestOfBytes('abc')).toBe('ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad');
  });

  // From 16,384 bytes on the machine's own is asked.
  it.each([0, 1, 16_383, 16_384, 100_001])('of %i bytes is what another implementation has', async (length) => {
    const bytes = Uint8Array.from({ length: length + 3 }, (_, index) => index * 31).subarray(3);
    expect(await digestOfBytes(bytes)).toBe(createHash('sha256').update(bytes).digest('hex'));
  });

  it('throws for the wrong number of pixels', async () => {
    await expect(digestOfPixels(2, 2, new Uint8Array(15))).rejects.toThrow('2 × 2');
  });

  it('takes pixels nobody sees for nothing, and changes no other', () => {
    const rgba = Uint8Array.of(10, 20, 30, 0, 10, 20, 30, 1, 0, 0, 0, 255, 9, 9, 9, 0);
    canonicalisePixels(rgba);
    expect([...rgba]).toEqual([0, 0, 0, 0, 10, 20, 30, 1, 0, 0, 0, 255, 0, 0, 0, 0]);
  });
});

describe('bounds', () => {
  it('are the smallest box around any alpha', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(6), fc.nat(4)), { maxLength: 5 }), (points) => {
        const rgba = new Uint8Array(7 * 5 * 4);
        for (const [x, y] of points) rgba[(y * 7 + x) * 4 + 3] = 1;
        const box = boundsOfPixels(7, 5, rgba);
        if (points.length === 0) expect(box).toBeNull();
        else {
          const xs = points.map(([x]) => x);
          const ys = points.map(([, y]) => y);
          expect(box).toEqual({ left: Math.min(...xs), top: Math.min(...ys), right: Math.max(...xs) + 1, bottom: Math.max(...ys) + 1 });
        }
      }),
    );
  });
});

describe('difference', () => {
  it('counts the pixels an independent comparison counts', () => {
    fc.assert(
      fc.property(pixelsOf(6, 5), fc.array(fc.nat(29), { maxLength: 6 }), (a, changed) => {
        for (let index = 3; index < a.length; index += 4) a[index] = 255;
        const b = a.slice();
        for (const pixel of changed) b[pixel * 4] = (a[pixel * 4] as number) ^ 255;
        const expected = pixelmatch(a, b, undefined, 6, 5, { threshold: 0, includeAA: true });
        expect(differenceOfPixels(a, b).changedPixels).toBe(expected);
        expect(new Set(changed).size).toBe(expected);
      }),
    );
  });

  it('says how far the furthest is, and throws for other sizes', () => {
    expect(differenceOfPixels(Uint8Array.of(0, 0, 0, 0, 9, 9, 9, 9), Uint8Array.of(0, 0, 0, 0, 9, 4, 9, 10))).toEqual({
      changedPixels: 1,
      largest: 5,
    });
    expect(() => differenceOfPixels(new Uint8Array(4), new Uint8Array(8))).toThrow('4 and 8');
  });
});

describe('BT.709 limited range (ITU-R BT.709-6, 8 bit)', () => {
  const flat = (red: number, green: number, blue: number) => {
    const rgba = new Uint8Array(16);
    for (let index = 0; index < 16; index += 4) rgba.set([red, green, blue, 255], index);
    const out = new Uint8Array(i420Bytes(2, 2));
    pixelsToI420(2, 2, rgba, 'RGBA', out);
    return [out[0], out[4], out[5]];
  };
  it.each([
    ['black', 0, 0, 0, [16, 128, 128]],
    ['white', 255, 255, 255, [235, 128, 128]],
    ['grey', 128, 128, 128, [126, 128, 128]],
    ['red', 255, 0, 0, [63, 102, 240]],
    ['green', 0, 255, 0, [173, 42, 26]],
    ['blue', 0, 0, 255, [32, 240, 118]],
  ] as const)('%s', (_name, red, green, blue, expected) => expect(flat(red, green, blue)).toEqual(expected));

  it('is the standard’s equations to within a rounding, for any colours', () => {
    fc.assert(
      fc.property(pixelsOf(4, 2), (rgba) => {
        const out = new Uint8Array(i420Bytes(4, 2));
        pixelsToI420(4, 2, rgba, 'RGBA', out);
        const lumaOf = (red: number, green: number, blue: number) => 0.2126 * red + 0.7152 * green + 0.0722 * blue;
        for (let pixel = 0; pixel < 8; pixel++) {
          const [red = 0, green = 0, blue = 0] = rgba.subarray(pixel * 4, pixel * 4 + 3);
          expect(Math.abs((out[pixel] as number) - (16 + (219 / 255) * lumaOf(red, green, blue)))).toBeLessThan(0.51);
        }
        for (let quad = 0; quad < 2; quad++) {
          const mean = [0, 1, 2].map(
            (channel) => [0, 1, 4, 5].reduce((sum, offset) => sum + (rgba[(quad * 2 + offset) * 4 + channel] as number), 0) / 4,
          );
          const [red = 0, green = 0, blue = 0] = mean;
          const luma = lumaOf(red, green, blue);
          expect(Math.abs((out[8 + quad] as number) - (128 + ((224 / 255) * (blue - luma)) / 1.8556))).toBeLessThan(0.52);
          expect(Math.abs((out[10 + quad] as number) - (128 + ((224 / 255) * (red - luma)) / 1.5748))).toBeLessThan(0.52);
        }
      }),
    );
  });

  it('is the same for the same picture in either order of bytes', () => {
    fc.assert(
      fc.property(pixelsOf(4, 4), fc.boolean(), (rgba, flat) => {
        if (flat) for (let index = 4; index < rgba.length; index++) rgba[index] = rgba[index % 4] as number;
        const bgra = Uint8Array.from(rgba, (_, index) => rgba[index % 4 === 0 ? index + 2 : index % 4 === 2 ? index - 2 : index] as number);
        const [first, second] = [new Uint8Array(i420Bytes(4, 4)), new Uint8Array(i420Bytes(4, 4))];
        pixelsToI420(4, 4, rgba, 'RGBA', first);
        pixelsToI420(4, 4, bgra, 'BGRA', second);
        expect(second).toEqual(first);
      }),
    );
  });

  it('needs even sides', () => expect(() => pixelsToI420(3, 2, new Uint8Array(24), 'RGBA', new Uint8Array(9))).toThrow('even sides'));
});

describe('signature', () => {
  const flatPicture = (width: number, height: number, value: number) => new Uint8Array(i420Bytes(width, height)).fill(value);

  it.each([
    [320, 180, 2],
    [1280, 720, 4],
    [1920, 1080, 8],
    [3840, 2160, 16],
    [64, 64, 2],
  ])('of %i × %i has blocks of %i', (width, height, side) => expect(blockSide(width, height)).toBe(side));

  it('of a flat picture is that value throughout, also where blocks are cut off', () => {
    const signature = signatureOfPlanes(flatPicture(1290, 722, 77), i420Planes(1290, 722));
    expect(new Set(signature)).toEqual(new Set([77]));
  });

  it('is the mean of each block, rounded, as worked out sample by sample', () => {
    fc.assert(
      fc.property(
        fc.constantFrom([1280, 720], [656, 368], [640, 360], [1000, 600], [2560, 1440]),
        fc.integer(),
        ([width = 0, height = 0], seed) => {
          const data = Uint8Array.from({ length: i420Bytes(width, height) }, (_, index) => Math.imul(index + seed, 2654435761) >>> 24);
          const signature = signatureOfPlanes(data, i420Planes(width, height));
          const side = blockSide(width, height);
          const mean = (offset: number, stride: number, blockWidth: number) => {
            let sum = 0;
            for (let y = 0; y < blockWidth; y++) for (let x = 0; x < blockWidth; x++) sum += data[offset + y * stride + x] as number;
            return Math.floor(sum / blockWidth ** 2 + 0.5);
          };
          const columns = width / side;
          expect(signature[columns + 3]).toBe(mean(side * width + 3 * side, width, side));
          const chromaStart = columns * Math.ceil(height / side);
          expect(signature[chromaStart + 5]).toBe(mean(width * height + (5 * side) / 2, width / 2, side / 2));
        },
      ),
      { numRuns: 12 },
    );
  });

  it('moves where a line a pixel wide is drawn', () => {
    const before = flatPicture(1280, 720, 200);
    const after = before.slice();
    for (let y = 100; y < 140; y++) after[y * 1280 + 333] = 0;
    const planes = i420Planes(1280, 720);
    const [a, b] = [signatureOfPlanes(before, planes), signatureOfPlanes(after, planes)];
    expect(changedBlocks(a, b)).toHaveLength(10);
    expect(changedBlocks(a, a)).toEqual([]);
  });

  it('reads planes that lie further apart than they are wide', () => {
    const tight = Uint8Array.from({ length: i420Bytes(8, 4) }, (_, index) => index * 5);
    const loose = new Uint8Array(400);
    for (let y = 0; y < 4; y++) loose.set(tight.subarray(y * 8, y * 8 + 8), 10 + y * 20);
    for (let y = 0; y < 2; y++) {
      loose.set(tight.subarray(32 + y * 4, 36 + y * 4), 200 + y * 10);
      loose.set(tight.subarray(40 + y * 4, 44 + y * 4), 300 + y * 10);
    }
    const planes = [
      { offset: 10, stride: 20, width: 8, height: 4 },
      { offset: 200, stride: 10, width: 4, height: 2 },
      { offset: 300, stride: 10, width: 4, height: 2 },
    ] as const;
    expect(signatureOfPlanes(loose, planes)).toEqual(signatureOfPlanes(tight, i420Planes(8, 4)));
  });

  it('compares by the mean, and calls other sizes wholly different', () => {
    expect(meanDifference(Uint8Array.of(1, 2, 3, 4), Uint8Array.of(1, 4, 3, 2))).toBe(1);
    expect(meanDifference(Uint8Array.of(1), Uint8Array.of(1, 2))).toBe(255);
  });
});
