import { describe, expect, it } from 'vitest';
import type { Project, ReelItem } from '@/core/document/model';
import { newGap, wholeShot } from '@/core/document/model';
import type { Edit } from '@/core/edit/edit';
import { applyStep, invertStep } from '@/core/edit/table';
import { mustBeDone, type Outcome } from '@/core/outcome';
import { conversionWords, layClip, readClipItem } from '@/core/reel/clipItems';
import { finishItems } from '@/core/reel/itemEdits';
import { framesOfReel, placedItems } from '@/core/reel/reel';
import { slipItem, splitItem, trimItem } from '@/core/reel/trimItems';
import { clipItem, clipOf, ids, levelOf, projectOf, shotOf, soundOf } from '@/core/testing/sheets';

// Worked examples, "The reel": at 24, shot 010 whole (72), 020 from its 9th frame for 80, a gap of 12, a clip of 100 frames at 25.
const shots = projectOf(shotOf([levelOf('A', '1*72')], 72), shotOf([levelOf('B', '1*96')], 96, '020'));
const reelOf = (...items: ReelItem[]): Project => ({ ...shots, reel: { items, sounds: [] } });
const film = (way: 'readAs' | 'converted') =>
  reelOf(
    wholeShot('shot-010'),
    { ...wholeShot('shot-020'), trim: { fromFrame: 8, frames: 80 } },
    newGap('gap', 12),
    clipItem('clip', clipOf(100), way),
  );

const starts = (project: Project) => placedItems(project).map(({ startFrame }) => startFrame);

function made(before: Project, edit: Outcome<Edit>): Project {
  const { step } = mustBeDone(edit);
  const after = mustBeDone(applyStep(before, step));
  expect(mustBeDone(applyStep(after, invertStep(before, step)))).toEqual(before);
  return after;
}
const reason = (edit: Outcome<Edit>) => (edit.ok ? '' : edit.reason);

describe('a clip on the reel', () => {
  it('starts where it should, and is as long as it is read', () => {
    expect(starts(film('readAs'))).toEqual([0, 72, 152, 164]);
    expect(framesOfReel(film('readAs'))).toBe(264);
    expect(framesOfReel(film('converted'))).toBe(260);
  });

  it('is laid whole with its sound, which starts with it as one of the reel’s', () => {
    const before = reelOf(wholeShot('shot-010'), wholeShot('shot-020'));
    const { recording } = soundOf('street', 0, 200_000);
    const edit = layClip(before, { clip: clipOf(100), way: 'converted', index: 1, recording }, ids());
    expect(mustBeDone(edit).says).toBe(
      'street on frame 73 of the reel: 96 frames, 4.000 s, with its sound; 020 starts 96 frames later; the reel has 264 frames, was 168',
    );
    const after = made(before, edit);
    expect(starts(after)).toEqual([0, 72, 168]);
    expect(after.reel.sounds).toMatchObject([{ name: 'Street', startFrame: 72, samples: 200_000 }]);
  });

  it('is read the other way, whole again, with what that does', () => {
    const before = made(film('converted'), trimItem(film('converted'), 'clip', { fromFrame: 3, frames: 50 }));
    const edit = readClipItem(before, 'clip', 'readAs');
    expect(mustBeDone(edit).says).toBe('street read as the film’s: 100 frames, 4.167 s, whole again; the reel has 264 frames, was 214');
    expect(made(before, edit).reel.items[3]).toMatchObject({ way: 'readAs', trim: null });
    const back = readClipItem(film('readAs'), 'clip', 'converted');
    expect(mustBeDone(back).says).toContain('street converted; of its frames 13, 38, 63, 88 are passed over: 96 frames, 4.000 s');
    expect(reason(readClipItem(before, 'clip', 'converted'))).toContain('read so already');
    expect(reason(readClipItem(before, 'gap', 'converted'))).toContain('no longer on the reel');
  });

  it('is trimmed, slipped and split by the frames it covers', () => {
    const project = film('converted');
    expect(reason(trimItem(project, 'clip', { fromFrame: 0, frames: 97 }))).toBe(
      'The clip street has frames 1 to 96: frames 1 to 97 can’t be shown of it.',
    );
    expect(reason(trimItem(project, 'clip', { fromFrame: 0, frames: 0 }))).toContain('At least one frame of the clip street has to stay');
    expect(reason(slipItem(project, 'clip', 1))).toContain('The clip street is shown whole');
    const split = made(project, splitItem(project, 'clip', 164 + 30, ids()));
    expect(
      placedItems(split)
        .slice(3)
        .map(({ fromFrame, startFrame, endFrame }) => [fromFrame, startFrame, endFrame]),
    ).toEqual([
      [0, 164, 194],
      [30, 194, 260],
    ]);
  });

  it.each([
    [clipOf(48, { num: 12, den: 1 }), 'of its frames 1, 2, 3, 4, 5, 6 and 42 more are shown more than once'],
    [clipOf(24, { num: 24, den: 1 }), 'each of its frames is shown once'],
    [clipOf(25, { num: 25, den: 1 }), 'of its frames 13 is passed over'],
  ])('says what converting does', (clip, words) => expect(conversionWords(clip, { num: 24, den: 1 }, 1)).toBe(words));
});

describe('the switch for the finish', () => {
  it('is put off for items and on again, one step each that can be undone', () => {
    const project = film('readAs');
    const off = made(project, finishItems(project, ['clip', 'gap']));
    expect(off.reel.items.map(({ finished }) => finished)).toEqual([true, true, false, false]);
    const on = made(off, finishItems(off, ['clip', 'shot-010']));
    expect(on.reel.items.map(({ finished }) => finished)).toEqual([true, true, false, true]);
  });
});
