import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type EditorialClip, type EditorialMedia, type EditorialTimeline, inTrack } from '@/core/format/editorial';
import { readOtio } from '@/core/format/otio/readOtio';
import { writeOtio } from '@/core/format/otio/writeOtio';
import { mustBeDone } from '@/core/outcome';
import { record } from '@/core/testing/record';
import type { Rate } from '@/core/time/rate';

const clipOf = (part: Partial<EditorialClip> = {}): EditorialClip => ({
  ...{ kind: 'clip', name: '010', sourceFrame: 0, frames: 72, sourceFrames: 72, media: null, remark: null },
  ...part,
});
const WASHDAY: EditorialTimeline = {
  title: 'Washday',
  rate: { num: 24_000, den: 1001 },
  startFrame: 86_400,
  tracks: [
    {
      kind: 'picture',
      name: 'Picture',
      items: [
        clipOf({ media: { kind: 'sequence', folder: 'washday 010/', prefix: 'washday_010.', suffix: '.png', firstNumber: 1, digits: 4 } }),
        { kind: 'gap', frames: 12 },
        clipOf({ name: 'dusk', sourceFrame: 8, frames: 80, sourceFrames: 100, media: { kind: 'file', fileName: 'dusk.webm' } }),
      ],
    },
  ],
};

