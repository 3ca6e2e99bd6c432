import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { clipFrameAt } from '@/core/document/clip';
import type { Finish, FinishEffect } from '@/core/document/finish';
import { newGap, type Project, type ReelItem, wholeShot } from '@/core/document/model';
import { mustBeDone } from '@/core/outcome';
import { readClipPicture } from '@/core/render/clipPicture';
import { drawingsAlone } from '@/core/render/drawingsAlone';
import {
  planOfReel,
  planText,
  previewOfReel,
  type RenderPlan,
  renderPlanOf,
  stackAtFrame,
  stackOfEachFrame,
  stackOnReel,
  unwantedRepeats,
} from '@/core/render/renderPlan';
import { layersAt } from '@/core/render/shotRuns';
import { undrawnIn } from '@/core/render/undrawn';
import { record } from '@/core/testing/record';
import { clipItem, clipOf, levelOf, pictureOf, projectOf, shotOf } from '@/core/testing/sheets';

const whole = (project: Project, withBackground = true): RenderPlan => {
  const frames = project.shots.reduce((sum, shot) => sum + shot.frames, 0);
  return mustBeDone(renderPlanOf(project, { shotId: null, fromFrame: 0, toFrame: frames - 1, withBackground }));
};
/** Each frame's stack as letters: `ab` is picture b over picture a. */
const letters = (plan: RenderPlan) =>
  [...stackOfEachFrame(plan)].map((stack) => plan.stacks[stack]?.layers.map((layer) => layer.picture[0]).join('') ?? '?');

const yard = levelOf('Yard', '1', { kind: 'still', pictures: 'y' });

