import { describe, expect, it } from 'vitest';
import type { EffectKind, Finish } from '@/core/document/finish';
import { blurred } from '@/core/finish/blur';
import { finishPicture } from '@/core/finish/finishPicture';

const [WIDTH, HEIGHT] = [48, 32];
const OPAQUE = { isOpaque: true, shrink: 1 };

const finish = (...effects: EffectKind[]): Finish =>
  effects.map((effect, index) => ({ id: `e${index}`, inPreview: true, inHandover: true, ...effect }));

/** A picture of many colours; `alpha` gives each pixel's. */
const picture = (alpha: (pixel: number) => number) =>
  Uint8ClampedArray.from({ length: WIDTH * HEIGHT * 4 }, (_, at) => (at % 4 === 3 ? alpha(at >> 2) : (at * 2_654_435_761) >>> 23));

const onPaper = (rgba: Uint8ClampedArray) =>
  rgba.map((value, at) => {
    const alpha = (rgba[at - (at % 4) + 3] as number) / 255;
    return at % 4 === 3 ? 255 : Math.round(value * alpha + 255 * (1 - alpha));
  });

describe('a finish', () => {
  it('of nothing is the picture', () => {
    const rgba = picture(() => 255);
    expect(finishPicture(rgba.slice(), WIDTH, HEIGHT, [], OPAQUE)).toEqual(rgba);
  });

  it('is done in its order', () => {
    const [blur, hold] = [
      { kind: 'blur', deviationPx: 3 },
      { kind: 'holdColours', range: { from: 100, to: 140 } },
    ] as const;
    const rgba = picture(() => 255);
    const blurFirst = finishPicture(rgba.slice(), WIDTH, HEIGHT, finish(blur, hold), OPAQUE);
    const holdFirst = finishPicture(rgba.slice(), WIDTH, HEIGHT, finish(hold, blur), OPAQUE);
    expect(blurFirst).not.toEqual(holdFirst);
    const held = (pixels: Uint8ClampedArray) => pixels.every((value, at) => at % 4 === 3 || (value >= 100 && value <= 140));
    expect([held(blurFirst), held(holdFirst)]).toEqual([true, true]);
  });

  it('that glows is the picture screened with its own blur', () => {
    const rgba = picture(() => 255);
    const soft = blurred(rgba, WIDTH, HEIGHT, 4);
    const made = finishPicture(
      rgba.slice(),
      WIDTH,
      HEIGHT,
      finish({ kind: 'layOver', deviationPx: 4, mode: 'screen', opacityPercent: 30 }),
      OPAQUE,
    );
    made.forEach((value, at) => {
      if (at % 4 === 3) return;
      const [below, above] = [(rgba[at] as number) / 255, (soft[at] as number) / 255];
      expect(Math.abs(value - 255 * (below * 0.7 + 0.3 * (below + above - below * above)))).toBeLessThanOrEqual(0.5 + 1e-9);
    });
  });

  it('blurs with transparency as it blurs on paper', () => {
    const rgba = picture((pixel) => (pixel % 7 === 0 ? 0 : 120 + (pixel % 100)));
    const effects = finish({ kind: 'blur', deviationPx: 5 });
    const clear = finishPicture(rgba.slice(), WIDTH, HEIGHT, effects, { isOpaque: false, shrink: 1 });
    const paper = finishPicture(onPaper(rgba), WIDTH, HEIGHT, effects, OPAQUE);
    for (const [at, value] of onPaper(clear).entries()) expect(Math.abs(value - (paper[at] as number))).toBeLessThanOrEqual(2);
  });

  it('of a smaller preview blurs as much of the picture', () => {
    const rgba = picture(() => 255);
    const half = finishPicture(rgba.slice(), WIDTH, HEIGHT, finish({ kind: 'blur', deviationPx: 6 }), { isOpaque: true, shrink: 2 });
    expect(half).toEqual(finishPicture(rgba.slice(), WIDTH, HEIGHT, finish({ kind: 'blur', deviationPx: 3 }), OPAQUE));
  });
});
