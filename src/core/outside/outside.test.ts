import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { stepEvenly, steppedSource } from '@/core/conform/evenStepping';
import { layShared } from '@/core/outside/agreement';
import { blocksOfRgba } from '@/core/outside/blocks';
import { KnownPictures } from '@/core/outside/knownPictures';
import { type ColourReading, flatOf, lookOf, nearbyAt, readAs } from '@/core/outside/look';
import { loopFrames } from '@/core/outside/loopFrames';
import { pictureKind } from '@/core/outside/pictureKind';
import { heldInPeriod, regularRepeats } from '@/core/outside/regular';
import { sharedPictures } from '@/core/outside/samePictures';
import { FrameWatch, REPEAT } from '@/core/outside/seenFrames';
import { fileGroups, sequenceNumbers } from '@/core/outside/sequence';
import { LoudnessCurve, soundShift } from '@/core/outside/soundShift';
import { KNOWN_RATES, type Rate } from '@/core/time/rate';

const [COLUMNS, ROWS] = [320, 180];

/** A page with a bar of a grey at a place, as blocks. */
function page(left: number, grey = 30, paper = 235): { columns: number; rows: number; planes: Uint8Array } {
  const planes = new Uint8Array(COLUMNS * ROWS * 3).fill(128);
  planes.fill(paper, 0, COLUMNS * ROWS);
  for (let row = 40; row < 120; row++) planes.fill(grey, row * COLUMNS + left, row * COLUMNS + left + 8);
  return { columns: COLUMNS, rows: ROWS, planes };
}

const seenOf = (lefts: readonly number[]) => {
  const watch = new FrameWatch(lefts.length);
  for (const left of lefts) watch.take(page(left), 1280, `${left}`);
  return watch.seen;
};

/** Which of the looks are of one picture. */
function idsOf(looks: readonly Uint8Array[]): readonly number[] {
  const known = new KnownPictures(looks);
  return looks.map((look) => known.idOf(look, nearbyAt(1280)));
}

describe('looks', () => {
  it('are the same whatever the size of the blocks', () => {
    const small = new Uint8Array(160 * 90 * 3);
    const large = page(100).planes;
    for (let plane = 0; plane < 3; plane++)
      for (let row = 0; row < 90; row++)
        for (let column = 0; column < 160; column++) {
          const at = (x: number, y: number) => large[plane * COLUMNS * ROWS + (2 * row + y) * COLUMNS + 2 * column + x] as number;
          small[(plane * 90 + row) * 160 + column] = (at(0, 0) + at(1, 0) + at(0, 1) + at(1, 1)) / 4;
        }
    const [a, b] = [lookOf(page(100), false), lookOf({ columns: 160, rows: 90, planes: small }, false)];
    expect(idsOf([a, b])).toEqual([0, 0]);
  });

  it('part where a bar has moved by four blocks, and by less where it is thin', () => {
    const of = (left: number) => lookOf(page(left), false);
    expect(idsOf([of(100), of(100), of(104)])).toEqual([0, 0, 1]);
  });

  it('tell a picture of one colour, whatever coding left in it', () => {
    const flat = (level: number, speck = 0) => {
      const planes = new Uint8Array(COLUMNS * ROWS * 3).fill(128);
      planes.fill(level, 0, COLUMNS * ROWS);
      planes.fill(level + speck, 500, 600);
      return flatOf({ columns: COLUMNS, rows: ROWS, planes });
    };
    expect([flat(16), flat(16, 20), flat(235), flat(110)]).toEqual(['black', 'black', 'white', 'one colour']);
    expect(flatOf(page(100))).toBeNull();
    expect(flat(16, 80)).toBeNull();
  });

  // ITU-R BT.709-6 and BT.601-7: luma of full red, green and blue in limited range, rounded (published, item 3.2 and 2.5.1).
  it.each([
    [[255, 0, 0], 63, 81],
    [[0, 255, 0], 173, 145],
    [[0, 0, 255], 32, 41],
  ] as const)('of %j turn from BT.709 (luma %i) to BT.601 (luma %i) and back', (colour, luma709, luma601) => {
    const blocks = blocksOfRgba(1, 1, Uint8Array.of(...colour, 255));
    expect(blocks.planes[0]).toBe(luma709);
    const look = lookOf(blocks, false);
    const turned = readAs(look, 'BT.709 for BT.601');
    expect(Math.abs((turned[0] as number) - luma601)).toBeLessThanOrEqual(1);
    expect(Math.abs((readAs(turned, 'BT.601 for BT.709')[0] as number) - luma709)).toBeLessThanOrEqual(1);
    expect(readAs(look, 'as it is' satisfies ColourReading)).toBe(look);
  });
});