describe('OpenTimelineIO', () => {
  it('has the fields of the published schema, with values by hand', () => {
    const file = JSON.parse(writeOtio(WASHDAY));
    const time = (value: number) => ({ OTIO_SCHEMA: 'RationalTime.1', rate: 24_000 / 1001, value });
    const range = (start: number, frames: number) => ({ OTIO_SCHEMA: 'TimeRange.1', start_time: time(start), duration: time(frames) });
    expect(file).toMatchObject({ OTIO_SCHEMA: 'Timeline.1', name: 'Washday', global_start_time: time(86_400) });
    expect(file.tracks).toMatchObject({
      OTIO_SCHEMA: 'Stack.1',
      name: 'tracks',
      source_range: null,
      effects: [],
      markers: [],
      enabled: true,
    });
    const [track] = file.tracks.children;
    expect(track).toMatchObject({ OTIO_SCHEMA: 'Track.1', kind: 'Video', name: 'Picture', source_range: null });
    const [first, gap, second] = track.children;
    expect(first).toMatchObject({
      OTIO_SCHEMA: 'Clip.2',
      name: '010',
      source_range: range(0, 72),
      active_media_reference_key: 'DEFAULT_MEDIA',
    });
    expect(first.media_references.DEFAULT_MEDIA).toEqual({
      OTIO_SCHEMA: 'ImageSequenceReference.1',
      name: '',
      metadata: {},
      available_range: range(0, 72),
      available_image_bounds: null,
      target_url_base: 'washday%20010/',
      name_prefix: 'washday_010.',
      name_suffix: '.png',
      start_frame: 1,
      frame_step: 1,
      rate: 24_000 / 1001,
      frame_zero_padding: 4,
      missing_frame_policy: 'error',
    });
    expect(gap).toMatchObject({ OTIO_SCHEMA: 'Gap.1', source_range: range(0, 12) });
    expect(second.media_references.DEFAULT_MEDIA).toMatchObject({ OTIO_SCHEMA: 'ExternalReference.1', target_url: 'dusk.webm' });
    expect(second.source_range).toEqual(range(8, 80));
  });

  const media = fc.constantFrom<EditorialMedia | null>(
    null,
    { kind: 'file', fileName: 'wind über.wav' },
    { kind: 'sequence', folder: 'a b/', prefix: 'x.', suffix: '.png', firstNumber: 100, digits: 5 },
  );
  const items = fc.array(
    record({
      gap: fc.nat(50),
      frames: fc.integer({ min: 1, max: 9000 }),
      sourceFrame: fc.nat(9000),
      name: fc.string({ maxLength: 30 }),
      media,
      sourceFrames: fc.option(fc.integer({ min: 1, max: 20_000 })),
      remark: fc.option(fc.string()),
    }),
    { minLength: 1, maxLength: 20 },
  );
  it('comes back as it was', () => {
    const rates = fc.constantFrom<Rate>({ num: 24, den: 1 }, { num: 25, den: 1 }, { num: 30_000, den: 1001 }, { num: 35, den: 2 });
    fc.assert(
      fc.property(items, rates, fc.nat(100_000), fc.string(), (list, rate, startFrame, title) => {
        let at = 0;
        const placed = list.map(({ gap, ...item }) => {
          const start = at + gap;
          at = start + item.frames;
          // Where no source is named, its length can't be either.
          return { ...clipOf(item), startFrame: start };
        });
        const timeline: EditorialTimeline = {
          ...{ title, rate, startFrame },
          tracks: [
            { kind: 'picture', name: 'Picture', items: inTrack(placed) },
            { kind: 'sound', name: 'Sound 1', items: inTrack(placed, at + 7) },
          ],
        };
        expect(mustBeDone(readOtio(writeOtio(timeline)))).toEqual({ timeline, told: [] });
      }),
    );
  });

  const time = (value: number, rate = 24) => ({ OTIO_SCHEMA: 'RationalTime.1', rate, value });
  const range = (start: number, frames: number, rate = 24) => ({
    OTIO_SCHEMA: 'TimeRange.1',
    start_time: time(start, rate),
    duration: time(frames, rate),
  });
  const theirs = (...children: unknown[]) =>
    JSON.stringify({
      OTIO_SCHEMA: 'Timeline.1',
      name: 'Theirs',
      tracks: { OTIO_SCHEMA: 'Stack.1', children: [{ OTIO_SCHEMA: 'Track.1', kind: 'Video', name: 'V1', children }] },
    });

  it.each([
    ['no JSON', 'nonsense', 'It is not JSON'],
    ['something else', '{"a":1}', 'It is not an OpenTimelineIO file.'],
    ['a clip of its own', JSON.stringify({ OTIO_SCHEMA: 'Clip.2' }), 'It is a Clip and no timeline.'],
    [
      'a negative time',
      theirs({ OTIO_SCHEMA: 'Clip.2', name: 'a', source_range: range(-5, 10) }),
      'Item 1 of V1, “a”, has a negative time.',
    ],
    ['a rate of 0', theirs({ OTIO_SCHEMA: 'Clip.2', name: 'a', source_range: range(0, 10, 0) }), 'has a rate of 0 frames a second'],
    [
      'a time that is none',
      theirs({ OTIO_SCHEMA: 'Gap.1', source_range: { start_time: 'now', duration: 3 } }),
      'Item 1 of V1 has a time that is none.',
    ],
    ['a clip without a length', theirs({ OTIO_SCHEMA: 'Clip.2', name: 'a' }), 'doesn’t say how long it is'],
    ['no track', JSON.stringify({ OTIO_SCHEMA: 'Timeline.1', tracks: { OTIO_SCHEMA: 'Stack.1', children: [] } }), 'There is no track'],
  ])('%s is refused, and where', (_, json, reason) => {
    const read = readOtio(json);
    expect(read.ok ? 'read' : read.reason).toContain(reason);
  });

  it('from elsewhere is read as far as it says, with what could not be taken named', () => {
    const nested = {
      OTIO_SCHEMA: 'Stack.1',
      children: [
        { OTIO_SCHEMA: 'Clip.1', source_range: range(0, 30) },
        { OTIO_SCHEMA: 'Clip.1', source_range: range(0, 20) },
      ],
    };
    const { timeline, told } = mustBeDone(
      readOtio(
        theirs(
          {
            OTIO_SCHEMA: 'Clip.1',
            name: 'a',
            source_range: range(5, 10),
            media_reference: { OTIO_SCHEMA: 'ExternalReference.1', target_url: 'a.mov' },
          },
          { OTIO_SCHEMA: 'Transition.1' },
          nested,
          { OTIO_SCHEMA: 'Unheard.7', source_range: range(0, 6) },
          { OTIO_SCHEMA: 'Clip.2', name: 'b', source_range: range(0, 50, 25) },
        ),
      ),
    );
    expect(timeline.rate).toEqual({ num: 24, den: 1 });
    expect(timeline.tracks[0]?.items.map((item) => [item.kind, item.frames])).toEqual([
      ['clip', 10],
      ['gap', 30],
      ['gap', 6],
      // Two seconds at 25 are 48 frames at 24.
      ['clip', 48],
    ]);
    expect(told).toEqual([
      'Item 2 of V1 is a transition, which became a cut.',
      'Item 3 of V1 is of schema Stack, which can’t be taken: its 30 frames became a gap.',
      'Item 4 of V1 is of schema Unheard, which can’t be taken: its 6 frames became a gap.',
    ]);
  });

  it('nested without end is refused', () => {
    const deep = `${'{"OTIO_SCHEMA":"Stack.1","children":['.repeat(20_000)}${']}'.repeat(20_000)}`;
    expect(readOtio(theirs(0).replace('[0]', `[${deep}]`)).ok).toBe(false);
  });
});
