import { describe, expect, it } from 'vitest';
import { MOST_CLIP_FRAMES } from '@/core/analysis/flashParts';
import { type Inspection, Inspector, type PictureLookup } from '@/core/analysis/inspector';
import { readClipPicture } from '@/core/render/clipPicture';
import type { RenderRun } from '@/core/render/renderPlan';
import type { PictureStack } from '@/core/render/stacks';
import { pictureOf } from '@/core/testing/sheets';

const SIZE = { width: 256, height: 192 };
const SMALL = { width: 64, height: 48 };
const RATE = { num: 24, den: 1 };

/** A picture with a filled box. */
function boxed(box: readonly [number, number, number, number], colour: readonly number[], size = SIZE): Uint8ClampedArray {
  const [left, top, width, height] = box;
  const rgba = new Uint8ClampedArray(size.width * size.height * 4);
  for (let y = top; y < top + height; y++) for (let x = left; x < left + width; x++) rgba.set([...colour, 255], (y * size.width + x) * 4);
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
  clips: 'decoded',
  plan: { rate: RATE, ...filmOf(words, frames) },
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

/** A film of `before` still frames, a clip of so many frames that flashes from `from` to `to` (exclusive) every other frame, and `after` still frames. */
function filmWithClip(before: number, clipFrames: number, [from, to]: readonly [number, number], after: number): Inspection {
  const clip = Array.from({ length: clipFrames }, (_, frame) => ({
    picture: `clip:${'7'.repeat(64)}:${frame}:${frame * 40_000}`,
    isLight: frame >= from && frame < to && frame % 2 === 1,
  }));
  const stacks: PictureStack[] = [
    stackOf('b'),
    ...clip.map(({ picture }) => ({ key: picture, layers: [{ picture, opacityPercent: 100 }], finished: true })),
  ];
  const runs: RenderRun[] = [
    { stack: 0, startFrame: 0, frames: before },
    ...clip.map((_, frame) => ({ stack: frame + 1, startFrame: before + frame, frames: 1 })),
    { stack: 0, startFrame: before + clipFrames, frames: after },
  ];
  return {
    size: SMALL,
    levels: [[pictureOf('b')]],
    clips: 'decoded',
    plan: { rate: RATE, stacks, runs: runs.filter((run) => run.frames > 0) },
  };
}

const grey = (level: number) => boxed([0, 0, SMALL.width, SMALL.height], [level, level, level], SMALL);
const LIGHT = grey(240);
const DARK = grey(10);

/** Looks at frames of clips that are light on odd frames from `from` to `to`. */
const lookAtClip =
  (looked: string[], [from, to]: readonly [number, number]) =>
  async (picture: string): Promise<PictureLookup> => {
    looked.push(picture);
    const frame = readClipPicture(picture)?.frame;
    if (frame === undefined) return { rgba: DARK.slice() };
    return { rgba: (frame >= from && frame < to && frame % 2 === 1 ? LIGHT : DARK).slice() };
  };

describe('a film with clips', () => {
  it.each<[string, readonly [number, number]]>([
    ['at its start', [0, 30]],
    ['across two parts of it', [MOST_CLIP_FRAMES - 14, MOST_CLIP_FRAMES + 14]],
    ['at its end', [470, 500]],
  ])('is looked over in parts, and flashes %s are found where they are', async (_where, flashing) => {
    const looked: string[] = [];
    const inspector = new Inspector(lookAtClip(looked, flashing));
    const facts = await inspector.inspect(filmWithClip(30, 500, flashing, 30));
    const found = facts?.flashes.find(({ kind }) => kind === 'general');
    // A change on each of 24 frames are twelve flashes in the second that holds most.
    expect(found?.flashes).toBe(12);
    expect(found?.fromFrame).toBeGreaterThanOrEqual(30 + flashing[0]);
    expect(found?.toFrame).toBeLessThanOrEqual(30 + flashing[1]);
    // The drawing once, and each frame once: those of the second between two parts are not decoded again.
    expect(looked.length).toBe(501);
  });

  it('is not decoded again for an edit elsewhere, and where it moved to it flashes there', async () => {
    const looked: string[] = [];
    const inspector = new Inspector(lookAtClip(looked, [250, 280]));
    const first = await inspector.inspect(filmWithClip(30, 300, [250, 280], 10));
    looked.length = 0;
    const moved = await inspector.inspect(filmWithClip(42, 300, [250, 280], 90));
    // The part before the clip ends holds frames of it that follow the drawing; what lies in the middle is known.
    expect(moved?.flashes.map((each) => each.fromFrame)).toEqual(first?.flashes.map((each) => each.fromFrame + 12));
    expect(looked.filter((picture) => readClipPicture(picture) !== null).length).toBeLessThan(MOST_CLIP_FRAMES + 60);
    looked.length = 0;
    await inspector.inspect(filmWithClip(42, 300, [250, 280], 90));
    expect(looked).toEqual([]);
  });

  it('whose clip can’t be decoded is asked for again, and says nothing of it', async () => {
    let isThere = false;
    const inspector = new Inspector(async (picture) => {
      if (readClipPicture(picture) && !isThere) return { trouble: 'missing' };
      return lookAtClip([], [0, 30])(picture);
    });
    expect((await inspector.inspect(filmWithClip(30, 40, [0, 30], 0)))?.flashes).toEqual([]);
    isThere = true;
    expect((await inspector.inspect(filmWithClip(30, 40, [0, 30], 0)))?.flashes.length).toBe(1);
  });

  it('is looked at without its clips first, and tells what is known of them meanwhile', async () => {
    const looked: string[] = [];
    const inspector = new Inspector(lookAtClip(looked, [0, 30]));
    const film = filmWithClip(30, 40, [0, 30], 0);
    expect((await inspector.inspect({ ...film, clips: 'later' }))?.flashes).toEqual([]);
    expect(looked).toEqual([pictureOf('b')]);
    const decoded = await inspector.inspect(film);
    expect(decoded?.flashes).toHaveLength(1);
    expect(await inspector.inspect({ ...film, clips: 'later' })).toMatchObject({ flashes: decoded?.flashes });
    expect(looked).toHaveLength(41);
  });

  it('tells how far it is over drawings and frames of clips', async () => {
    const told: string[] = [];
    const inspector = new Inspector(lookAtClip([], [0, 0]));
    await inspector.inspect(filmWithClip(4, 3, [0, 0], 0), (done, all) => told.push(`${done}/${all}`));
    expect(told).toEqual(['1/4', '2/4', '3/4', '4/4']);
  });
});