describe('renderPlanOf', () => {
  it('composites each distinct stack once, however long and often it is held for', () => {
    const plan = whole(projectOf(shotOf([yard, levelOf('Sock', '1*2 2*2 1*2', { pictures: 'ab' })])));
    expect(letters(plan)).toEqual(['ya', 'ya', 'yb', 'yb', 'ya', 'ya']);
    expect(plan.stacks).toHaveLength(2);
    expect(plan.runs).toEqual([
      { stack: 0, startFrame: 0, frames: 2 },
      { stack: 1, startFrame: 2, frames: 2 },
      { stack: 0, startFrame: 4, frames: 2 },
    ]);
  });

  it('starts a run wherever any level goes over to another drawing', () => {
    const plan = whole(projectOf(shotOf([levelOf('Line', '1*3 2*3', { pictures: 'ab' }), levelOf('Sock', '1*2 2*4', { pictures: 'cd' })])));
    expect(letters(plan)).toEqual(['ac', 'ac', 'ad', 'bd', 'bd', 'bd']);
  });

  it('leaves guides, hidden levels and levels of no opacity behind, and stills without background', () => {
    const shot = shotOf([
      yard,
      levelOf('Clip', '1*2', { kind: 'guide', pictures: 'g' }),
      { ...levelOf('Hidden', '1*2', { pictures: 'h' }), visible: false },
      levelOf('Clear', '1*2', { pictures: 'c', opacityPercent: 0 }),
      levelOf('Sock', '1*2', { pictures: 's' }),
    ]);
    expect(letters(whole(projectOf(shot)))).toEqual(['ys', 'ys']);
    expect(letters(whole(projectOf(shot), false))).toEqual(['s', 's']);
  });

  it('shows nothing for blanks, planned drawings and an empty tail', () => {
    const plan = whole(projectOf(shotOf([levelOf('Sock', '1*2 2*2 . 3', { pictures: 'a-b' })], 8)));
    expect(letters(plan)).toEqual(['a', 'a', '', '', '', 'b', '', '']);
    expect(plan.runs).toHaveLength(4);
  });

  it('tells opacities apart', () => {
    const at = (opacityPercent: number, code: string) => ({
      ...shotOf([{ ...levelOf('Sock', '1', { pictures: 'a', opacityPercent }), id: code }], 1, code),
    });
    expect(whole(projectOf(at(100, '010'), at(50, '020'))).stacks).toHaveLength(2);
  });

  it('cuts a range out of the reel, across shots', () => {
    const project = projectOf(
      shotOf([levelOf('A', '1*4', { pictures: 'a' })], 4),
      shotOf([levelOf('B', '1*4', { pictures: 'b' })], 4, '020'),
    );
    const plan = mustBeDone(renderPlanOf(project, { shotId: null, fromFrame: 2, toFrame: 5, withBackground: true }));
    expect(letters(plan)).toEqual(['a', 'a', 'b', 'b']);
    expect([plan.frames, plan.firstNumber]).toEqual([4, 3]);
    const shot = mustBeDone(renderPlanOf(project, { shotId: 'shot-020', fromFrame: 1, toFrame: 3, withBackground: true }));
    expect(letters(shot)).toEqual(['b', 'b', 'b']);
  });

  it.each([
    [-1, 3, 'Frames 0 to 4'],
    [0, 4, 'there are frames 1 to 4'],
    [3, 2, 'Frames 4 to 3'],
    [0.5, 2, 'Frames 1.5'],
  ])('refuses frames %d to %d', (fromFrame, toFrame, named) => {
    const plan = renderPlanOf(projectOf(shotOf([levelOf('A', '1*4')])), { shotId: null, fromFrame, toFrame, withBackground: true });
    expect(plan.ok ? '' : plan.reason).toContain(named);
  });

  it('refuses a project without shots and a shot that is not there', () => {
    const request = { fromFrame: 0, toFrame: 0, withBackground: true };
    expect(renderPlanOf(projectOf(), { ...request, shotId: null }).ok).toBe(false);
    expect(renderPlanOf(projectOf(shotOf([], 3)), { ...request, shotId: 'none' }).ok).toBe(false);
  });

  it('shows trimmed shots, gaps and one shot twice as their frames come, by brute force', () => {
    const shots = projectOf(
      shotOf([yard, levelOf('A', '1*3 2 3*4', { pictures: 'abc' })], 7),
      shotOf([levelOf('B', '1*2 2*3', { pictures: 'de' })], 6, '020'),
    );
    const anyItem = fc.oneof(
      record({ kind: fc.constant('gap' as const), finished: fc.constant(true), frames: fc.integer({ min: 1, max: 4 }) }),
      record({
        kind: fc.constant('shot' as const),
        finished: fc.constant(true),
        shotId: fc.constantFrom('shot-010', 'shot-020'),
        trim: fc.option(record({ fromFrame: fc.nat(8), frames: fc.integer({ min: 1, max: 9 }) }), { nil: null }),
      }),
    );
    fc.assert(
      fc.property(fc.array(anyItem, { minLength: 1, maxLength: 6 }), (items) => {
        const project: Project = { ...shots, reel: { ...shots.reel, items: items.map((item, place) => ({ ...item, id: `i${place}` })) } };
        const wanted = items.flatMap((item) => {
          if (item.kind === 'gap') return Array.from({ length: item.frames }, () => '');
          const shot = shots.shots.find(({ id }) => id === item.shotId);
          const { fromFrame, frames } = item.trim ?? { fromFrame: 0, frames: shot?.frames ?? 0 };
          return Array.from({ length: frames }, (_, frame) =>
            shot && fromFrame + frame < shot.frames
              ? layersAt(shot.levels, fromFrame + frame)
                  .map((layer) => layer.picture[0])
                  .join('')
              : '',
          );
        });
        const plan = mustBeDone(renderPlanOf(project, { shotId: null, fromFrame: 0, toFrame: wanted.length - 1, withBackground: true }));
        expect(letters(plan)).toEqual(wanted);
      }),
    );
  });

  it('sees no repeat where one shot goes on over a cut through it', () => {
    const project = projectOf(shotOf([levelOf('A', '1*8', { pictures: 'a' })], 8));
    const part = (id: string, fromFrame: number, frames: number) => ({
      ...wholeShot('shot-010'),
      id,
      trim: { fromFrame, frames },
    });
    const cut = (...items: ReelItem[]) => {
      const film = { ...project, reel: { ...project.reel, items } };
      return unwantedRepeats(mustBeDone(renderPlanOf(film, { shotId: null, fromFrame: 0, toFrame: 7, withBackground: true })));
    };
    expect(cut(part('x', 0, 3), part('y', 3, 5))).toEqual([]);
    expect(cut(part('x', 0, 3), part('y', 2, 5))).toEqual([3]);
  });

  it('shows on every frame what the sheet shows there', () => {
    const exposure = fc.constantFrom('1', '2', '3*2', '.', '4*3', '1*2');
    const notation = fc.array(exposure, { minLength: 1, maxLength: 8 }).map((parts) => parts.join(' '));
    fc.assert(
      fc.property(notation, notation, fc.integer({ min: 1, max: 20 }), (first, second, frames) => {
        const shot = shotOf([yard, levelOf('A', first, { pictures: 'abcd' }), levelOf('B', second, { pictures: 'efgh' })], frames);
        const plan = whole(projectOf(shot));
        const wanted = Array.from({ length: frames }, (_, frame) =>
          layersAt(shot.levels, frame)
            .map((layer) => layer.picture[0])
            .join(''),
        );
        expect(letters(plan)).toEqual(wanted);
        for (let frame = 0; frame < frames; frame++) expect(stackAtFrame(plan, frame).layers).toEqual(layersAt(shot.levels, frame));
        expect([stackAtFrame(plan, -1).layers, stackAtFrame(plan, frames).layers]).toEqual([[], []]);
        expect(plan.runs.reduce((sum, run) => sum + run.frames, 0)).toBe(frames);
        expect(new Set(plan.stacks.map((stack) => stack.key)).size).toBe(plan.stacks.length);
      }),
    );
  });
});

