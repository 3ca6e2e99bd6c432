import { array, assert, asyncProperty, constantFrom, integer, record, uint8Array } from 'fast-check';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { digestOfPixels } from '@/core/raster/digest';
import { layPart } from '@/core/raster/layPart';
import { keepAll, keepPart } from '@/workers/ingest/heldPicture';

const SIZE = { width: 12, height: 7 };
const BYTES = SIZE.width * SIZE.height * 4;

const inked = (red: number) => new Uint8ClampedArray(BYTES).fill(255).map((value, at) => (at % 4 === 0 ? red : value));
const boxOf = ({ left, top, width, height }: { left: number; top: number; width: number; height: number }) => ({
  left,
  top,
  right: Math.min(SIZE.width, left + width),
  bottom: Math.min(SIZE.height, top + height),
});
const bytesIn = (box: ReturnType<typeof boxOf>) => (box.right - box.left) * (box.bottom - box.top) * 4;

afterEach(() => void vi.useRealTimers());

describe('a picture that is drawn on part by part', () => {
  it('is kept as the whole of its pixels would be, also where they are hidden or rubbed out', async () => {
    const somePart = record({
      left: integer({ min: 0, max: SIZE.width - 1 }),
      top: integer({ min: 0, max: SIZE.height - 1 }),
      width: integer({ min: 1, max: SIZE.width }),
      height: integer({ min: 1, max: SIZE.height }),
      alpha: constantFrom(0, 1, 128, 255),
      pixels: uint8Array({ minLength: BYTES, maxLength: BYTES }),
    });
    await assert(
      asyncProperty(array(somePart, { minLength: 1, maxLength: 6 }), async (parts) => {
        const whole = new Uint8ClampedArray(BYTES);
        let base: string | null = null;
        for (const { pixels, alpha, ...place } of parts) {
          const box = boxOf(place);
          const part = new Uint8ClampedArray(pixels.subarray(0, bytesIn(box))).map((value, at) => (at % 4 === 3 ? alpha : value));
          layPart(SIZE.width, whole, box, part);
          const kept = await keepPart(base, SIZE, box, part.slice());
          const all = await keepAll(SIZE, whole.slice(), false);
          expect(kept).toEqual({ isHeld: true, picture: all });
          base = all?.digest ?? null;
        }
      }),
    );
  });

  it('goes on from a picture whose pixels came as a whole, and from no other', async () => {
    const whole = inked(10);
    const digest = await digestOfPixels(SIZE.width, SIZE.height, whole);
    await keepAll(SIZE, whole.slice(), true);
    const box = { left: 2, top: 1, right: 4, bottom: 3 };
    expect(await keepPart('0'.repeat(64), SIZE, box, new Uint8ClampedArray(16))).toEqual({ isHeld: false });
    expect(await keepPart(digest, { width: 7, height: 12 }, box, new Uint8ClampedArray(16))).toEqual({ isHeld: false });
    const kept = await keepPart(digest, SIZE, box, new Uint8ClampedArray(16));
    layPart(SIZE.width, whole, box, new Uint8ClampedArray(16));
    expect(kept).toEqual({ isHeld: true, picture: await keepAll(SIZE, whole, false) });
    // It is another picture from then on.
    expect(await keepPart(digest, SIZE, box, new Uint8ClampedArray(16))).toEqual({ isHeld: false });
  });

  it('is the empty page once all is rubbed out', async () => {
    const box = { left: 0, top: 0, right: SIZE.width, bottom: SIZE.height };
    const full = await keepPart(null, SIZE, box, inked(90));
    const digest = full.isHeld ? (full.picture?.digest ?? null) : null;
    expect(digest).not.toBeNull();
    expect(await keepPart(digest, SIZE, box, new Uint8ClampedArray(BYTES))).toEqual({ isHeld: true, picture: null });
  });

  it('is let go of a minute after it was drawn on', async () => {
    vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] });
    const kept = await keepAll(SIZE, inked(20), true);
    const box = { left: 0, top: 0, right: 1, bottom: 1 };
    vi.advanceTimersByTime(59_000);
    const again = await keepPart(kept?.digest ?? null, SIZE, box, new Uint8ClampedArray([1, 2, 3, 255]));
    expect(again.isHeld).toBe(true);
    vi.advanceTimersByTime(59_000);
    const third = await keepPart(again.isHeld ? (again.picture?.digest ?? null) : null, SIZE, box, new Uint8ClampedArray([1, 2, 3, 255]));
    expect(third.isHeld).toBe(true);
    vi.advanceTimersByTime(60_000);
    expect(await keepPart(third.isHeld ? (third.picture?.digest ?? null) : null, SIZE, box, new Uint8ClampedArray(4))).toEqual({
      isHeld: false,
    });
  });
});
