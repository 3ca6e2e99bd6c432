import type { EditorialClip, EditorialGap, EditorialMedia, EditorialTimeline, EditorialTrack } from '@/core/format/editorial';

/*
 * OpenTimelineIO: JSON objects that each say their schema. Its schema's fields are written from memory of the published one:
 * Timeline.1, Stack.1, Track.1, Clip.2, Gap.1, TimeRange.1, RationalTime.1, ExternalReference.1 and ImageSequenceReference.1.
 * A RationalTime's rate is a decimal number there; the exact one is kept beside it under `lime_tick`.
 */

type Json = null | boolean | number | string | readonly Json[] | { readonly [key: string]: Json };
type Fields = { readonly [key: string]: Json };

class OtioWriter {
  private readonly rate: number;

  constructor(private readonly timeline: EditorialTimeline) {
    this.rate = timeline.rate.num / timeline.rate.den;
  }

  private time(value: number): Fields {
    return { OTIO_SCHEMA: 'RationalTime.1', rate: this.rate, value };
  }

  private range(startFrame: number, frames: number): Fields {
    return { OTIO_SCHEMA: 'TimeRange.1', start_time: this.time(startFrame), duration: this.time(frames) };
  }

  /** What every item on a track has. */
  private item(name: string, sourceRange: Fields | null, metadata: Fields = {}): Fields {
    return { name, source_range: sourceRange, effects: [], markers: [], enabled: true, metadata };
  }

  private media(media: EditorialMedia | null, sourceFrames: number | null): Fields {
    const available = sourceFrames === null ? null : this.range(0, sourceFrames);
    const shared = { metadata: {}, available_range: available, available_image_bounds: null };
    if (!media) return { OTIO_SCHEMA: 'MissingReference.1', name: '', ...shared };
    if (media.kind === 'file')
      return { OTIO_SCHEMA: 'ExternalReference.1', name: media.fileName, ...shared, target_url: encodeURI(media.fileName) };
    return {
      OTIO_SCHEMA: 'ImageSequenceReference.1',
      name: '',
      ...shared,
      target_url_base: encodeURI(media.folder),
      name_prefix: media.prefix,
      name_suffix: media.suffix,
      start_frame: media.firstNumber,
      frame_step: 1,
      rate: this.rate,
      frame_zero_padding: media.digits,
      missing_frame_policy: 'error',
    };
  }

  private child(item: EditorialClip | EditorialGap): Fields {
    if (item.kind === 'gap') return { OTIO_SCHEMA: 'Gap.1', ...this.item('', this.range(0, item.frames)) };
    const metadata: Fields = item.remark === null ? {} : { lime_tick: { remark: item.remark } };
    return {
      OTIO_SCHEMA: 'Clip.2',
      ...this.item(item.name, this.range(item.sourceFrame, item.frames), metadata),
      media_references: { DEFAULT_MEDIA: this.media(item.media, item.sourceFrames) },
      active_media_reference_key: 'DEFAULT_MEDIA',
    };
  }

  private track({ kind, name, items }: EditorialTrack): Fields {
    return {
      OTIO_SCHEMA: 'Track.1',
      ...this.item(name, null),
      kind: kind === 'picture' ? 'Video' : 'Audio',
      children: items.map((item) => this.child(item)),
    };
  }

  write(): Fields {
    const { title, rate, startFrame, tracks } = this.timeline;
    return {
      OTIO_SCHEMA: 'Timeline.1',
      name: title,
      metadata: { lime_tick: { version: 1, rate: { num: rate.num, den: rate.den } } },
      global_start_time: this.time(startFrame),
      tracks: { OTIO_SCHEMA: 'Stack.1', ...this.item('tracks', null), children: tracks.map((track) => this.track(track)) },
    };
  }
}

/** A timeline as OpenTimelineIO. */
export const writeOtio = (timeline: EditorialTimeline): string => `${JSON.stringify(new OtioWriter(timeline).write(), null, 2)}\n`;