describe('frames as they are seen', () => {
  it('repeat exactly, nearly, or not at all', () => {
    const watch = new FrameWatch(4);
    watch.take(page(100), 1280, 'a');
    watch.take(page(100), 1280, 'a');
    watch.take(page(100, 33), 1280, 'b');
    watch.take(page(140), 1280, 'c');
    expect([...watch.seen.repeats]).toEqual([REPEAT.none, REPEAT.exact, REPEAT.near, REPEAT.none]);
    expect([...watch.seen.pictureOf]).toEqual([0, 0, 0, 1]);
  });

  it('are found again in another film, in any order', () => {
    const [plan, file] = [seenOf([20, 60, 60, 100, 140]), seenOf([140, 60, 20, 180])];
    const shared = sharedPictures(plan, file, { widthPx: 1280, reading: 'as it is' });
    expect(shared.file[0]).toBe(shared.plan[4]);
    expect(shared.file[1]).toBe(shared.plan[1]);
    expect(shared.plan[1]).toBe(shared.plan[2]);
    expect([...shared.plan]).not.toContain(shared.file[3]);
  });

  it('of a very long film are kept small', () => {
    const watch = new FrameWatch(864_000);
    watch.take(page(20), 1280, null);
    expect(watch.seen.pictures.lookBytes).toBe(144);
    const shared = sharedPictures(seenOf([20, 60]), watch.seen, { widthPx: 1280, reading: 'as it is' });
    expect(shared.file[0]).toBe(shared.plan[0]);
  });

  it('of a loop stand as long as it says, at any rate, with nothing added up', () => {
    const seen = seenOf([20, 60, 100]);
    // 4, 4 and 5 hundredths are a frame each at 24 (worked example).
    expect([...loopFrames(seen, [40_000, 40_000, 50_000], { num: 24, den: 1 }).pictureOf]).toEqual([0, 1, 2]);
    expect([...loopFrames(seen, [80_000, 90_000, 80_000], { num: 24, den: 1 }).pictureOf]).toEqual([0, 0, 1, 1, 2, 2]);
  });
});

describe('even stepping', () => {
  const rates = KNOWN_RATES.filter(({ rate }) => rate.num / rate.den >= 23 && rate.den === 1).map(({ rate }) => rate);
  const pairs = rates.flatMap((from) => rates.filter((to) => from !== to).map((to) => [from, to] as const));
  const simple = ([from, to]: readonly [Rate, Rate]) =>
    from.num !== 2 * to.num && Math.abs(from.num - to.num) * 2 <= Math.max(from.num, to.num);

  it.each(pairs.filter(simple).map(([from, to]) => ({ from, to, name: `${from.num} to ${to.num}` })))(
    'from $name is told by its faults',
    ({ from, to }) => {
      const plan = Uint32Array.from({ length: 240 }, (_, frame) => frame);
      const file = Uint32Array.from({ length: stepEvenly(240, from, to).frames }, (_, frame) => steppedSource(frame, from, to));
      const beside = layShared({ plan, file }, () => null, from);
      if (to.num > from.num && to.num < 2 * from.num && to.num % (to.num - from.num) === 0) {
        expect(beside.stepped?.kind).toBe('repeats');
        expect(beside.stepped?.rates?.to).toEqual(to);
      } else if (to.num < from.num && from.num % (from.num - to.num) === 0) expect(beside.stepped?.kind).toBe('skips');
    },
  );

  it('is not told of faults that come as they like', () => {
    const plan = Uint32Array.from({ length: 60 }, (_, frame) => frame);
    const file = Uint32Array.from([...plan].flatMap((frame) => ([3, 20, 24].includes(frame) ? [frame, frame] : [frame])));
    expect(layShared({ plan, file }, () => null, null).stepped).toBeNull();
  });
});

