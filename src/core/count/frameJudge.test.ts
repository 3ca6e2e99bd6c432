import { describe, expect, it } from 'vitest';
import { FILM_TOLERANCE_LEVELS, FrameJudge } from '@/core/count/frameJudge';
import { mustBeDone } from '@/core/outcome';
import { renderPlanOf } from '@/core/render/renderPlan';
import { levelOf, projectOf, shotOf } from '@/core/testing/sheets';

const BLOCKS = 400;
/** A picture's signature: grey, with ten dark blocks from `place` on. */
const signature = (place: number) =>
  new Uint8Array(BLOCKS).fill(128).map((value, index) => (index >= place && index < place + 10 ? 20 : value));
/** As it comes back from a lossy film: every block a little off. */
const coded = (meant: Uint8Array, off = 2) => meant.map((value, index) => value + (index % 2 === 0 ? off : -off));

const planOf = (notation: string, pictures: string) => {
  const shot = shotOf([levelOf('Sock', notation, { pictures })]);
  return mustBeDone(renderPlanOf(projectOf(shot), { shotId: null, fromFrame: 0, toFrame: shot.frames - 1, withBackground: true }));
};

function judged(notation: string, pictures: string, places: readonly number[], shown: readonly number[], off = 2) {
  const judge = new FrameJudge(planOf(notation, pictures), places.map(signature));
  for (const [frame, place] of shown.entries()) judge.take(frame, coded(signature(place), off));
  return judge.result();
}

describe('FrameJudge', () => {
  it('takes holds as holds and every drawing as its own', () => {
    expect(judged('1*2 2*2 3', 'abc', [0, 50, 100], [0, 0, 50, 50, 100])).toEqual({
      repeatFrames: [],
      wrongFrames: [],
      untellableChanges: 0,
      largestLevels: 2,
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
    expect(result.largestLevels).toBe(FILM_TOLERANCE_LEVELS + 1);
  });

  it('finds frames beyond the plan', () => expect(judged('1', 'a', [0], [0, 0]).wrongFrames).toEqual([1]));

  it('counts changes too small for a film to show, and judges them neither way', () => {
    const judge = new FrameJudge(planOf('1 2', 'ab'), [new Uint8Array(BLOCKS).fill(100), new Uint8Array(BLOCKS).fill(103)]);
    judge.take(0, new Uint8Array(BLOCKS).fill(100));
    judge.take(1, new Uint8Array(BLOCKS).fill(101));
    expect(judge.result()).toMatchObject({ untellableChanges: 1, repeatFrames: [], wrongFrames: [] });
  });
});
