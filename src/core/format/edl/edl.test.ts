import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type EditorialClip, type EditorialTimeline, framesOfTrack, inTrack, placedClips } from '@/core/format/editorial';
import { readEdl } from '@/core/format/edl/readEdl';
import { writeEdl } from '@/core/format/edl/writeEdl';
import { mustBeDone } from '@/core/outcome';
import { record } from '@/core/testing/record';
import type { Rate } from '@/core/time/rate';

const FILM: Rate = { num: 24, den: 1 };
const DROP: Rate = { num: 30_000, den: 1001 };
const NON_DROP = { drop: false };

const clipOf = (name: string, frames: number, sourceFrame = 0): EditorialClip => ({
  kind: 'clip',
  name,
  sourceFrame,
  frames,
  sourceFrames: null,
  media: null,
  remark: null,
});
const timelineWith = (items: EditorialTimeline['tracks'][number]['items'], rate = FILM, startFrame = 0): EditorialTimeline => ({
  title: 'Washday',
  rate,
  startFrame,
  tracks: [{ kind: 'picture', name: 'Picture', items }],
});

describe('an edit decision list', () => {
  it('of the three shots of Washday is the one worked by hand', () => {
    const text = mustBeDone(writeEdl(timelineWith([clipOf('010', 72), clipOf('020', 96), clipOf('030', 96)]), NON_DROP));
    expect(text.replaceAll('\r\n', '\n')).toBe(
      [
        'TITLE: WASHDAY',
        'FCM: NON-DROP FRAME',
        '001  010      V     C        00:00:00:00 00:00:03:00 00:00:00:00 00:00:03:00',
        '002  020      V     C        00:00:00:00 00:00:04:00 00:00:03:00 00:00:07:00',
        '003  030      V     C        00:00:00:00 00:00:04:00 00:00:07:00 00:00:11:00',
        '',
      ].join('\n'),
    );
  });

  it('says where a trimmed shot begins in its source, where a gap leaves room, and begins at an hour', () => {
    const text = mustBeDone(
      writeEdl(timelineWith([clipOf('020', 80, 8), { kind: 'gap', frames: 12 }, clipOf('030', 24)], FILM, 86_400), NON_DROP),
    );
    expect(text).toContain('001  020      V     C        00:00:00:08 00:00:03:16 01:00:00:00 01:00:03:08');
    expect(text).toContain('002  030      V     C        00:00:00:00 00:00:01:00 01:00:03:20 01:00:04:20');
  });

  it('counts in drop-frame timecode where that is asked for: frame 1,800 is 00:01:00;02 (SMPTE ST 12-1)', () => {
    const text = mustBeDone(writeEdl(timelineWith([clipOf('010', 1800)], DROP), { drop: true }));
    expect(text).toContain('FCM: DROP FRAME');
    expect(text).toContain('00:00:00;00 00:01:00;02 00:00:00;00 00:01:00;02');
    expect(writeEdl(timelineWith([clipOf('010', 24)]), { drop: true })).toMatchObject({ ok: false });
  });

  it('gives long names short ones that differ, and says the whole', () => {
    const text = mustBeDone(writeEdl(timelineWith([clipOf('The sock drops', 24), clipOf('The sock drops again', 24)]), NON_DROP));
    expect(text).toMatch(/^001 {2}THESOCKD V/m);
    expect(text).toMatch(/^002 {2}THESOCK2 V/m);
    expect(text).toContain('* FROM CLIP NAME: The sock drops again');
  });

  const clips = fc.array(
    record({
      gap: fc.nat(100),
      frames: fc.integer({ min: 1, max: 3000 }),
      sourceFrame: fc.nat(5000),
      name: fc.stringMatching(/^[A-Za-z0-9é-]{1,20}$/),
    }),
    { minLength: 1, maxLength: 40 },
  );
  it('comes back as it was, whatever is on it, at every rate and start', () => {
    const rates = fc.constantFrom<[Rate, boolean]>(
      [FILM, false],
      [{ num: 25, den: 1 }, false],
      [{ num: 24_000, den: 1001 }, false],
      [DROP, false],
      [DROP, true],
    );
    fc.assert(
      fc.property(clips, rates, fc.boolean(), (list, [rate, drop], atHour) => {
        let at = 0;
        const placed = list.map(({ gap, frames, sourceFrame, name }) => {
          const startFrame = at + gap;
          at = startFrame + frames;
          return { ...clipOf(name, frames, sourceFrame), startFrame };
        });
        const hour = 3600 * Math.round(rate.num / rate.den) - (drop ? 108 : 0);
        const timeline = timelineWith(inTrack(placed), rate, atHour ? hour : 0);
        const read = mustBeDone(readEdl(mustBeDone(writeEdl(timeline, { drop })), rate));
        expect(read.told).toEqual([]);
        expect(read.timeline.startFrame).toBe(timeline.startFrame);
        const back = read.timeline.tracks[0];
        expect(back && placedClips(back)).toEqual(placed);
      }),
    );
  });

  it('of pictures and two sounds at once has them on V, A and A2', () => {
    const sound = (name: string, start: number) => ({
      kind: 'sound' as const,
      name,
      items: inTrack([{ ...clipOf(name, 48), startFrame: start }]),
    });
    const timeline = {
      ...timelineWith([clipOf('010', 72)]),
      tracks: [{ kind: 'picture' as const, name: 'P', items: [clipOf('010', 72)] }, sound('WIND', 0), sound('PLOP', 10)],
    };
    const read = mustBeDone(readEdl(mustBeDone(writeEdl(timeline, NON_DROP)), FILM));
    expect(read.timeline.tracks.map((track) => [track.kind, track.name, framesOfTrack(track)])).toEqual([
      ['picture', 'V', 72],
      ['sound', 'A', 48],
      ['sound', 'A2', 58],
    ]);
  });
});

