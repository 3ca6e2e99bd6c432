import { describe, expect, it } from 'vitest';
import { FILM_TOLERANCE_LEVELS, PictureJudge } from '@/core/count/pictureJudge';
import type { ReadFrame } from '@/core/count/readBack';
import { mustBeDone } from '@/core/outcome';
import { type RenderPlan, renderPlanOf } from '@/core/render/renderPlan';
import { levelOf, projectOf, shotOf } from '@/core/testing/sheets';

const BLOCKS = 400;
/** A picture's signature: grey, with ten dark blocks from `place` on. */
const signature = (place: number) =>
  new Uint8Array(BLOCKS).fill(128).map((value, index) => (index >= place && index < place + 10 ? 20 : value));
/** As it comes back from a lossy film: every block a little off. */
const coded = (meant: Uint8Array, off = 2) => meant.map((value, index) => value + (index % 2 === 0 ? off : -off));

const near = (signature: Uint8Array): ReadFrame => ({ name: null, picture: { kind: 'near', signature }, digest: null });

const planOf = (notation: string, pictures: string) => {
  const shot = shotOf([levelOf('Sock', notation, { pictures })]);
  return mustBeDone(renderPlanOf(projectOf(shot), { shotId: null, fromFrame: 0, toFrame: shot.frames - 1, withBackground: true }));
};

function judged(notation: string, pictures: string, places: readonly number[], shown: readonly number[], off = 2) {
  const judge = new PictureJudge(planOf(notation, pictures), { kind: 'near', signatures: places.map(signature) });
  for (const place of shown) judge.take(near(coded(signature(place), off)));
  return judge.result();
}

describe('a film held against its plan', () => {
  it('takes holds as holds and every drawing as its own', () => {
    expect(judged('1*2 2*2 3', 'abc', [0, 50, 100], [0, 0, 50, 50, 100])).toEqual({
      repeatFrames: [],
      wrongFrames: [],
      clipRepeatFrames: [],
      missingFrames: [],
      untellableChanges: 0,
      comparison: { kind: 'within', toleranceLevels: FILM_TOLERANCE_LEVELS, largestLevels: 2, whileWriting: false },
    });
  });

  it('finds a picture that was repeated instead of the next', () => {
    const result = judged('1*2 2*2', 'ab', [0, 50], [0, 0, 0, 50]);
    expect(result.repeatFrames).toEqual([2]);
    expect(result.wrongFrames).toEqual([2]);
  });

  it('finds a film that runs a frame late from some frame on', () => {
    expect(judged('1 2 3 4', 'abcd', [0, 50, 100, 150], [0, 50, 50, 100]).repeatFrames).toEqual([2, 3]);
  });

  it('finds the one picture under two numbers, as the plan has it', () => {
    const result = judged('1*2 2*2 3', 'aab', [0, 50], [0, 0, 0, 0, 50]);
    expect(result.repeatFrames).toEqual([2]);
    expect(result.wrongFrames).toEqual([]);
  });

  it('finds frames too far from what was meant', () => {
    const result = judged('1*3', 'a', [0], [0, 0, 0], FILM_TOLERANCE_LEVELS + 1);
    expect(result.wrongFrames).toEqual([0, 1, 2]);
    expect(result.comparison).toMatchObject({ largestLevels: FILM_TOLERANCE_LEVELS + 1 });
  });

  it('finds frames beyond the plan', () => expect(judged('1', 'a', [0], [0, 0]).wrongFrames).toEqual([1]));

  it('counts changes too small for a film to show, and judges them neither way', () => {
    const flat = (level: number) => new Uint8Array(BLOCKS).fill(level);
    const judge = new PictureJudge(planOf('1 2', 'ab'), { kind: 'near', signatures: [flat(100), flat(103)] });
    judge.take(near(flat(100)));
    judge.take(near(flat(101)));
    expect(judge.result()).toMatchObject({ untellableChanges: 1, repeatFrames: [], wrongFrames: [] });
  });
});

