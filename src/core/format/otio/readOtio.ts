import type { EditorialClip, EditorialGap, EditorialMedia, EditorialTimeline, EditorialTrack } from '@/core/format/editorial';
import { done, type Outcome, refused } from '@/core/outcome';
import { countText } from '@/core/time/counts';
import { KNOWN_RATES, makeRate, type Rate } from '@/core/time/rate';

/* Reads OpenTimelineIO, whoever made it, as far as it is tracks of clips and gaps; what else is in it is named. */

/** What was read, and in sentences what was not. */
export type ReadOtio = { readonly timeline: EditorialTimeline; readonly told: readonly string[] };

const MOST_CHILDREN = 100_000;
const MOST_FRAMES = 10_000_000;

type Fields = { readonly [key: string]: unknown };
const isFields = (value: unknown): value is Fields => typeof value === 'object' && value !== null && !Array.isArray(value);
const text = (value: unknown): string => (typeof value === 'string' ? value : '');
const list = (value: unknown): readonly unknown[] => (Array.isArray(value) ? value : []);

/** The schema of an object, without its version. */
const schemaOf = (value: unknown): string => (isFields(value) ? text(value.OTIO_SCHEMA).replace(/\.\d+$/, '') : '');

/** The rate a decimal number means: the nearest that is met in practice, or the whole number it is. */
function rateNear(value: number): Rate | null {
  const known = KNOWN_RATES.find(({ rate }) => Math.abs(rate.num / rate.den - value) < 0.002);
  if (known) return known.rate;
  const made = Number.isInteger(value) ? makeRate(value) : makeRate(Math.round(value * 1000), 1000);
  return made.ok ? made.value : null;
}

/** Something that can't be read stops it: the sentence says what and where. */
class Unreadable extends Error {}

class OtioReader {
  rate: Rate | null = null;
  readonly told: string[] = [];
  private children = 0;

  /** Frames at the timeline's rate of a RationalTime. The first that is met says the rate. */
  private frames(time: unknown, where: string): number {
    if (!isFields(time) || typeof time.rate !== 'number' || typeof time.value !== 'number' || !Number.isFinite(time.value))
      throw new Unreadable(`${where} has a time that is none.`);
    if (!(time.rate > 0)) throw new Unreadable(`${where} has a rate of ${time.rate} frames a second.`);
    this.rate ??= rateNear(time.rate);
    if (!this.rate) throw new Unreadable(`${where} has a rate of ${time.rate}, which can’t be planned.`);
    const own = rateNear(time.rate) ?? { num: time.rate, den: 1 };
    const frames = Math.round((time.value * own.den * this.rate.num) / (own.num * this.rate.den));
    if (frames < 0) throw new Unreadable(`${where} has a negative time.`);
    if (frames > MOST_FRAMES) throw new Unreadable(`${where} is ${countText(frames)} frames in; ${countText(MOST_FRAMES)} is the most.`);
    return frames;
  }

  private range(value: unknown, where: string): { start: number; frames: number } | null {
    if (!isFields(value)) return null;
    return { start: this.frames(value.start_time, where), frames: this.frames(value.duration, where) };
  }

  private media(clip: Fields, where: string): { media: EditorialMedia | null; sourceFrames: number | null } {
    const references = isFields(clip.media_references) ? clip.media_references : {};
    const reference = references[text(clip.active_media_reference_key)] ?? clip.media_reference;
    if (!isFields(reference)) return { media: null, sourceFrames: null };
    const sourceFrames = this.range(reference.available_range, where)?.frames ?? null;
    const url = (value: unknown) => {
      try {
        return decodeURI(text(value));
      } catch {
        return text(value);
      }
    };
    if (schemaOf(reference) === 'ExternalReference') return { media: { kind: 'file', fileName: url(reference.target_url) }, sourceFrames };
    if (schemaOf(reference) !== 'ImageSequenceReference') return { media: null, sourceFrames };
    const [firstNumber, digits] = [Number(reference.start_frame), Number(reference.frame_zero_padding)];
    const names = { folder: url(reference.target_url_base), prefix: text(reference.name_prefix), suffix: text(reference.name_suffix) };
    return { media: { kind: 'sequence', ...names, firstNumber: firstNumber || 0, digits: digits || 0 }, sourceFrames };
  }

  private clip(value: Fields, where: string): EditorialClip {
    const { media, sourceFrames } = this.media(value, where);
    const range = this.range(value.source_range, where);
    if (!range && sourceFrames === null) throw new Unreadable(`${where} doesn’t say how long it is.`);
    if (list(value.effects).length > 0) this.told.push(`${where} has effects, which are not taken over.`);
    const metadata = isFields(value.metadata) && isFields(value.metadata.lime_tick) ? value.metadata.lime_tick : {};
    return {
      kind: 'clip',
      name: text(value.name),
      sourceFrame: range?.start ?? 0,
      frames: range?.frames ?? (sourceFrames as number),
      sourceFrames,
      media,
      remark: typeof metadata.remark === 'string' ? metadata.remark : null,
    };
  }

