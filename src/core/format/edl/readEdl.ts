import { type EditorialTimeline, type EditorialTrack, inTrack, type PlacedClip } from '@/core/format/editorial';
import { done, type Outcome, refused } from '@/core/outcome';
import { countText, plural } from '@/core/time/counts';
import type { Rate } from '@/core/time/rate';
import { frameOfTimecode, hasDropFrame } from '@/core/time/timecode';

/* Reads an edit decision list (SMPTE ST 258, columns by common practice) of a rate, which the list itself doesn't say. */

/** What was read, and in sentences what was not. */
export type ReadEdl = { readonly timeline: EditorialTimeline; readonly told: readonly string[] };

const MOST_LINES = 200_000;
const TIMECODE = '(\\d{1,2}:\\d{1,2}:\\d{1,2}[:;.]\\d{1,3})';
const EVENT = new RegExp(
  `^(\\d{1,6})\\s+(\\S+)\\s+(\\S+)\\s+([CDWK]\\S*)(?:\\s+(\\d+))?\\s+${TIMECODE}\\s+${TIMECODE}\\s+${TIMECODE}\\s+${TIMECODE}$`,
  'i',
);

type Event = PlacedClip & { readonly channels: readonly string[]; readonly line: number };

/** The channels an event is on: `V`, `A`, `A2`, both sounds `AA`, or a sound with the picture, `B` or `A/V`. */
function channelsOf(text: string): readonly string[] | null {
  const upper = text.toUpperCase();
  if (upper === 'B') return ['V', 'A'];
  if (upper === 'AA') return ['A', 'A2'];
  const parts = upper.split('/').map((part) => (part === 'A1' ? 'A' : part));
  return parts.every((part) => /^(V\d?|A\d{0,2})$/.test(part)) ? parts : null;
}

class EdlReader {
  title = '';
  /** Whether the list counts in drop-frame timecode. */
  drop = false;
  readonly events: Event[] = [];
  readonly told: string[] = [];
  private dissolves = 0;
  private unread = 0;

  constructor(private readonly rate: Rate) {}

  private frame(text: string): Outcome<number> {
    // Lists that say drop-frame at their head often write every timecode with colons.
    return frameOfTimecode(this.drop ? text.replace(/[:.](\d+)$/, ';$1') : text, this.rate);
  }

  line(text: string, line: number): Outcome<null> {
    const trimmed = text.trim();
    if (trimmed === '') return done(null);
    const title = /^TITLE:\s*(.*)$/i.exec(trimmed);
    if (title) this.title = title[1] ?? '';
    else if (/^FCM:/i.test(trimmed)) this.drop = /^FCM:\s*DROP/i.test(trimmed);
    else if (trimmed.startsWith('*')) this.remark(trimmed);
    else if (/^\d/.test(trimmed)) return this.event(trimmed, line);
    else this.unread++;
    return done(null);
  }

  private remark(text: string): void {
    const [, name] = /^\*\s*FROM CLIP NAME:\s*(.*)$/i.exec(text) ?? [];
    const [, file] = /^\*\s*SOURCE FILE:\s*(.*)$/i.exec(text) ?? [];
    const [, said] = /^\*\s*COMMENT:\s*(.*)$/i.exec(text) ?? [];
    const last = this.events.pop();
    if (!last) return;
    this.events.push({
      ...last,
      name: name ?? last.name,
      media: file === undefined ? last.media : { kind: 'file', fileName: file },
      remark: said ?? last.remark,
    });
  }