describe('regular repeats', () => {
  it('are found though one in a hundred is other than it should be', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 12 }), fc.integer({ min: 1, max: 11 }), fc.nat(1000), (period, phase, seed) => {
        const isRepeat = Array.from({ length: 400 }, (_, frame) => frame > 0 && (frame + phase) % period === 0);
        for (let flip = 0; flip < 3; flip++) {
          const at = 1 + ((seed * 37 + flip * 131) % 399);
          isRepeat[at] = !isRepeat[at];
        }
        const found = regularRepeats(isRepeat);
        expect(found?.period).toBe(period);
        expect(found?.repeats.filter(Boolean)).toHaveLength(1);
      }),
    );
  });

  it('say how long pictures are held: two and three frames in turn is 24 in 60 (common practice)', () => {
    const isRepeat = Array.from(
      { length: 120 },
      (_, frame) => frame > 0 && Math.floor((frame * 24) / 60) === Math.floor(((frame - 1) * 24) / 60),
    );
    expect(heldInPeriod(regularRepeats(isRepeat) ?? { period: 1, repeats: [false] })).toEqual([3, 2]);
    expect(regularRepeats(new Uint8Array(50))).toBeNull();
  });
});

describe('sequences', () => {
  const names = (all: readonly string[]) =>
    fileGroups(all, (name) => name).map((group) => [group.name, group.kind === 'one' ? 1 : group.files.length]);

  it('are told by all but their numbers, each folder for itself', () => {
    expect(
      names(['yard_0002.png', 'sock_01.png', 'yard_0001.png', 'sock_02.png', 'b/yard_0001.png', 'film.mp4', 'note.txt', 'yard_0010.PNG']),
    ).toEqual([
      ['yard_####.png', 3],
      ['sock_##.png', 2],
      ['b/yard_0001.png', 1],
      ['film.mp4', 1],
      ['note.txt', 1],
    ]);
  });

  it('are in the order of their numbers, and say what is missing and what is there twice', () => {
    const [group] = fileGroups(['a10.png', 'a9.png', 'a11.png', 'a13.png', 'a013.png'], (name) => name);
    if (group?.kind !== 'sequence') throw new Error('It is a sequence.');
    expect(group.files.map(({ name }) => name)).toEqual(['a9.png', 'a10.png', 'a11.png', 'a013.png', 'a13.png']);
    expect(
      sequenceNumbers(
        group.name,
        group.files.map(({ name }) => name),
      ),
    ).toMatchObject({ firstNumber: 9, lastNumber: 13, missing: [12], twice: [13] });
  });

  it('may have two hundred thousand files', () => {
    const all = Array.from({ length: 200_000 }, (_, index) => `f_${index}.png`);
    const [group] = fileGroups(all, (name) => name);
    expect(
      group?.kind === 'sequence' &&
        sequenceNumbers(
          group.name,
          group.files.map(({ name }) => name),
        ),
    ).toMatchObject({ firstNumber: 0, lastNumber: 199_999, missing: [] });
  });
});

describe('sounds', () => {
  const curve = (startSample: number) => {
    const made = new LoudnessCurve(48_000);
    const samples = Float32Array.from({ length: 48_000 * 6 }, (_, at) => Math.sin(at / 20) * Math.abs(Math.sin((at / 48_000) ** 2 * 2)));
    for (let from = 0; from < samples.length; from += 5000) made.take([samples.subarray(from, from + 5000)], startSample + from);
    return made.curve;
  };

  it.each([0, 25, -12, 100, -150])('that are %i hundredths late are found so', (steps) => {
    expect(soundShift(curve(0), curve(steps * 480))).toBe(steps);
  });

  it('that have nothing to do with each other fit nowhere', () => {
    const noise = Float32Array.from({ length: 600 }, (_, at) => ((at * 7919) % 101) / 101);
    expect(soundShift(curve(0), noise)).toBeNull();
    expect(soundShift(new Float32Array(300), new Float32Array(300))).toBeNull();
  });
});

it.each([
  [[0x89, 0x50, 0x4e, 0x47], 'a.jpg', 'PNG'],
  [[0xff, 0xd8, 0xff, 0xe0], 'a', 'JPEG'],
  [[0x4d, 0x4d, 0, 0x2a], 'a.tif', 'TIFF'],
  [[0, 0, 0, 0], 'a.mp4', null],
])('the kind of %j, called %s, is %s', (bytes, name, kind) =>
  expect(pictureKind(Uint8Array.of(...bytes, ...new Array(28).fill(0)), name)).toBe(kind),
);