describe('pictures held against their plan', () => {
  const exact = (number: number, fingerprint: string): ReadFrame => ({
    name: `${number}.png`,
    picture: { kind: 'exact', fingerprint, size: { width: 4, height: 2 } },
    digest: fingerprint,
  });
  const NAMES = ['1.png', '2.png', '3.png', '4.png', '5.png'];
  const fingerprints = ['A', 'B', 'C'];
  const judgedExactly = (...frames: ReadFrame[]) => {
    const judge = new PictureJudge(planOf('1*2 2*2 3', 'abc'), { kind: 'exact', fingerprints }, NAMES);
    for (const frame of frames) judge.take(frame);
    return judge.result();
  };
  const all = [exact(1, 'A'), exact(2, 'A'), exact(3, 'B'), exact(4, 'B'), exact(5, 'C')];

  it('agree when each name has its picture', () => {
    expect(judgedExactly(...all)).toEqual({
      repeatFrames: [],
      wrongFrames: [],
      clipRepeatFrames: [],
      missingFrames: [],
      untellableChanges: 0,
      comparison: { kind: 'exact' },
    });
  });

  it.each([[0], [2], [4]])('count file %i that is missing once, whichever it is, and none as wrong', (gone) =>
    expect(judgedExactly(...all.toSpliced(gone, 1))).toMatchObject({ missingFrames: [gone], wrongFrames: [], repeatFrames: [] }),
  );

  it('tell a picture repeated, a wrong one, and one too many', () => {
    expect(judgedExactly(...all.with(2, exact(3, 'A')))).toMatchObject({ repeatFrames: [2], wrongFrames: [2], missingFrames: [] });
    expect(judgedExactly(...all.with(1, exact(2, 'X')))).toMatchObject({ repeatFrames: [], wrongFrames: [1] });
    expect(judgedExactly(...all, exact(6, 'C'))).toMatchObject({ wrongFrames: [5], missingFrames: [] });
  });

  it('are repeats, and none is wrong, where two drawings look alike to the last pixel', () => {
    const judge = new PictureJudge(planOf('1 2', 'ab'), { kind: 'exact', fingerprints: ['A', 'A'] }, NAMES.slice(0, 2));
    for (const frame of [exact(1, 'A'), exact(2, 'A')]) judge.take(frame);
    expect(judge.result()).toMatchObject({ wrongFrames: [], repeatFrames: [1] });
  });

  it('are as meant where a clip itself shows a picture twice, and not where that is the handover’s doing', () => {
    const of = (picture: string) => ({ key: picture, layers: [{ picture, opacityPercent: 100 }], finished: false });
    const clip = (frame: number, original = 'c') => of(`clip:${original.repeat(64)}:${frame}:${frame * 40_000}`);
    const clipJudged = (stacks: readonly ReturnType<typeof of>[], meant: readonly string[], seen: readonly string[]) => {
      const runs = stacks.map((_, stack) => ({ stack, startFrame: stack, frames: 1 }));
      const plan: RenderPlan = { ...planOf('1', 'a'), frames: stacks.length, stacks, runs };
      const judge = new PictureJudge(plan, { kind: 'exact', fingerprints: meant }, NAMES.slice(0, stacks.length));
      for (const [frame, fingerprint] of seen.entries()) judge.take(exact(frame + 1, fingerprint));
      return judge.result();
    };
    const own = clipJudged([clip(0), clip(1), clip(2)], ['A', 'A', 'B'], ['A', 'A', 'B']);
    expect(own).toMatchObject({ repeatFrames: [], wrongFrames: [], clipRepeatFrames: [1] });
    const ours = clipJudged([clip(0), clip(1), clip(2)], ['A', 'A', 'B'], ['A', 'A', 'A']);
    expect(ours).toMatchObject({ repeatFrames: [2], wrongFrames: [2], clipRepeatFrames: [1] });
    // Two clips, a clip and a drawing, or two drawings that look alike are not one clip's own affair.
    for (const stacks of [
      [clip(0), clip(0, 'd')],
      [clip(0), of('e'.repeat(64))],
      [of('e'.repeat(64)), of('f'.repeat(64))],
    ])
      expect(clipJudged(stacks, ['A', 'A'], ['A', 'A'])).toMatchObject({ repeatFrames: [1], clipRepeatFrames: [] });
  });
});