describe('drawingsAlone', () => {
  const sock = levelOf('Sock', '1*2 2*2', { pictures: 'ab' });

  it('has the frames of the reel, or of a shot, without what lies beneath the drawings', () => {
    const project = projectOf(shotOf([yard, sock]));
    const reel = drawingsAlone(project, null);
    expect(reel && letters(reel)).toEqual(['a', 'a', 'b', 'b']);
    const shot = drawingsAlone(project, project.shots[0]?.id ?? '');
    expect(shot && letters(shot)).toEqual(['a', 'a', 'b', 'b']);
  });

  it.each([
    ['there is none', [sock]],
    ['it is hidden', [{ ...yard, visible: false }, sock]],
  ])('is nothing where %s', (_, levels) => {
    expect(drawingsAlone(projectOf(shotOf(levels)), null)).toBeNull();
  });
});

describe('clips and the finish in a plan', () => {
  const project = projectOf(shotOf([levelOf('A', '1*4', { pictures: 'a' })], 4));
  const clip = clipOf(100);
  const leaving = (film: Project) => planOfReel(film) as RenderPlan;
  const withItems = (items: ReelItem[], finish: Finish = []): Project => ({ ...project, reel: { ...project.reel, items }, finish });
  const glow: FinishEffect = {
    id: 'e',
    kind: 'layOver',
    deviationPx: 6,
    mode: 'screen',
    opacityPercent: 30,
    inPreview: true,
    inHandover: true,
  };

  it.each(['readAs', 'converted'] as const)('show each frame of the clip that is %s where it is due, by brute force', (way) => {
    const film = withItems([{ ...clipItem('c', clip, way), trim: { fromFrame: 7, frames: 60 } }, newGap('g', 3)]);
    const plan = leaving(film);
    for (let frame = 0; frame < 63; frame++) {
      const [layer] = stackAtFrame(plan, frame).layers;
      const wanted = frame < 60 ? { original: clip.original, frame: clipFrameAt(clip, way, film.rate, frame + 7) } : null;
      expect(layer ? readClipPicture(layer.picture) : null).toEqual(
        wanted && { ...wanted, atMicroseconds: wanted.frame * 40_000 + 20_000 },
      );
      expect(stackOnReel(film, frame).layers).toEqual(stackAtFrame(plan, frame).layers);
    }
    expect(unwantedRepeats(plan)).toEqual([]);
  });

  it('holds a frame that a conversion shows twice, and sees no repeat in it nor at a cut through the clip', () => {
    const slow = clipOf(4, { num: 12, den: 1 });
    const cut = withItems([
      { ...clipItem('c', slow), trim: { fromFrame: 0, frames: 3 } },
      { ...clipItem('d', slow), trim: { fromFrame: 3, frames: 5 } },
    ]);
    expect(leaving(cut).runs.map(({ frames }) => frames)).toEqual([2, 2, 2, 2]);
    expect(unwantedRepeats(leaving(cut))).toEqual([]);
  });

  it('has one stack for a picture with the finish and one without it, and one for both where there is none', () => {
    const items = [wholeShot('shot-010'), { ...wholeShot('shot-010'), id: 'bare', finished: false }];
    const plan = leaving(withItems(items, [glow]));
    expect(plan.stacks.map(({ finished }) => finished)).toEqual([true, false]);
    expect(new Set(plan.stacks.map(({ key }) => key)).size).toBe(2);
    expect(leaving(withItems(items)).stacks).toHaveLength(1);
    expect([0, 4].map((frame) => stackOnReel(withItems(items, [glow]), frame).finished)).toEqual([true, false]);
    expect(stackOnReel(withItems(items), 4).finished).toBe(true);
  });

  it('leaves with the effects that are on for it', () => {
    const film = withItems(
      [wholeShot('shot-010')],
      [{ ...glow, id: 'p', inHandover: false }, glow, { ...glow, id: 'h', inPreview: false }],
    );
    expect(leaving(film).finish.map(({ id }) => id)).toEqual(['e', 'h']);
    expect(previewOfReel(film)?.finish.map(({ id }) => id)).toEqual(['p', 'e']);
    const off = withItems([{ ...wholeShot('shot-010'), finished: false }], [{ ...glow, inHandover: false }]);
    expect(leaving(off).stacks[0]?.finished).toBe(true);
  });

  it('tells a range for colours as receipts of earlier versions were told it', () => {
    const held: FinishEffect = { id: 'h', kind: 'holdColours', range: { from: 16, to: 235 }, inPreview: true, inHandover: true };
    const film = withItems([wholeShot('shot-010')], [held]);
    expect(planText(leaving(film))).toBe(`1280x720 24/1 ${pictureOf('a')}@100*4 held 16-235`);
    expect(planText(leaving(withItems([wholeShot('shot-010')], [glow, held])))).toMatch(/ over 6 screen 30 held 16-235$/);
  });
});

