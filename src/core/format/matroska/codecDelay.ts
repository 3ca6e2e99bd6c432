import { utf8 } from '@/core/utf8';

/*
 * A coded sound begins with samples that belong to no sound: an AAC decoder gives 1,024 of them, an Opus one what its header
 * says. Matroska and WebM have an element for how long they last (RFC 9559, 5.1.4.1.25 CodecDelay, nanoseconds), which players
 * take off; the muxer writes none. It is put where it belongs afterwards, in room that the track's name was given for it:
 *
 *   Name       53 6E | size | the name and 11 spaces        →   53 6E | size − 11 | the name
 *                                                               56 AA | 88 | nanoseconds, 8 bytes, the greatest first
 *
 * Both are as long, so that every place and size in the file stays right.
 */

const NAME_ID = [0x53, 0x6e];
const DELAY_BYTES = 11;
/** Longest name with its room whose size is one byte. */
const LONGEST = 126;

/** The name a track is to be given, so that there is room for its delay. Throws for one longer than 115 bytes. */
export const nameWithRoom = (name: string): string => {
  if (utf8(name).length + DELAY_BYTES > LONGEST) throw new Error('The name of a track is too long.');
  return `${name}${' '.repeat(DELAY_BYTES)}`;
};

/** Where in the beginning of a file the name with its room stands, and what is to stand there; null where it isn't found. */
export function codecDelayPatch(
  beginning: Uint8Array,
  name: string,
  delayNanoseconds: number,
): { readonly position: number; readonly bytes: Uint8Array } | null {
  const text = utf8(name);
  const wanted = [...NAME_ID, 0x80 | (text.length + DELAY_BYTES), ...text, ...new Array<number>(DELAY_BYTES).fill(0x20)];
  for (let position = 0; position + wanted.length <= beginning.length; position++) {
    if (!wanted.every((byte, index) => beginning[position + index] === byte)) continue;
    const bytes = new Uint8Array(wanted.length);
    bytes.set([...NAME_ID, 0x80 | text.length, ...text, 0x56, 0xaa, 0x88]);
    new DataView(bytes.buffer).setBigUint64(wanted.length - 8, BigInt(Math.round(delayNanoseconds)));
    return { position, bytes };
  }
  return null;
}
