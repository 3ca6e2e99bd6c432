import { describe, expect, it } from 'vitest';
import { newGap, type Project, type ReelItem, wholeShot } from '@/core/document/model';
import { mustBeDone } from '@/core/outcome';
import { startFilmOptions } from '@/core/output/film';
import { leavingOf } from '@/core/output/leaving';
import { type PictureOptions, startPictureOptions } from '@/core/output/pictures';
import { renderPlanOf, stackAtFrame } from '@/core/render/renderPlan';
import { levelOf, projectOf, shotOf } from '@/core/testing/sheets';

const shots = projectOf(
  shotOf([levelOf('Line', '1*2 2*2 1*2', { pictures: 'ab' }), levelOf('Sock', '.*2 7*4', { pictures: 'c' })], 6),
  shotOf([levelOf('Peg', '1*3', { pictures: 'd' })], 3, '020'),
);
const items: ReelItem[] = [
  { ...wholeShot('shot-020'), id: 'x' },
  newGap('gap', 2),
  { ...wholeShot('shot-010'), id: 'y', trim: { fromFrame: 2, frames: 3 } },
];
/** The reel: 020 whole, two frames of paper, then frames 3 to 5 of 010. Numbers begin with 101. */
const PROJECT: Project = { ...shots, firstFrameNumber: 101, reel: { ...shots.reel, items } };
const WHOLE = { shotId: null, fromFrame: 0, toFrame: 7, withBackground: true };
const SHOT = { shotId: 'shot-010', fromFrame: 0, toFrame: 5, withBackground: true };
const as = (part: Partial<PictureOptions>): PictureOptions => ({ ...startPictureOptions('png'), ...part });
const leaving = (request: typeof WHOLE | typeof SHOT, part: Partial<PictureOptions> = {}) =>
  mustBeDone(leavingOf(PROJECT, request, as(part)));

/** The pictures each frame of a plan shows, as the letters they are called by. */
const letters = ({ plan }: ReturnType<typeof leaving>) =>
  Array.from(
    { length: plan.frames },
    (_, frame) =>
      stackAtFrame(plan, frame)
        .layers.map(({ picture }) => picture[0])
        .join('') || '-',
  );

