import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { newGap, type Project, type ReelItem, wholeShot } from '@/core/document/model';
import { applyStep, invertStep } from '@/core/edit/table';
import { differencesFromReel } from '@/core/editorial/againstReel';
import { takeDifferences } from '@/core/editorial/takeDifferences';
import { timelineOf } from '@/core/editorial/timelineOf';
import { type EditorialClip, type EditorialTimeline, placedClips } from '@/core/format/editorial';
import { readEdl } from '@/core/format/edl/readEdl';
import { writeEdl } from '@/core/format/edl/writeEdl';
import { mustBeDone } from '@/core/outcome';
import { record } from '@/core/testing/record';
import { ids, levelOf, projectOf, shotOf } from '@/core/testing/sheets';

const CODES = ['010', '020', '030', '040'];
const SHOT_FRAMES = 50;
const shots = projectOf(...CODES.map((code) => shotOf([levelOf(`L${code}`, `1*${SHOT_FRAMES}`)], SHOT_FRAMES, code)));
const reelOf = (...items: ReelItem[]): Project => ({ ...shots, reel: { items, sounds: [] } });
const whole = (code: string): ReelItem => wholeShot(`shot-${code}`);
const clipOf = (name: string, frames = SHOT_FRAMES, sourceFrame = 0): EditorialClip => ({
  ...{ kind: 'clip', name, sourceFrame, frames, sourceFrames: null, media: null, remark: null },
});
const timelineWith = (...items: EditorialTimeline['tracks'][number]['items']): EditorialTimeline => ({
  ...{ title: 'Back', rate: shots.rate, startFrame: 0 },
  tracks: [{ kind: 'picture', name: 'Picture', items }],
});
const wordsOf = (project: Project, timeline: EditorialTimeline) =>
  mustBeDone(differencesFromReel(project, timeline)).map(({ words }) => words);

function taken(project: Project, timeline: EditorialTimeline, only?: (id: string) => boolean): Project {
  const chosen = mustBeDone(differencesFromReel(project, timeline)).filter(({ id, canTake }) => canTake && (only?.(id) ?? true));
  const { step } = mustBeDone(
    takeDifferences(
      project,
      timeline,
      chosen.map(({ id }) => id),
      ids(),
    ),
  );
  const after = mustBeDone(applyStep(project, step));
  expect(mustBeDone(applyStep(after, invertStep(project, step)))).toEqual(project);
  return after;
}
const pictureOf = (project: Project) => {
  const [picture] = timelineOf(project, 0, () => null).tracks;
  return picture
    ? placedClips(picture).map(({ name, startFrame, sourceFrame, frames }) => ({ name, startFrame, sourceFrame, frames }))
    : [];
};