  private event(text: string, line: number): Outcome<null> {
    const parts = EVENT.exec(text);
    if (!parts) return refused(`Line ${countText(line)} is no event: “${text.slice(0, 60)}”.`);
    const [, number = '', reel = '', channel = '', kind = ''] = parts;
    if (hasDropFrame(this.rate)) this.drop ||= parts.slice(6, 10).some((timecode) => timecode?.includes(';'));
    const frames: number[] = [];
    for (const timecode of parts.slice(6, 10)) {
      const frame = this.frame(timecode ?? '');
      if (!frame.ok) return refused(`Event ${number} on line ${countText(line)}: ${frame.reason}`);
      frames.push(frame.value);
    }
    const [sourceIn, sourceOut, recordIn, recordOut] = frames as [number, number, number, number];
    if (recordOut < recordIn || sourceOut < sourceIn)
      return refused(`Event ${number} on line ${countText(line)} ends before it begins: its out is before its in.`);
    const channels = channelsOf(channel);
    if (!channels) return refused(`Event ${number} on line ${countText(line)} is on “${channel}”, which is no channel.`);
    if (recordOut === recordIn) return done(null);
    if (!/^C$/i.test(kind)) this.dissolves++;
    if (sourceOut - sourceIn !== recordOut - recordIn)
      this.told.push(
        `Event ${number} shows ${countText(sourceOut - sourceIn)} frames of its source in ${countText(recordOut - recordIn)}: another speed, which is not taken over.`,
      );
    const clip = {
      kind: 'clip',
      name: reel,
      sourceFrame: sourceIn,
      frames: recordOut - recordIn,
      sourceFrames: null,
      media: null,
      remark: null,
    } as const;
    this.events.push({ ...clip, startFrame: recordIn, channels, line });
    return done(null);
  }

  sentences(): readonly string[] {
    return [
      ...this.told,
      ...(this.dissolves > 0 ? [`${plural(this.dissolves, 'dissolve or wipe', 'dissolves or wipes')} became cuts.`] : []),
      ...(this.unread > 0 ? [`${plural(this.unread, 'line')} of other kinds could not be read.`] : []),
    ];
  }
}

/** Refuses events of one channel that overlap. */
function refuseOverlap(events: readonly Event[]): Outcome<null> {
  const sorted = events.toSorted((a, b) => a.startFrame - b.startFrame);
  for (const [index, event] of sorted.entries()) {
    const before = sorted[index - 1];
    if (before && before.startFrame + before.frames > event.startFrame)
      return refused(
        `The events on lines ${countText(before.line)} and ${countText(event.line)} overlap on the record: one of them must be wrong.`,
      );
  }
  return done(null);
}

/** Reads a list of a rate. The record begins on the hour that its first event is in, which is taken off. */
export function readEdl(text: string, rate: Rate): Outcome<ReadEdl> {
  const lines = text.split(/\r\n|\r|\n/);
  if (lines.length > MOST_LINES)
    return refused(`The list has ${countText(lines.length)} lines; ${countText(MOST_LINES)} is the most that is read.`);
  const reader = new EdlReader(rate);
  for (const [index, line] of lines.entries()) {
    const read = reader.line(line, index + 1);
    if (!read.ok) return read;
  }
  const { events } = reader;
  if (events.length === 0) return refused('There is no event in it: it is not an edit decision list.');
  const first = Math.min(...events.map(({ startFrame }) => startFrame));
  const hour = frameOfTimecode(`01:00:00${reader.drop ? ';' : ':'}00`, rate);
  const startFrame = hour.ok && first >= hour.value ? hour.value : 0;
  const names = [...new Set(events.flatMap(({ channels }) => channels))].toSorted((a, b) => rankOf(a) - rankOf(b));
  const tracks: EditorialTrack[] = [];
  for (const name of names) {
    const own = events.filter(({ channels }) => channels.includes(name));
    const fits = refuseOverlap(own);
    if (!fits.ok) return fits;
    const placed = own
      .map(({ channels: _channels, line: _line, ...clip }) => ({ ...clip, startFrame: clip.startFrame - startFrame }))
      .toSorted((a, b) => a.startFrame - b.startFrame);
    tracks.push({ kind: name.startsWith('V') ? 'picture' : 'sound', name, items: inTrack(placed) });
  }
  return done({ timeline: { title: reader.title, rate, startFrame, tracks }, told: reader.sentences() });
}

/** Pictures before sounds, each in their order. */
const rankOf = (channel: string): number => (channel.startsWith('V') ? 0 : 100) + Number(channel.slice(1) || 1);