  private child(value: unknown, where: string): readonly (EditorialClip | EditorialGap)[] {
    if (++this.children > MOST_CHILDREN) throw new Unreadable(`It has more than ${countText(MOST_CHILDREN)} items.`);
    if (!isFields(value)) throw new Unreadable(`${where} is not an item.`);
    const schema = schemaOf(value);
    if (schema === 'Clip') return [this.clip(value, `${where}, “${text(value.name)}”,`)].filter(({ frames }) => frames > 0);
    if (schema === 'Gap') {
      const frames = this.range(value.source_range, where)?.frames ?? 0;
      return frames > 0 ? [{ kind: 'gap', frames }] : [];
    }
    if (schema === 'Transition') {
      this.told.push(`${where} is a transition, which became a cut.`);
      return [];
    }
    const frames = this.range(value.source_range, where)?.frames ?? this.lengthWithin(value, where);
    this.told.push(
      `${where} is ${schema === '' ? 'of no schema' : `of schema ${schema}`}, which can’t be taken: its ${countText(frames)} frames became a gap.`,
    );
    return frames > 0 ? [{ kind: 'gap', frames }] : [];
  }

  /** How long what is nested is: the tracks of a stack lie over each other, what is on a track one after another. */
  private lengthWithin(value: Fields, where: string): number {
    const lengths = list(value.children).map((child) => {
      if (++this.children > MOST_CHILDREN) throw new Unreadable(`It has more than ${countText(MOST_CHILDREN)} items.`);
      if (!isFields(child)) return 0;
      return this.range(child.source_range, where)?.frames ?? this.lengthWithin(child, where);
    });
    return schemaOf(value) === 'Stack' ? Math.max(0, ...lengths) : lengths.reduce((sum, frames) => sum + frames, 0);
  }

  private track(value: unknown, index: number): EditorialTrack | null {
    if (!isFields(value) || schemaOf(value) !== 'Track') {
      this.told.push(`Track ${index + 1} is ${schemaOf(value) === '' ? 'of no schema' : `a ${schemaOf(value)}`}, which can’t be taken.`);
      return null;
    }
    const name = text(value.name) || `Track ${index + 1}`;
    const kind = text(value.kind);
    if (kind !== 'Video' && kind !== 'Audio') {
      this.told.push(`${name} is of kind “${kind}”, which can’t be taken.`);
      return null;
    }
    const items = list(value.children).flatMap((child, place) => this.child(child, `Item ${place + 1} of ${name}`));
    return { kind: kind === 'Video' ? 'picture' : 'sound', name, items };
  }

  read(value: unknown): EditorialTimeline {
    if (!isFields(value) || schemaOf(value) !== 'Timeline')
      throw new Unreadable(schemaOf(value) === '' ? 'It is not an OpenTimelineIO file.' : `It is a ${schemaOf(value)} and no timeline.`);
    const own = isFields(value.metadata) && isFields(value.metadata.lime_tick) ? value.metadata.lime_tick.rate : null;
    if (isFields(own)) {
      const rate = makeRate(Number(own.num), Number(own.den));
      if (rate.ok) this.rate = rate.value;
    }
    const startFrame = value.global_start_time == null ? 0 : this.frames(value.global_start_time, 'The timeline');
    const stack = value.tracks;
    const tracks = list(isFields(stack) ? stack.children : []).flatMap((track, index) => this.track(track, index) ?? []);
    if (tracks.length === 0) throw new Unreadable('There is no track of pictures or sounds in it.');
    if (!this.rate) throw new Unreadable('Nothing in it says a rate.');
    return { title: text(value.name), rate: this.rate, startFrame, tracks };
  }
}

/** Reads a file of OpenTimelineIO; refused, with where, when it makes no sense. */
export function readOtio(json: string): Outcome<ReadOtio> {
  let value: unknown;
  try {
    value = JSON.parse(json);
  } catch {
    return refused('It is not JSON, as OpenTimelineIO is.');
  }
  const reader = new OtioReader();
  try {
    const timeline = reader.read(value);
    return done({ timeline, told: reader.told });
  } catch (error) {
    if (error instanceof Unreadable) return refused(error.message);
    // Nested beyond what can be walked.
    if (error instanceof RangeError) return refused('It is nested too deeply to be read.');
    throw error;
  }
}
