import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { mustBeDone } from '@/core/outcome';
import { startFilmOptions } from '@/core/output/film';
import { leavingOf } from '@/core/output/leaving';
import { startPictureOptions } from '@/core/output/pictures';
import { everySecondOf, isDraft, leavingRate, type Taking, takenSize, takingWords, WHOLE_TAKING } from '@/core/output/taking';
import { planText, renderPlanOf, stackOfEachFrame } from '@/core/render/renderPlan';
import { levelOf, projectOf, shotOf, soundOf } from '@/core/testing/sheets';

const shot = { ...shotOf([levelOf('A', '1*4 2*4 3*4 4*6', { pictures: 'abcd' })], 18), sounds: [soundOf('Hum', 0, 48_000)] };
const project = projectOf(shot);
const REQUEST = { shotId: null, fromFrame: 0, toFrame: 17, withBackground: true };
const taking = (part: Partial<Taking>): Taking => ({ ...WHOLE_TAKING, ...part });
const film = (part: Partial<Taking>, request = REQUEST) => mustBeDone(leavingOf(project, request, startFilmOptions('mp4'), taking(part)));
const shown = (part: Partial<Taking>) => {
  const { plan } = film(part);
  return [...stackOfEachFrame(plan)].map((stack) => plan.stacks[stack]?.layers[0]?.picture[0]).join('');
};
const TWELVE = { num: 12, den: 1 };

describe('the size that is taken', () => {
  it.each([
    [{ width: 1280, height: 720 }, { kind: 'half' }, { width: 640, height: 360 }],
    [{ width: 1281, height: 721 }, { kind: 'full' }, { width: 1281, height: 721 }],
    [{ width: 1281, height: 721 }, { kind: 'half' }, { width: 640, height: 360 }],
    [
      { width: 1920, height: 1080 },
      { kind: 'width', widthPx: 1001 },
      { width: 1002, height: 564 },
    ],
    [
      { width: 100, height: 2 },
      { kind: 'width', widthPx: 16 },
      { width: 16, height: 2 },
    ],
    [
      { width: 1280, height: 720 },
      { kind: 'width', widthPx: 1280 },
      { width: 1280, height: 720 },
    ],
  ] as const)('of %o, %o, is %o', (own, taken, size) => expect(takenSize(own, taken)).toEqual(size));

  it('is told to whoever composites, and by the text of a plan', () => {
    const half = film({ size: { kind: 'half' } }).plan;
    expect([half.size, half.composedSize]).toEqual([{ width: project.size.width / 2, height: project.size.height / 2 }, project.size]);
    expect(planText(half)).toContain(' of ');
    expect(planText(film({}).plan)).toBe(planText(mustBeDone(renderPlanOf(project, REQUEST))));
  });
});

describe('every second frame', () => {
  it('is what the film shows there, by brute force', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 17 }), fc.integer({ min: 0, max: 17 }), (a, b) => {
        const request = { ...REQUEST, fromFrame: Math.min(a, b), toFrame: Math.max(a, b) };
        const plan = mustBeDone(renderPlanOf(project, request));
        const all = [...stackOfEachFrame(plan)];
        const second = everySecondOf(plan);
        expect([...stackOfEachFrame(second)]).toEqual(all.filter((_, frame) => frame % 2 === 0));
        expect(second.runs.reduce((sum, { frames }) => sum + frames, 0)).toBe(second.frames);
      }),
    );
  });
  it('lasts as long at half the rate, and keeps the numbers of its frames', () => {
    expect(leavingRate({ num: 24000, den: 1001 }, taking({ everySecond: true }))).toEqual({ num: 12000, den: 1001 });
    const { plan, heard } = film({ everySecond: true });
    expect([plan.frames, plan.rate, heard?.stride]).toEqual([9, TWELVE, 2]);
    const pictures = mustBeDone(leavingOf(project, REQUEST, startPictureOptions('png'), taking({ everySecond: true })));
    expect(pictures.named.map(({ frame, place }) => [frame, place]).slice(0, 3)).toEqual([
      [1, 0],
      [3, 1],
      [5, 2],
    ]);
    expect(pictures.seenOn.slice(0, 3)).toEqual([[0], [2], [4]]);
  });
});

describe('another rate (18 frames at 12 = 1.5 s)', () => {
  it('read as, has the same frames and no sound', () => {
    const { plan, heard } = film({ rate: { way: 'readAs', rate: TWELVE } });
    expect([plan.frames, plan.rate, heard, shown({ rate: { way: 'readAs', rate: TWELVE } })]).toEqual([
      18,
      TWELVE,
      null,
      'aaaabbbbccccdddddd',
    ]);
  });
  it('brought to on exposures, lasts as long, with its sound', () => {
    const { plan, heard } = film({ rate: { way: 'converted', rate: TWELVE } });
    expect([plan.frames, plan.rate, heard?.rate, shown({ rate: { way: 'converted', rate: TWELVE } })]).toEqual([
      9,
      TWELVE,
      TWELVE,
      'aabbccddd',
    ]);
    // A range goes to the frames nearest to its time: 5 to 12 of 24 are 3 to 6 of 12.
    const part = film({ rate: { way: 'converted', rate: TWELVE } }, { ...REQUEST, fromFrame: 4, toFrame: 11 });
    expect([part.plan.frames, part.plan.firstNumber, part.heard?.firstFrame]).toEqual([4, 3, 2]);
  });
});

describe('what is taken', () => {
  it('is said in words, and is a draft where it is half', () => {
    expect(takingWords(WHOLE_TAKING)).toEqual([]);
    expect(takingWords(taking({ size: { kind: 'half' }, everySecond: true, rate: { way: 'converted', rate: TWELVE } }))).toEqual([
      'half size',
      'every second frame',
      'brought to 12 on exposures',
    ]);
    expect(
      [{}, { size: { kind: 'half' } as const }, { everySecond: true }, { size: { kind: 'width', widthPx: 640 } as const }].map((part) =>
        isDraft(taking(part)),
      ),
    ).toEqual([false, true, true, false]);
  });
});
