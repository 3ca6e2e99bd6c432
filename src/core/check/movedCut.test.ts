import { describe, expect, it } from 'vitest';
import { movedCut, rateMoveOf } from '@/core/check/movedCut';
import { planRateChange } from '@/core/conform/conform';
import { newGap, type Project, type ReelItem } from '@/core/document/model';
import { applyStep } from '@/core/edit/table';
import { mustBeDone } from '@/core/outcome';
import { placedItems } from '@/core/reel/reel';
import { afterFixes } from '@/core/testing/checking';
import { clipItem, clipOf, levelOf, projectOf, shotOf } from '@/core/testing/sheets';
import type { Rate } from '@/core/time/rate';

const TWELVE: Rate = { num: 12, den: 1 };
const shots = projectOf(shotOf([levelOf('A', '1*24')], 24));
const reelOf = (...items: ReelItem[]): Project => ({ ...shots, reel: { ...shots.reel, items } });
const shown = (id: string, frames: number): ReelItem => ({
  id,
  kind: 'shot',
  finished: true,
  shotId: 'shot-010',
  trim: { fromFrame: 0, frames },
});
const at = (project: Project, to: Rate, way: 'keepTime' | 'readAs' = 'keepTime'): Project => {
  const planned = planRateChange(project, placedItems(project), { scope: { kind: 'project', to }, way, vanishing: 'refuse' });
  return mustBeDone(applyStep(project, mustBeDone(planned.edit).step));
};
const found = (before: Project, after: Project, now = after) => movedCut(now, rateMoveOf(before, after, null));
const starts = (project: Project) => placedItems(project).map(({ startFrame }) => startFrame);

/*
 * 24 frames, a clip frame for frame of 40, 24 frames: at 24 the cuts stand on 0, 24 and 64. At 12 the clip has 40 frames still,
 * so that what follows it stands on 12 + 40 = 52, though its time, 64/24 s, is frame 32: 20 frames late.
 */
const film = reelOf(shown('a', 24), clipItem('clip', clipOf(40), 'readAs'), shown('b', 24));

describe('a cut that a new rate moved', () => {
  it('is told with both numbers while it stands there, and can be put on its time (worked by hand)', () => {
    const after = at(film, TWELVE);
    expect(starts(after)).toEqual([0, 12, 52]);
    const [finding, ...others] = found(film, after);
    expect(others).toEqual([]);
    expect(finding?.sentence).toBe(
      'The cut to 010 was on frame 65 at 24, 2.667 s in: that is frame 33 at 12, and it stands on frame 53, 20 frames late.',
    );
    expect(finding?.fixes.map(({ words }) => words)).toEqual(['Show 20 frames less at the end of street']);
    const [mended] = finding ? afterFixes(after, finding) : [];
    expect(mended && starts(mended)).toEqual([0, 12, 32]);
    expect(mended && found(film, after, mended)).toEqual([]);
  });

  it('is told of what is left when it is mended in part, and not when somebody moved it elsewhere', () => {
    const after = at(film, TWELVE);
    const withClipOf = (frames: number): Project => ({
      ...after,
      reel: {
        ...after.reel,
        items: after.reel.items.map((item) => (item.id === 'clip' ? { ...clipItem('clip', clipOf(frames), 'readAs') } : item)),
      },
    });
    expect(found(film, after, withClipOf(30))[0]?.sentence).toContain('10 frames late');
    for (const frames of [20, 10, 41]) expect(found(film, after, withClipOf(frames))).toEqual([]);
  });

  it('early, gets paper before it, or a longer gap (12 to 24: the clip of 40 frames lasts half as long)', () => {
    const half = { ...film, rate: TWELVE };
    const [finding] = found(half, at(half, { num: 24, den: 1 }));
    // At 12 the last cut is on 24 + 40 = 64, at 24 due on 128; the 24 frames before are 48 then, the clip 40 still.
    expect(finding?.sentence).toContain('that is frame 129 at 24, and it stands on frame 89, 40 frames early');
    expect(finding?.fixes.map(({ words }) => words)).toEqual(['Put 40 frames of paper before it']);
    const [mended] = finding ? afterFixes(at(half, { num: 24, den: 1 }), finding) : [];
    expect(mended && starts(mended)).toEqual([0, 48, 88, 128]);
  });

  /** A reel at 12 with a gap of `gapFrames` before b, which a change from 24 left on 40 + the gap; its time was frame `oldFrame` there. */
  const beforeB = (gapFrames: number, oldFrame: number) => {
    const reel = { ...reelOf(clipItem('clip', clipOf(40), 'readAs'), newGap('gap', gapFrames), shown('b', 24)), rate: TWELVE };
    const [finding] = movedCut(reel, {
      from: { num: 24, den: 1 },
      to: TWELVE,
      cuts: [{ itemId: 'b', oldFrame, newFrame: 40 + gapFrames }],
    });
    return { fixes: finding?.fixes.map(({ words }) => words), mended: finding ? afterFixes(reel, finding).map(starts) : [] };
  };

  it('makes a gap before it as long as it takes, as far as there is one (worked by hand)', () => {
    expect(beforeB(10, 90)).toEqual({ fixes: ['Take 5 frames from the gap before it'], mended: [[0, 40, 45]] });
    expect(beforeB(10, 80)).toEqual({ fixes: ['Take 10 frames from the gap before it'], mended: [[0, 40]] });
    expect(beforeB(10, 120)).toEqual({ fixes: ['Make the gap before it 10 frames longer'], mended: [[0, 40, 60]] });
    expect(beforeB(10, 60)).toEqual({ fixes: [], mended: [] });
  });

  it('is not told where every cut stands on its time, frames were kept, or the rate was changed back', () => {
    const plain = reelOf(shown('a', 24), shown('b', 24));
    expect(found(plain, at(plain, TWELVE))).toEqual([]);
    expect(rateMoveOf(film, at(film, TWELVE, 'readAs'), null)).toBeNull();
    const after = at(film, TWELVE);
    const move = rateMoveOf(film, after, null);
    expect(rateMoveOf(after, film, move)).toBeNull();
    expect(movedCut(film, move)).toEqual([]);
  });
});