describe('a list from elsewhere', () => {
  const event = (rest: string) => `001  REEL1    V     C        ${rest}`;
  it.each([
    ['nothing at all', '', 'There is no event in it'],
    ['a timecode that can’t be', event('00:00:00:00 00:00:01:00 00:00:00:30 00:00:01:00'), 'Event 001 on line 1'],
    ['drop-frame where there is none', event('00:00:00;00 00:00:01;00 00:00:00;00 00:00:01;00'), 'no drop-frame at 24'],
    ['an out before its in', event('00:00:01:00 00:00:00:00 00:00:00:00 00:00:01:00'), 'ends before it begins'],
    [
      'events that overlap',
      [event('00:00:00:00 00:00:02:00 00:00:00:00 00:00:02:00'), event('00:00:00:00 00:00:02:00 00:00:01:00 00:00:03:00')].join('\n'),
      'lines 1 and 2 overlap',
    ],
    ['a line that is no event', '001 nonsense', 'Line 1 is no event'],
    ['a channel that is none', '001  R  X9  C  00:00:00:00 00:00:01:00 00:00:00:00 00:00:01:00', 'is no channel'],
  ])('with %s is refused, and where', (_, text, reason) => {
    const read = readEdl(text, FILM);
    expect(read.ok ? 'read' : read.reason).toContain(reason);
  });

  it('a skipped drop-frame number is refused', () => {
    expect(readEdl('001  R  V  C  00:00:00;00 00:01:00;00 00:00:00;00 00:01:00;00', DROP)).toMatchObject({ ok: false });
  });

  it('with a dissolve, another speed and unknown lines is read as far as it goes, and says so', () => {
    const text = [
      'TITLE: ELSEWHERE',
      '001  AX       V     C        00:00:00:00 00:00:01:00 00:00:00:00 00:00:01:00',
      '002  BX       V     D    012 00:00:00:00 00:00:02:00 00:00:01:00 00:00:02:00',
      'M2   BX       048.0                00:00:00:00',
    ].join('\n');
    expect(mustBeDone(readEdl(text, FILM)).told).toEqual([
      'Event 002 shows 48 frames of its source in 24: another speed, which is not taken over.',
      '1 dissolve or wipe became cuts.',
      '1 line of other kinds could not be read.',
    ]);
  });
});
