import type { InputVideoTrack } from 'mediabunny';
import type { FileTimes } from '@/core/count/fileTimes';
import { type PlayedPart, playedFrames, playedParts } from '@/core/format/mp4/editList';
import { GrowingRow } from '@/core/growingRow';
import { digestOfBytes } from '@/core/raster/digest';
import { eachPacket } from '@/workers/eachPacket';

/** A film's times; of each frame a player shows, in order, the stamp a decoder gives it (seconds) and the SHA-256 of its packet. */
type FilmTimes = FileTimes & {
  readonly shownSeconds: readonly number[];
  /** Made when it is asked for: those of a long film take more room than all else. Empty where they were not wanted. */
  readonly packetDigests: () => readonly string[];
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
const DIGEST_BYTES = 32;

const bytesOfDigest = (digest: string): Uint8Array =>
  Uint8Array.from({ length: DIGEST_BYTES }, (_, index) => Number.parseInt(digest.slice(2 * index, 2 * index + 2), 16));
const digestOfRow = (digests: Uint8Array, row: number): string =>
  Array.from(digests.subarray(row * DIGEST_BYTES, (row + 1) * DIGEST_BYTES), (byte) => byte.toString(16).padStart(2, '0')).join('');

/** Made by itself, so that it keeps nothing else of what was read. */
const digestsOfRows = (digests: Uint8Array, rows: Uint32Array) => (): readonly string[] =>
  Array.from(rows, (row) => digestOfRow(digests, row));

/** Frames as a film holds them, in the order they are stored. */
type Stored = {
  readonly stampSeconds: Float64Array;
  readonly lengthSeconds: Float64Array;
  readonly isKey: Uint8Array;
  /** SHA-256 of each packet, 32 bytes each. */
  readonly digests: Uint8Array;
};

async function readStored(track: InputVideoTrack, wantsDigests: boolean): Promise<Stored> {
  const stampSeconds = new GrowingRow<Float64Array>(new Float64Array(0), (length) => new Float64Array(length));
  const lengthSeconds = new GrowingRow<Float64Array>(new Float64Array(0), (length) => new Float64Array(length));
  const isKey = new GrowingRow<Uint8Array>(new Uint8Array(0), (length) => new Uint8Array(length));
  const digests = new GrowingRow<Uint8Array>(new Uint8Array(0), (length) => new Uint8Array(length));
  let asked: Promise<string>[] = [];
  const take = async () => {
    for (const digest of await Promise.all(asked)) digests.pushAll(bytesOfDigest(digest));
    asked = [];
  };
  for await (const { timestamp, duration, data, type } of eachPacket(track)) {
    stampSeconds.push(timestamp);
    lengthSeconds.push(duration);
    isKey.push(type === 'key' ? 1 : 0);
    if (wantsDigests) asked.push(digestOfBytes(data));
    if (asked.length === DIGESTS_AT_ONCE) await take();
  }
  await take();
  return { stampSeconds: stampSeconds.whole, lengthSeconds: lengthSeconds.whole, isKey: isKey.whole, digests: digests.whole };
}

/**
 * Reads the times of a film's frames from its file alone. Ticks of an MP4 that are all alike are exact (`areTicksExact`);
 * where they vary, and in WebM, which counts thousandths whatever its rate, times were rounded to them.
 */
export async function readFilmTimes(
  track: InputVideoTrack,
  edits: readonly PlayedPart[] | null,
  areTicksExact: boolean,
  wantsDigests = true,
): Promise<FilmTimes> {
  const tickSeconds = 1 / (await track.getTimeResolution());
  const { stampSeconds, lengthSeconds, isKey, digests } = await readStored(track, wantsDigests);
  const order = new Uint32Array(stampSeconds.length).map((_, index) => index);
  order.sort((a, b) => (stampSeconds[a] as number) - (stampSeconds[b] as number) || a - b);
  // The reader has taken off where the first part starts, and what is played before it: given back, the track's own times are left.
  const firstPart = edits?.findIndex(({ mediaSeconds }) => mediaSeconds !== null) ?? -1;
  const part = edits?.[firstPart];
  const before = (edits ?? []).slice(0, Math.max(0, firstPart)).reduce((sum, { seconds }) => sum + (seconds ?? 0), 0);
  const offsetSeconds = part?.mediaSeconds == null ? 0 : part.mediaSeconds - before;
  const lengths = Float64Array.from(order, (index) => lengthSeconds[index] as number);
  const mediaSeconds = Float64Array.from(order, (index) => (stampSeconds[index] as number) + offsetSeconds);
  const played = playedFrames(mediaSeconds, lengths, edits && part ? edits : [{ mediaSeconds: 0, seconds: null }]);
  const shown = played.places.map((place) => order[place] as number);
  const keyFrames: number[] = [];
  for (const [frame, index] of shown.entries()) if (isKey[index] === 1) keyFrames.push(frame);
  // A file that states how long every frame stands shows it where no next frame tells better: at the end of a part.
  const stated = new Set<number>();
  for (const seconds of lengths) if (isFinerThanTick(seconds, tickSeconds)) stated.add(Math.round(seconds * 1e9));
  // The last frame may be cut short by the film's end.
  const told = new Set<number>();
  for (const seconds of lengths.length > 1 ? lengths.subarray(0, -1) : lengths) told.add(Math.round(seconds * 1e9));
  return {
    startMicroseconds: Array.from(played.startSeconds, (seconds) => seconds * 1e6),
    lastDurationMicroseconds: played.lastSeconds !== null && played.lastSeconds > 0 ? played.lastSeconds * 1e6 : null,
    statedDurationMicroseconds: stated.size === 1 ? ([...stated][0] as number) / 1000 : null,
    tickMicroseconds: told.size === 1 && areTicksExact ? 0 : tickSeconds * 1e6,
    shownSeconds: Array.from(shown, (index) => stampSeconds[index] as number),
    packetDigests: wantsDigests ? digestsOfRows(digests, shown) : () => [],
    keyFrames,
  };
}
