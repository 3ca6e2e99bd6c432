import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { LAY_MODES, type LayMode } from '@/core/document/finish';
import { layOver } from '@/core/finish/layOver';

const pixel = (...values: number[]) => Uint8ClampedArray.from(values);

/** What lies on one pixel after another was laid over it, both premultiplied. */
function laid(below: readonly number[], above: readonly number[], mode: LayMode, opacity: number): number[] {
  const backdrop = pixel(...below);
  layOver(backdrop, pixel(...above), mode, opacity, below[3] === 255 && above[3] === 255);
  return [...backdrop];
}

describe('laying over', () => {
  // Worked out by hand from W3C Compositing and Blending Level 1, 5.1 and 10.1, and Level 2 for plus-lighter.
  it.each<readonly [LayMode, readonly number[], readonly number[], number, readonly number[]]>([
    ['screen', [100, 0, 255, 255], [200, 50, 255, 255], 1, [222, 50, 255, 255]],
    ['screen', [100, 0, 255, 255], [200, 50, 255, 255], 0.5, [161, 25, 255, 255]],
    ['multiply', [100, 0, 255, 255], [200, 50, 128, 255], 1, [78, 0, 128, 255]],
    ['plus-lighter', [100, 0, 250, 255], [200, 50, 128, 255], 1, [255, 50, 255, 255]],
    ['plus-lighter', [100, 0, 250, 255], [200, 50, 128, 255], 0.25, [150, 13, 255, 255]],
    ['plus-lighter', [40, 20, 0, 100], [60, 0, 80, 120], 1, [100, 20, 80, 220]],
    ['plus-lighter', [200, 20, 0, 200], [100, 0, 80, 120], 1, [255, 20, 80, 255]],
    ['normal', [100, 50, 0, 128], [0, 64, 0, 64], 1, [75, 101, 0, 160]],
    ['normal', [100, 50, 0, 128], [0, 64, 0, 64], 0, [100, 50, 0, 128]],
    ['multiply', [0, 0, 0, 0], [10, 20, 30, 40], 1, [10, 20, 30, 40]],
  ])('%s of %o under %o at %d is %o', (mode, below, above, opacity, out) => expect(laid(below, above, mode, opacity)).toEqual(out));

  it('goes the same way with and without the table for what is opaque', () => {
    for (const mode of LAY_MODES) {
      for (let step = 0; step < 256; step += 5) {
        const [below, above] = [
          [step, 255 - step, (step * 7) % 256, 255],
          [(step * 3) % 256, step, 128, 255],
        ] as const;
        const slow = pixel(...below);
        layOver(slow, pixel(...above), mode, 0.4, false);
        const fast = laid(below, above, mode, 0.4);
        for (const [at, value] of fast.entries()) expect(Math.abs(value - (slow[at] as number))).toBeLessThanOrEqual(1);
      }
    }
  });

  it('comes to the same wherever pixels lie in memory, and of many alike side by side', () => {
    const values = Array.from({ length: 4 * 3000 }, (_, at) =>
      at % 4 === 3 ? 255 : (Math.floor(at / 4 / 7) * (31 + (at % 4) * 17)) % 256,
    );
    const above = Uint8ClampedArray.from(values.map((value, at) => (at % 4 === 3 ? 255 : 255 - ((value * 3) % 256))));
    for (const mode of LAY_MODES) {
      const whole = Uint8ClampedArray.from(values);
      const apart = new Uint8ClampedArray(values.length + 1).subarray(1);
      apart.set(values);
      layOver(whole, above, mode, 0.6, true);
      layOver(apart, above, mode, 0.6, true);
      expect(apart.every((value, at) => value === whole[at])).toBe(true);
    }
  });

  // The names an image library has for the same formulas.
  const THEIRS: Partial<Record<LayMode, import('sharp').Blend>> = {
    multiply: 'multiply',
    screen: 'screen',
    overlay: 'overlay',
    darken: 'darken',
    lighten: 'lighten',
    'hard-light': 'hard-light',
    difference: 'difference',
    exclusion: 'exclusion',
    'plus-lighter': 'add',
    normal: 'over',
  };

  it.each(Object.entries(THEIRS) as [LayMode, import('sharp').Blend][])(
    '%s of opaque pictures agrees with an image library',
    async (mode, blend) => {
      const count = 500;
      const shape = { raw: { width: count, height: 1, channels: 4 as const } };
      const bytes = (seed: number) =>
        Uint8ClampedArray.from({ length: count * 4 }, (_, at) => (at % 4 === 3 ? 255 : ((at + seed) * 2_654_435_761) >>> 23));
      const [below, above] = [bytes(1), bytes(70_001)];
      const theirs = await sharp(Buffer.from(below.buffer), shape)
        .composite([{ input: Buffer.from(above.buffer), ...shape, blend }])
        .raw()
        .toBuffer();
      for (const areOpaque of [true, false]) {
        const ours = below.slice();
        layOver(ours, above, mode, 1, areOpaque);
        for (const [at, value] of ours.entries()) expect(Math.abs(value - (theirs[at] as number))).toBeLessThanOrEqual(1);
      }
    },
  );
});