describe('a timeline that comes back', () => {
  const reel = reelOf(whole('010'), whole('020'), newGap('gap', 12), whole('030'));

  it('as it left is the reel', () => {
    expect(
      wordsOf(
        reel,
        timelineOf(reel, 0, () => null),
      ),
    ).toEqual([]);
    const list = mustBeDone(
      writeEdl(
        timelineOf(reel, 0, () => null),
        { drop: false },
      ),
    );
    expect(wordsOf(reel, mustBeDone(readEdl(list, reel.rate)).timeline)).toEqual([]);
  });

  it('changed elsewhere says what is moved, trimmed, gone and new, and what gaps are', () => {
    const timeline = timelineWith(clipOf('030'), clipOf('010', 30, 8), { kind: 'gap', frames: 5 }, clipOf('040'), clipOf('title card', 24));
    expect(wordsOf(reel, timeline)).toEqual([
      '020, on frame 51, is not in it.',
      'No gap before 030, was 12 frames.',
      '010 starts on frame 51, was 1.',
      '010 shows frames 9–38, was frames 1–50.',
      '040 comes in on frame 86, 50 frames.',
      'title card comes in on frame 136, and is not in this project: 24 frames of paper in its place.',
    ]);
    expect(pictureOf(taken(reel, timeline))).toEqual([
      { name: '030', startFrame: 0, sourceFrame: 0, frames: 50 },
      { name: '010', startFrame: 50, sourceFrame: 8, frames: 30 },
      { name: '040', startFrame: 85, sourceFrame: 0, frames: 50 },
    ]);
  });

  it('can be taken one by one', () => {
    const timeline = timelineWith(clipOf('010'), clipOf('030', 20), clipOf('020'));
    const differences = mustBeDone(differencesFromReel(reel, timeline));
    expect(differences.map(({ id }) => id)).toContain('trimmed:shot-030');
    const trimmedAlone = taken(reel, timeline, (id) => id.startsWith('trimmed:'));
    expect(pictureOf(trimmedAlone).map(({ name, frames }) => [name, frames])).toEqual([
      ['010', 50],
      ['020', 50],
      ['030', 20],
    ]);
    const back = mustBeDone(differencesFromReel(trimmedAlone, timeline)).map(({ id }) => id);
    expect(back).not.toContain('trimmed:shot-030');
  });

  it('of another rate is refused', () => {
    expect(differencesFromReel(reel, { ...timelineWith(clipOf('010')), rate: { num: 25, den: 1 } })).toEqual({
      ok: false,
      reason: 'It counts 25 frames a second, and this film 24: its frames are not these. Have it written at 24.',
    });
  });

  const part = record({
    code: fc.constantFrom(...CODES),
    gap: fc.constantFrom(0, 0, 0, 7, 20),
    range: fc.option(record({ from: fc.nat(20), frames: fc.integer({ min: 1, max: 25 }) })),
  });
  const parts = fc.array(part, { maxLength: 12 });
  const trailing = fc.constantFrom(0, 9);

  it('taken whole makes the reel what it says, and leaves nothing to take', () => {
    fc.assert(
      fc.property(parts, trailing, parts, trailing, (own, ownEnd, theirs, theirEnd) => {
        const items = own.flatMap(({ code, gap, range }, index): ReelItem[] => [
          ...(gap > 0 ? [newGap(`gap${index}`, gap)] : []),
          { ...wholeShot(`shot-${code}`), id: `item${index}`, trim: range && { fromFrame: range.from, frames: range.frames } },
        ]);
        const project = reelOf(...items, ...(ownEnd > 0 ? [newGap('end', ownEnd)] : []));
        const timeline = timelineWith(
          ...theirs.flatMap(({ code, gap, range }) => [
            ...(gap > 0 ? [{ kind: 'gap' as const, frames: gap }] : []),
            clipOf(code, range?.frames ?? SHOT_FRAMES, range?.from ?? 0),
          ]),
          ...(theirEnd > 0 ? [{ kind: 'gap' as const, frames: theirEnd }] : []),
        );
        const differences = mustBeDone(differencesFromReel(project, timeline));
        if (differences.length === 0) return;
        const after = taken(project, timeline);
        expect(mustBeDone(differencesFromReel(after, timeline))).toEqual([]);
        const [picture] = timeline.tracks;
        expect(pictureOf(after)).toEqual(
          (picture ? placedClips(picture) : []).map(({ name, startFrame, sourceFrame, frames }) => ({
            name,
            startFrame,
            sourceFrame,
            frames,
          })),
        );
      }),
      { numRuns: 300 },
    );
  });

  it('taken in part never breaks the reel, and what was taken is no difference any more', () => {
    fc.assert(
      fc.property(parts, parts, fc.array(fc.boolean(), { minLength: 30, maxLength: 30 }), (own, theirs, choices) => {
        const project = reelOf(...own.map(({ code }, index): ReelItem => ({ ...wholeShot(`shot-${code}`), id: `item${index}` })));
        const timeline = timelineWith(...theirs.map(({ code, range }) => clipOf(code, range?.frames ?? SHOT_FRAMES, range?.from ?? 0)));
        const all = mustBeDone(differencesFromReel(project, timeline));
        const chosen = all.filter((_, index) => choices[index % choices.length]).map(({ id }) => id);
        const edit = takeDifferences(project, timeline, chosen, ids());
        if (!edit.ok) return;
        const after = mustBeDone(applyStep(project, edit.value.step));
        const left = mustBeDone(differencesFromReel(after, timeline)).length;
        expect(left).toBeLessThanOrEqual(all.length);
      }),
      { numRuns: 200 },
    );
  });
});
