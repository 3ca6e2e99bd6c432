/*
 * EBML (RFC 8794): an element is an id, a size and as many bytes. Both numbers say by the zeros they begin with how long they
 * are; an id keeps that mark, a size doesn't. A size of nothing but ones is unknown: its element goes on to the end.
 */

const SEGMENT = 0x18538067;
const TRACKS = 0x1654ae6b;
const TRACK = 0xae;
const TRACK_TYPE = 0x83;
const CODEC_DELAY = 0x56aa;
const SOUND_TYPE = 2;

type Element = { readonly id: number; readonly from: number; readonly to: number };

/** The elements between two places, as far as their heads are there. */
function* elements(bytes: Uint8Array, from: number, to: number): Generator<Element> {
  for (let at = from; at < to; ) {
    const idLength = Math.clz32(bytes[at] as number) - 23;
    const sizeAt = at + idLength;
    const sizeLength = sizeAt < to ? Math.clz32(bytes[sizeAt] as number) - 23 : 0;
    if (idLength > 4 || sizeLength < 1 || sizeLength > 8 || sizeAt + sizeLength > to) return;
    let id = 0;
    for (let index = at; index < sizeAt; index++) id = id * 256 + (bytes[index] as number);
    let size = (bytes[sizeAt] as number) & (0xff >> sizeLength);
    let isUnknown = size === 0xff >> sizeLength;
    for (let index = sizeAt + 1; index < sizeAt + sizeLength; index++) {
      size = size * 256 + (bytes[index] as number);
      isUnknown &&= bytes[index] === 0xff;
    }
    const start = sizeAt + sizeLength;
    const end = isUnknown ? to : Math.min(to, start + size);
    yield { id, from: start, to: end };
    at = end;
  }
}

const numberIn = (bytes: Uint8Array, { from, to }: Element): number =>
  bytes.subarray(from, to).reduce((number, byte) => number * 256 + byte, 0);

/** How long what lies before the first sample of a Matroska or WebM file's sound lasts, in nanoseconds, from the file's beginning; 0 where it doesn't say. */
export function readCodecDelay(beginning: Uint8Array): number {
  for (const segment of elements(beginning, 0, beginning.length)) {
    if (segment.id !== SEGMENT) continue;
    for (const tracks of elements(beginning, segment.from, segment.to)) {
      if (tracks.id !== TRACKS) continue;
      for (const track of elements(beginning, tracks.from, tracks.to)) {
        const parts = track.id === TRACK ? [...elements(beginning, track.from, track.to)] : [];
        const type = parts.find(({ id }) => id === TRACK_TYPE);
        const delay = parts.find(({ id }) => id === CODEC_DELAY);
        if (type && delay && numberIn(beginning, type) === SOUND_TYPE) return numberIn(beginning, delay);
      }
    }
  }
  return 0;
}