describe('unwantedRepeats', () => {
  it('are where the sheet goes on to another drawing and the picture stays (worked by hand: P P Q)', () => {
    const plan = whole(projectOf(shotOf([levelOf('Sock', '1*2 2*2 3*2', { pictures: 'ppq' })])));
    expect(unwantedRepeats(plan)).toEqual([2]);
  });

  it('are not holds, nor a cycle’s return, nor blank after blank', () => {
    expect(unwantedRepeats(whole(projectOf(shotOf([levelOf('Sock', '1*8 2*2 1*2', { pictures: 'ab' })]))))).toEqual([]);
    expect(unwantedRepeats(whole(projectOf(shotOf([], 4), shotOf([], 4, '020'))))).toEqual([]);
  });

  it('are where two shots meet in one picture', () => {
    const project = projectOf(shotOf([levelOf('A', '1*4', { pictures: 'a' })]), shotOf([levelOf('B', '1*2', { pictures: 'a' })], 2, '020'));
    expect(unwantedRepeats(whole(project))).toEqual([4]);
  });
});

describe('planText', () => {
  const base = projectOf(shotOf([levelOf('Sock', '1*2 2*2', { pictures: 'ab' })]));
  it('is the same for the same frames, and another for any other', () => {
    const text = planText(whole(base));
    expect(planText(whole(structuredClone(base)))).toBe(text);
    const others = [
      projectOf(shotOf([levelOf('Sock', '1*2 2*3', { pictures: 'ab' })])),
      projectOf(shotOf([levelOf('Sock', '1*2 2*2', { pictures: 'ac' })])),
      { ...base, rate: { num: 25, den: 1 } },
      { ...base, size: { width: 640, height: 360 } },
    ];
    for (const other of others) expect(planText(whole(other))).not.toBe(text);
    expect(text).toContain(pictureOf('a'));
  });
});

describe('drawings that leave and are not drawn', () => {
  const shot = (code: string, notation: string, pictures: string) =>
    shotOf([levelOf(`Sock${code}`, notation, { pictures }), levelOf(`Clip${code}`, '1*4', { kind: 'guide' })], 6, code);
  const project = projectOf(shot('010', '1*2 2*2 3*4', 'a--'), shot('020', '1*6', '-'));
  const named = (fromFrame: number, toFrame: number, shotId: string | null = null) =>
    undrawnIn(project, { shotId, fromFrame, toFrame, withBackground: true });

  it.each([
    [0, 1, null, []],
    [0, 2, null, ['010 Sock010 · 2']],
    [4, 5, null, ['010 Sock010 · 3']],
    [5, 6, null, ['010 Sock010 · 3', '020 Sock020 · 1']],
    [0, 5, 'shot-020', ['020 Sock020 · 1']],
    [0, 11, null, ['010 Sock010 · 2', '010 Sock010 · 3', '020 Sock020 · 1']],
  ])('on frames %i to %i of %s are %j', (from, to, shotId, names) => expect(named(from, to, shotId)).toEqual(names));
});
