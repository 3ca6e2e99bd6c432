import { describe, expect, it } from 'vitest';
import { type Inspection, Inspector, type PictureLookup } from '@/core/analysis/inspector';
import type { RenderRun } from '@/core/render/renderPlan';
import type { PictureStack } from '@/core/render/stacks';
import { pictureOf } from '@/core/testing/sheets';

const SIZE = { width: 256, height: 192 };
const RATE = { num: 24, den: 1 };

/** A picture with a filled box. */
function boxed(box: readonly [number, number, number, number], colour: readonly number[]): Uint8ClampedArray {
  const [left, top, width, height] = box;
  const rgba = new Uint8ClampedArray(SIZE.width * SIZE.height * 4);
  for (let y = top; y < top + height; y++) for (let x = left; x < left + width; x++) rgba.set([...colour, 255], (y * SIZE.width + x) * 4);
  return rgba;
}

const PICTURES = new Map<string, Uint8ClampedArray>([
  [pictureOf('a'), boxed([0, 0, 256, 192], [0, 0, 0])],
  [pictureOf('b'), boxed([20, 20, 60, 40], [196, 85, 58])],
  [pictureOf('c'), boxed([20, 20, 60, 40], [197, 86, 58])],
  [pictureOf('d'), boxed([120, 60, 60, 90], [30, 90, 200])],
]);

const stackOf = (letters: string): PictureStack => ({
  key: letters,
  finished: true,
  layers: [...letters].map((letter) => ({ picture: pictureOf(letter), opacityPercent: 100 })),
});

/** A film of stacks, each so many frames. */
function filmOf(words: readonly string[], frames: number): { stacks: PictureStack[]; runs: RenderRun[] } {
  const names = [...new Set(words)];
  return {
    stacks: names.map(stackOf),
    runs: words.map((word, index) => ({ stack: names.indexOf(word), startFrame: index * frames, frames })),
  };
}

const inspectionOf = (words: readonly string[], frames: number): Inspection => ({
  size: SIZE,
  levels: [[...new Set(words.join(''))].map(pictureOf)],
  plan: { size: SIZE, rate: RATE, frames: words.length * frames, firstNumber: 1, finish: [], ...filmOf(words, frames) },
});

const lookOf =
  (looked: string[], troubles: ReadonlyMap<string, PictureLookup> = new Map()) =>
  async (digest: string): Promise<PictureLookup> => {
    looked.push(digest[0] ?? '');
    if (troubles.has(digest)) return troubles.get(digest) ?? null;
    return { rgba: (PICTURES.get(digest) as Uint8ClampedArray).slice() };
  };

describe('looking at a film', () => {
  it('measures each picture once, finds what is near, and after an edit looks at what is new alone', async () => {
    const looked: string[] = [];
    const inspector = new Inspector(lookOf(looked));
    const facts = await inspector.inspect(inspectionOf(['b', 'c', 'b'], 2));
    expect(looked).toEqual(['b', 'c']);
    expect(facts?.measures.get(pictureOf('b'))?.centre).toEqual({ x: 50, y: 40 });
    expect([...(facts?.near.keys() ?? [])]).toEqual([`${pictureOf('b')} ${pictureOf('c')}`]);
    await inspector.inspect(inspectionOf(['b', 'd', 'c'], 2));
    expect(looked).toEqual(['b', 'c', 'd']);
  });

  it('says which pictures are missing or broken, and asks again for those the server didn’t answer', async () => {
    const troubles = new Map<string, PictureLookup>([
      [pictureOf('b'), { trouble: 'missing' }],
      [pictureOf('c'), { trouble: 'broken' }],
      [pictureOf('d'), null],
    ]);
    const inspector = new Inspector(lookOf([], troubles));
    const facts = await inspector.inspect(inspectionOf(['b', 'c', 'd'], 2));
    expect([...(facts?.troubles ?? [])]).toEqual([
      [pictureOf('b'), 'missing'],
      [pictureOf('c'), 'broken'],
    ]);
    troubles.clear();
    expect((await inspector.inspect(inspectionOf(['b', 'c', 'd'], 2)))?.measures.size).toBe(3);
  });

  it('stops when told, and keeps what it saw', async () => {
    const looked: string[] = [];
    const inspector = new Inspector(lookOf(looked));
    let asked = 0;
    expect(await inspector.inspect(inspectionOf(['b', 'c', 'd'], 2), undefined, () => asked++ > 0)).toBeNull();
    expect(looked).toEqual(['b']);
    await inspector.inspect(inspectionOf(['b', 'c', 'd'], 2));
    expect(looked).toEqual(['b', 'c', 'd']);
  });

  it('tells how far it is, and what will be asked for next', async () => {
    const told: string[] = [];
    const inspector = new Inspector(lookOf([]), (digests) => told.push(digests.map((digest) => digest[0]).join('')));
    await inspector.inspect(inspectionOf(['b', 'c', 'd'], 2), (done, all) => told.push(`${done}/${all}`));
    expect(told).toEqual(['bcd', '1/3', 'cd', '2/3', 'd', '3/3']);
  });

  it('tells the flashes of what the reel shows', async () => {
    const inspector = new Inspector(lookOf([]));
    const flashing = Array.from({ length: 30 }, (_, index) => (index % 2 === 0 ? 'b' : 'a'));
    const facts = await inspector.inspect(inspectionOf(flashing, 2));
    expect(facts?.flashes.map(({ kind, flashes }) => [kind, flashes])).toEqual([['general', 6]]);
    expect((await inspector.inspect(inspectionOf(['b', 'a', 'b'], 2)))?.flashes).toEqual([]);
  });

  it('can be stopped while it walks a film that flashes all over', async () => {
    let rests = 0;
    const inspector = new Inspector(lookOf([]), undefined, async () => {
      rests++;
    });
    const flashing = Array.from({ length: 120 }, (_, index) => (index % 2 === 0 ? 'b' : 'a'));
    expect(await inspector.inspect(inspectionOf(flashing, 2), undefined, () => rests > 2)).toBeNull();
    expect(rests).toBe(3);
  });

  it('forgets pictures of another size', async () => {
    const looked: string[] = [];
    const inspector = new Inspector(async (digest, size) => {
      looked.push(digest[0] ?? '');
      return { rgba: new Uint8ClampedArray(size.width * size.height * 4).fill(9) };
    });
    await inspector.inspect(inspectionOf(['b'], 2));
    await inspector.inspect({ ...inspectionOf(['b'], 2), size: { width: 64, height: 48 } });
    expect(looked).toEqual(['b', 'b']);
  });
});
