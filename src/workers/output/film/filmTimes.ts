import { EncodedPacketSink, type InputVideoTrack } from 'mediabunny';
import type { FileTimes } from '@/core/count/fileTimes';
import { type PlayedPart, playedFrames, playedParts } from '@/core/format/mp4/editList';
import { digestOfBytes } from '@/core/raster/digest';

/** A film's times; of each frame a player shows, in order, the stamp a decoder gives it (seconds) and the SHA-256 of its packet. */
type FilmTimes = FileTimes & {
  readonly shownSeconds: readonly number[];
  readonly packetDigests: readonly string[];
  readonly keyFrames: readonly number[];
};

/** The edit list of an MP4, from its `moov` box wherever it lies; null for a file that has none. */
export async function editListOf(file: Blob): Promise<readonly PlayedPart[] | null> {
  for (let at = 0; at + 8 <= file.size; ) {
    const head = new DataView(await file.slice(at, at + 16).arrayBuffer());
    const short = head.getUint32(0);
    const isLong = short === 1 && head.byteLength >= 16;
    const size = isLong ? Number(head.getBigUint64(8)) : short === 0 ? file.size - at : short;
    if (size < 8) return null;
    const type = String.fromCharCode(head.getUint8(4), head.getUint8(5), head.getUint8(6), head.getUint8(7));
    if (type === 'moov') return playedParts(new Uint8Array(await file.slice(at + (isLong ? 16 : 8), at + size).arrayBuffer()));
    at += size;
  }
  return null;
}

/** A frame length in whole ticks says no more than the ticks do. */
const isFinerThanTick = (seconds: number, tickSeconds: number): boolean => {
  const ticks = seconds / tickSeconds;
  return Math.abs(ticks - Math.round(ticks)) > 1e-6;
};

/** So many packets' digests are waited for together; while they are, their bytes are kept. */
const DIGESTS_AT_ONCE = 16;

/**
 * Reads the times of a film's frames from its file alone. Ticks of an MP4 that are all alike are exact (`areTicksExact`);
 * where they vary, and in WebM, which counts thousandths whatever its rate, times were rounded to them.
 */
export async function readFilmTimes(
  track: InputVideoTrack,
  edits: readonly PlayedPart[] | null,
  areTicksExact: boolean,
): Promise<FilmTimes> {
  const tickSeconds = 1 / (await track.getTimeResolution());
  const packets: { seconds: number; stampSeconds: number; digest: string; isKey: boolean }[] = [];
  let digests: Promise<unknown>[] = [];
  for await (const { timestamp, duration, data, type } of new EncodedPacketSink(track).packets()) {
    const packet = { stampSeconds: timestamp, seconds: duration, digest: '', isKey: type === 'key' };
    packets.push(packet);
    digests.push(
      digestOfBytes(data).then((digest) => {
        packet.digest = digest;
      }),
    );
    if (digests.length < DIGESTS_AT_ONCE) continue;
    await Promise.all(digests);
    digests = [];
  }
  await Promise.all(digests);
  packets.sort((a, b) => a.stampSeconds - b.stampSeconds);
  // The reader has taken off where the first part starts, and what is played before it: given back, the track's own times are left.
  const firstPart = edits?.findIndex(({ mediaSeconds }) => mediaSeconds !== null) ?? -1;
  const part = edits?.[firstPart];
  const before = (edits ?? []).slice(0, Math.max(0, firstPart)).reduce((sum, { seconds }) => sum + (seconds ?? 0), 0);
  const offsetSeconds = part?.mediaSeconds == null ? 0 : part.mediaSeconds - before;
  const frames = packets.map((packet) => ({ ...packet, mediaSeconds: packet.stampSeconds + offsetSeconds }));
  const shown = playedFrames(frames, edits && part ? edits : [{ mediaSeconds: 0, seconds: null }]);
  const last = shown.at(-1);
  // A file that states how long every frame stands shows it where no next frame tells better: at the end of a part.
  const stated = new Set(packets.flatMap(({ seconds }) => (isFinerThanTick(seconds, tickSeconds) ? [Math.round(seconds * 1e9)] : [])));
  // The last frame may be cut short by the film's end.
  const lengths = new Set((packets.length > 1 ? packets.slice(0, -1) : packets).map(({ seconds }) => Math.round(seconds * 1e9)));
  return {
    startMicroseconds: shown.map(({ startSeconds }) => startSeconds * 1e6),
    lastDurationMicroseconds: last && last.seconds > 0 ? last.seconds * 1e6 : null,
    statedDurationMicroseconds: stated.size === 1 ? ([...stated][0] as number) / 1000 : null,
    tickMicroseconds: lengths.size === 1 && areTicksExact ? 0 : tickSeconds * 1e6,
    shownSeconds: shown.map(({ frame }) => frame.stampSeconds),
    packetDigests: shown.map(({ frame }) => frame.digest),
    keyFrames: shown.flatMap(({ frame }, index) => (frame.isKey ? [index] : [])),
  };
}