describe('what leaves', () => {
  it('is a film’s plan as it is', () => {
    const film = mustBeDone(leavingOf(PROJECT, WHOLE, startFilmOptions('mp4')));
    expect(film.plan).toEqual(mustBeDone(renderPlanOf(PROJECT, WHOLE)));
    expect(film.named).toEqual([]);
  });

  it('is one level alone, wholly seen, as a film or as pictures', () => {
    const faint: Project = {
      ...PROJECT,
      finish: [{ id: 'b', kind: 'blur', deviationPx: 4, inPreview: true, inHandover: true }],
      shots: PROJECT.shots.map((shot) => ({
        ...shot,
        levels: shot.levels.map((level) => ({ ...level, opacityPercent: 40, visible: false })),
      })),
    };
    const alone = { ...SHOT, levelId: 'Line', withBackground: false };
    for (const options of [startFilmOptions('mov'), as({})]) {
      const left = mustBeDone(leavingOf(faint, alone, options));
      expect(letters(left)).toEqual(['a', 'a', 'b', 'b', 'a', 'a']);
      expect(left.plan.finish).toEqual([]);
      expect(left.heard).toBeNull();
      for (const { layers } of left.plan.stacks) for (const layer of layers) expect(layer.opacityPercent).toBe(100);
    }
    expect(leavingOf(faint, { ...alone, levelId: 'Gone' }, as({}))).toMatchObject({
      ok: false,
      reason: expect.stringMatching(/not there/),
    });
    expect(leavingOf(faint, { ...alone, shotId: null }, startFilmOptions('mp4')).ok).toBe(false);
    const guide = {
      ...faint,
      shots: faint.shots.map((shot) => ({ ...shot, levels: shot.levels.map((level) => ({ ...level, kind: 'guide' as const })) })),
    };
    expect(leavingOf(guide, alone, startFilmOptions('mp4'))).toMatchObject({ ok: false, reason: expect.stringMatching(/guide/) });
  });

  it('is every frame of the reel with its shot, or of a shot with its place on the reel', () => {
    const reel = leaving(WHOLE);
    expect(letters(reel)).toEqual(['d', 'd', 'd', '-', '-', 'bc', 'bc', 'ac']);
    expect(reel.named.map(({ shot, frame, reelFrame }) => [shot, frame, reelFrame])).toEqual([
      ['020', 101, 101],
      ['020', 102, 102],
      ['020', 103, 103],
      ['gap', 104, 104],
      ['gap', 105, 105],
      ['010', 106, 106],
      ['010', 107, 107],
      ['010', 108, 108],
    ]);
    // 010 begins to be seen on the reel's frame 106 with its own frame 103: its first would be on 104.
    const shot = leaving({ ...SHOT, fromFrame: 2 });
    expect(shot.named.map(({ scope, frame, place, reelFrame }) => [scope, frame, place, reelFrame])).toEqual([
      ['010', 103, 0, 106],
      ['010', 104, 1, 107],
      ['010', 105, 2, 108],
      ['010', 106, 3, 109],
    ]);
  });

  it('is each picture once, with the frames it is seen on, and none for frames with nothing on them', () => {
    const once = leaving(SHOT, { each: 'drawing' });
    expect(letters(once)).toEqual(['a', 'bc', 'ac']);
    expect(once.seenOn).toEqual([
      [0, 1],
      [2, 3],
      [4, 5],
    ]);
    expect(once.named.map(({ frame, place }) => [frame, place])).toEqual([
      [101, 0],
      [103, 1],
      [105, 2],
    ]);
    const reel = leaving(WHOLE, { each: 'drawing' });
    expect([letters(reel), reel.seenOn]).toEqual([
      ['d', 'bc', 'ac'],
      [[0, 1, 2], [5, 6], [7]],
    ]);
  });

  it('is each level by itself: of one shot, or of every shot on the reel, whole', () => {
    const levels = leaving(SHOT, { split: 'levels' });
    expect(letters(levels)).toEqual(['a', 'a', 'b', 'b', 'a', 'a', '-', '-', 'c', 'c', 'c', 'c']);
    expect(levels.named.map(({ level, drawing }) => `${level} ${drawing}`).slice(4, 9)).toEqual([
      'Line 1',
      'Line 1',
      'Sock null',
      'Sock null',
      'Sock 7',
    ]);
    const drawings = leaving(SHOT, { split: 'levels', each: 'drawing' });
    expect(drawings.named.map(({ level, drawing }) => `${level} ${drawing}`)).toEqual(['Line 1', 'Line 2', 'Sock 7']);
    expect(drawings.seenOn).toEqual([
      [0, 1, 4, 5],
      [2, 3],
      [2, 3, 4, 5],
    ]);
    expect(leaving(WHOLE, { split: 'levels' }).named.map(({ shot, level }) => `${shot} ${level}`)).toEqual([
      ...Array(3).fill('020 Peg'),
      ...Array(6).fill('010 Line'),
      ...Array(6).fill('010 Sock'),
    ]);
  });

  it('of levels is wholly seen, whatever their opacity, without the finish', () => {
    const [shot] = PROJECT.shots;
    if (!shot) throw new Error('There is no shot.');
    const faint: Project = {
      ...PROJECT,
      finish: [{ id: 'b', kind: 'blur', deviationPx: 4, inPreview: true, inHandover: true }],
      shots: PROJECT.shots.map((each) => ({
        ...each,
        levels: each.levels.map((level) => ({ ...level, opacityPercent: 40, blend: 'multiply' as const })),
      })),
    };
    const alone = mustBeDone(leavingOf(faint, SHOT, as({ split: 'levels' })));
    expect(alone.plan.finish).toEqual([]);
    expect(
      alone.plan.stacks.flatMap(({ layers }) => layers).every(({ opacityPercent, blend }) => opacityPercent === 100 && blend === undefined),
    ).toBe(true);
    expect(mustBeDone(leavingOf(faint, SHOT, as({}))).plan.finish).toHaveLength(1);
  });

  it('is refused where there is nothing', () => {
    const empty = projectOf(shotOf([levelOf('A', '1*4')], 4));
    const request = { shotId: null, fromFrame: 0, toFrame: 3, withBackground: true };
    const reason = (part: Partial<PictureOptions>) => {
      const left = leavingOf(empty, request, as(part));
      return left.ok ? 'leaves' : left.reason;
    };
    expect(reason({})).toBe('leaves');
    expect(reason({ each: 'drawing' })).toContain('Nothing is drawn on these frames');
    const hidden = {
      ...empty,
      shots: empty.shots.map((shot) => ({ ...shot, levels: shot.levels.map((level) => ({ ...level, visible: false })) })),
    };
    const none = leavingOf(hidden, request, as({ split: 'levels' }));
    expect(none.ok ? '' : none.reason).toContain('No level is seen');
    const outside = leavingOf(PROJECT, { ...WHOLE, toFrame: 9 }, as({}));
    expect(outside.ok ? '' : outside.reason).toContain('there are frames 101 to 108');
  });
});
