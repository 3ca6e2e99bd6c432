import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { buffersOf, type FilmLookedAt, packFilm, unpackFilm } from '@/core/analysis/packedFilm';
import { BLEND_MODES } from '@/core/document/blendModes';
import { type StackLayer, stackOf } from '@/core/render/stacks';
import { pictureOf } from '@/core/testing/sheets';

const picture = fc.constantFrom(...'abcdef').map(pictureOf);
const layer: fc.Arbitrary<StackLayer> = fc
  .record({ picture, opacityPercent: fc.integer({ min: 1, max: 100 }), blend: fc.constantFrom(...BLEND_MODES) })
  .map(({ blend, ...each }) => (blend === 'normal' ? each : { ...each, blend }));
const stack = fc.tuple(fc.array(layer, { maxLength: 4 }), fc.boolean()).map(([layers, finished]) => stackOf(layers, finished));
const plan = fc.array(stack, { minLength: 1, maxLength: 6 }).chain((stacks) =>
  fc.record({
    rate: fc.constantFrom({ num: 24, den: 1 }, { num: 30_000, den: 1001 }),
    stacks: fc.constant(stacks),
    runs: fc.array(
      fc.record({
        stack: fc.integer({ min: 0, max: stacks.length - 1 }),
        startFrame: fc.integer({ min: 0, max: 4_000_000 }),
        frames: fc.integer({ min: 1, max: 9000 }),
      }),
      { maxLength: 9 },
    ),
  }),
);
const film: fc.Arbitrary<FilmLookedAt> = fc.record({
  size: fc.constant({ width: 1280, height: 720 }),
  levels: fc.array(fc.array(picture, { maxLength: 5 }), { maxLength: 5 }),
  plan: fc.option(plan),
});

/** As values alone: a stack's key is worked out by the one that comes back. */
const written = ({ plan: of, ...rest }: FilmLookedAt) => ({
  ...rest,
  plan: of && { ...of, stacks: of.stacks.map(({ key, layers, finished }) => ({ key, layers, finished })) },
});

describe('a film made small for a worker', () => {
  it('comes back as it was, keys and all, after it was handed over', () => {
    fc.assert(
      fc.property(film, (of) => {
        const packed = packFilm(of);
        const handed = structuredClone(packed, { transfer: [...buffersOf(packed)] });
        expect(written(unpackFilm(handed))).toEqual(written(of));
      }),
    );
  });

  it('says each name once, and each layer', () => {
    const stacks = [
      stackOf([{ picture: pictureOf('a'), opacityPercent: 100 }], true),
      stackOf([{ picture: pictureOf('a'), opacityPercent: 50 }], true),
      stackOf([{ picture: pictureOf('a'), opacityPercent: 100 }], false),
    ];
    const runs = [0, 1, 2].map((each, index) => ({ stack: each, startFrame: index * 2, frames: 2 }));
    const packed = packFilm({
      size: { width: 8, height: 8 },
      levels: [[pictureOf('a')], [pictureOf('a')]],
      plan: { rate: { num: 24, den: 1 }, stacks, runs },
    });
    expect(packed.names).toEqual([pictureOf('a')]);
    expect([...packed.levels]).toEqual([0, 0]);
    expect([...(packed.plan?.layers ?? [])]).toEqual([0, 100, 0, 0, 50, 0]);
    const back = unpackFilm(packed).plan;
    const [layer, paler, again] = back?.stacks.map(({ layers }) => layers[0]) ?? [];
    expect(again).toBe(layer);
    expect(paler).not.toEqual(layer);
  });
});
