import { describe, expect, it } from 'vitest';
import { newGap, type Project, type ReelItem, type SheetNote, wholeShot } from '@/core/document/model';
import { captionsOf } from '@/core/editorial/captionsOf';
import { lostOf, timelineWords } from '@/core/editorial/sameTimeline';
import { timelineOf } from '@/core/editorial/timelineOf';
import { placedClips } from '@/core/format/editorial';
import { readEdl } from '@/core/format/edl/readEdl';
import { writeEdl } from '@/core/format/edl/writeEdl';
import { readOtio } from '@/core/format/otio/readOtio';
import { writeOtio } from '@/core/format/otio/writeOtio';
import { mustBeDone } from '@/core/outcome';
import { clipItem, clipOf, levelOf, projectOf, shotOf, soundOf } from '@/core/testing/sheets';

// Worked examples, "The reel": at 24, shot 010 whole (72), 020 from its 9th frame for 80, a gap of 12, a clip of 100 frames at 25.
const reelOf = (notes: readonly SheetNote[] = []): Project => {
  const shots = projectOf(
    { ...shotOf([levelOf('A', '1*72')], 72), notes },
    { ...shotOf([levelOf('B', '1*96')], 96, '020'), sounds: [soundOf('plop', 35, 40_000), soundOf('hum', 3, 40_000)] },
  );
  const items: readonly ReelItem[] = [
    wholeShot('shot-010'),
    { ...wholeShot('shot-020'), trim: { fromFrame: 8, frames: 80 } },
    newGap('gap', 12),
    clipItem('clip', clipOf(100), 'converted'),
  ];
  return { ...shots, reel: { items, sounds: [] } };
};

describe('the reel as a timeline', () => {
  const timeline = timelineOf(reelOf(), 86_400, () => null);

  it('has each item where it lies, from the frame of its source on', () => {
    const [picture] = timeline.tracks;
    expect(
      picture && placedClips(picture).map(({ name, startFrame, frames, sourceFrame }) => [name, startFrame, frames, sourceFrame]),
    ).toEqual([
      ['010', 0, 72, 0],
      ['020', 72, 80, 8],
      ['street', 164, 96, 0],
    ]);
    expect(picture && placedClips(picture)[2]?.remark).toBe('CONVERTED FROM 25/1 TO 24/1');
  });

  it('has sounds that are heard at once on tracks of their own, and says where the head of one is cut off', () => {
    const sounds = timeline.tracks
      .slice(1)
      .map((track) => placedClips(track).map(({ name, startFrame, remark }) => [name, startFrame, remark]));
    // The hum begins 5 frames, 10,000 samples, before the trimmed shot does; the plop on reel frame 72 + 35 − 8.
    expect(sounds).toEqual([
      [
        ['hum', 72, 'FROM SAMPLE 10000 OF 48000 A SECOND, 30000 SAMPLES'],
        ['plop', 99, null],
      ],
    ]);
  });

  it('comes back whole from both of its files', () => {
    expect(lostOf(timeline, mustBeDone(readOtio(writeOtio(timeline))).timeline, true)).toEqual([]);
    expect(lostOf(timeline, mustBeDone(readEdl(mustBeDone(writeEdl(timeline, { drop: false })), timeline.rate)).timeline, false)).toEqual(
      [],
    );
    expect(timelineWords(timeline)).toBe('3 clips and 2 sounds');
  });

  it('comes back whole from a list, whatever spaces its names have', () => {
    const spaced = { ...reelOf(), shots: reelOf().shots.map((shot) => ({ ...shot, code: ` ${shot.code}  b\n`, sounds: [] })) };
    const own = timelineOf(spaced, 0, () => null);
    expect(lostOf(own, mustBeDone(readEdl(mustBeDone(writeEdl(own, { drop: false })), own.rate)).timeline, false)).toEqual([]);
  });

  it('what does not come back is said', () => {
    const other = timelineOf({ ...reelOf(), reel: { items: [wholeShot('shot-010')], sounds: [] } }, 0, () => null);
    expect(lostOf(timeline, other, true)).toEqual([
      'It came back beginning on another timecode.',
      'It came back with 1 track of 2.',
      'Picture: 020 came back with other frames.',
      'Picture: street came back with other frames.',
      'Sound 1: hum came back with other frames.',
      'Sound 1: plop came back with other frames.',
    ]);
  });
});

describe('words and accents with their times', () => {
  it('begin on their frame, end where the next begins, and stay two seconds at most', () => {
    const notes: readonly SheetNote[] = [
      { frame: 12, kind: 'word', words: 'Windy' },
      { frame: 24, kind: 'accent', words: 'gust' },
      { frame: 30, kind: 'note', words: 'for who draws' },
    ];
    expect(captionsOf(reelOf(notes), ['word', 'accent'])).toEqual([
      { startMilliseconds: 500, endMilliseconds: 1000, words: 'Windy' },
      { startMilliseconds: 1000, endMilliseconds: 3000, words: '[gust]' },
    ]);
    expect(captionsOf(reelOf(notes), ['word'])).toEqual([{ startMilliseconds: 500, endMilliseconds: 2500, words: 'Windy' }]);
  });

  it('beyond the part of a shot that is on the reel are not said', () => {
    const before = reelOf();
    const shots = before.shots.map((shot) =>
      shot.code === '020' ? { ...shot, notes: [{ frame: 3, kind: 'word' as const, words: 'gone' }] } : shot,
    );
    expect(captionsOf({ ...before, shots }, ['word'])).toEqual([]);
  });
});
