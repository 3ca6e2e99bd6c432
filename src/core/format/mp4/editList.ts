import { GrowingRow } from '@/core/growingRow';

/*
 * An edit list (ISO/IEC 14496-12, 8.6.6) says which part of a track is played, from when on: entries of how long, in
 * the movie's ticks, and from which of the track's own times; -1 plays nothing for that long.
 */

/** A part of a track that is played, in seconds: from the track's own `mediaSeconds`, for `seconds`; to its end when that is null. */
export type PlayedPart = { readonly mediaSeconds: number | null; readonly seconds: number | null };

type Mp4Box = { readonly type: string; readonly start: number; readonly end: number };

function* boxesIn(view: DataView, start: number, end: number): Generator<Mp4Box> {
  let at = start;
  while (at + 8 <= end) {
    const type = String.fromCharCode(view.getUint8(at + 4), view.getUint8(at + 5), view.getUint8(at + 6), view.getUint8(at + 7));
    const short = view.getUint32(at);
    const isLong = short === 1 && at + 16 <= end;
    const size = isLong ? Number(view.getBigUint64(at + 8)) : short === 0 ? end - at : short;
    const head = isLong ? 16 : 8;
    if (size < head || at + size > end) return;
    yield { type, start: at + head, end: at + size };
    at += size;
  }
}

function find(view: DataView, within: Mp4Box, ...path: readonly string[]): Mp4Box | null {
  let found: Mp4Box | null = within;
  for (const type of path) {
    if (!found) return null;
    found = [...boxesIn(view, found.start, found.end)].find((box) => box.type === type) ?? null;
  }
  return found;
}

const timescaleAt = (view: DataView, box: Mp4Box): number => view.getUint32(box.start + (view.getUint8(box.start) === 1 ? 20 : 12));

/** Which parts of the first film track a `moov` box (without its head) plays, in order; null when it has no edit list. */
export function playedParts(moov: Uint8Array): readonly PlayedPart[] | null {
  const view = new DataView(moov.buffer, moov.byteOffset, moov.byteLength);
  const whole: Mp4Box = { type: 'moov', start: 0, end: moov.byteLength };
  const movie = find(view, whole, 'mvhd');
  if (!movie) return null;
  const movieTicks = timescaleAt(view, movie);
  for (const track of boxesIn(view, 0, moov.byteLength)) {
    if (track.type !== 'trak') continue;
    const handler = find(view, track, 'mdia', 'hdlr');
    if (!handler || view.getUint32(handler.start + 8) !== 0x76696465) continue;
    const media = find(view, track, 'mdia', 'mdhd');
    const list = find(view, track, 'edts', 'elst');
    if (!media || !list) return null;
    const trackTicks = timescaleAt(view, media);
    const isLong = view.getUint8(list.start) === 1;
    const parts: PlayedPart[] = [];
    for (let entry = 0, at = list.start + 8; entry < view.getUint32(list.start + 4) && at + (isLong ? 20 : 12) <= list.end; entry++) {
      const ticks = isLong ? Number(view.getBigUint64(at)) : view.getUint32(at);
      const mediaTime = isLong ? Number(view.getBigInt64(at + 8)) : view.getInt32(at + 4);
      // A length of 0 is that of a film whose end wasn't known when it was written.
      parts.push({ mediaSeconds: mediaTime < 0 ? null : mediaTime / trackTicks, seconds: ticks === 0 ? null : ticks / movieTicks });
      at += isLong ? 20 : 12;
    }
    return parts;
  }
  return null;
}

/** The frames a player shows, in order: the place of each among those stored, when, in seconds from the film's start, and how long the last stands. */
export type Played = { readonly places: Uint32Array; readonly startSeconds: Float64Array; readonly lastSeconds: number | null };

/** What a player shows of frames stored with their times and lengths; a frame shown by several parts is there as often. */
export function playedFrames(mediaSeconds: Float64Array, lengthSeconds: Float64Array, parts: readonly PlayedPart[]): Played {
  // Times in ticks of two clocks: less than this is rounding of one against the other.
  const hair = 1e-4;
  const places = new GrowingRow<Uint32Array>(new Uint32Array(0), (length) => new Uint32Array(length));
  const starts = new GrowingRow<Float64Array>(new Float64Array(0), (length) => new Float64Array(length));
  let lastSeconds: number | null = null;
  let playedSeconds = 0;
  for (const part of parts) {
    if (part.mediaSeconds !== null) {
      const end = part.seconds === null ? Number.POSITIVE_INFINITY : part.mediaSeconds + part.seconds;
      for (const [place, start] of mediaSeconds.entries()) {
        const from = Math.max(start, part.mediaSeconds);
        const to = Math.min(start + (lengthSeconds[place] as number), end);
        if (start >= end - hair || (to - from <= hair && start < part.mediaSeconds - hair)) continue;
        places.push(place);
        starts.push(playedSeconds + from - part.mediaSeconds);
        lastSeconds = Math.max(0, to - from);
      }
    }
    playedSeconds += part.seconds ?? 0;
  }
  return { places: places.whole, startSeconds: starts.whole, lastSeconds };
}
