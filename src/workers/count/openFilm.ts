import { ALL_FORMATS, BlobSource, Input, type InputVideoTrack, IsobmffInputFormat, UnsupportedInputFormatError } from 'mediabunny';
import { frameDigests } from '@/core/count/frameDigests';
import type { ReadSound } from '@/core/count/readBack';
import type { Size } from '@/core/document/model';
import type { OpenedOutside, OutsideFrame } from '@/core/outside/countOutside';
import { eachPacket } from '@/workers/eachPacket';
import { colourWords } from '@/workers/output/film/colourWords';
import { editListOf, readFilmTimes } from '@/workers/output/film/filmTimes';

/*
 * Opens films and sounds that somebody else made, by their containers alone; how their pictures and samples are decoded is
 * told from outside, since browsers and Node do that in different ways.
 */

/** What can't be opened as a film or a sound; the message is a sentence. */
export class NotOpened extends Error {
  override readonly name = 'NotOpened';
}

/** A film's list: what its container says of each frame that is shown. */
export type FilmList = { readonly shownSeconds: readonly number[]; readonly size: Size };

/** How a film's pictures and a file's sound are decoded; null where they can't be here, with why. */
export type Decoders = {
  readonly frames: (input: Input, track: InputVideoTrack, list: FilmList) => AsyncIterable<OutsideFrame>;
  readonly sound: (input: Input) => Promise<ReadSound | null>;
  /** SHA-256 of the whole file; null where nothing will be held against digests, and none are worked out. */
  readonly digest: ((file: Blob) => Promise<string>) | null;
};

const CODEC_NAMES: Readonly<Record<string, string>> = {
  avc: 'H.264',
  hevc: 'H.265',
  vp8: 'VP8',
  vp9: 'VP9',
  av1: 'AV1',
  prores: 'ProRes',
};

export const openInput = (file: Blob): Input => new Input({ source: new BlobSource(file), formats: ALL_FORMATS });

/** Whether the bytes a film says it has are there: boxes of an MP4, one after another. */
async function missingBytes(file: Blob): Promise<{ readonly isCut: boolean; readonly hasIndex: boolean }> {
  let hasIndex = false;
  for (let at = 0; at + 8 <= file.size; ) {
    const head = new DataView(await file.slice(at, at + 16).arrayBuffer());
    const short = head.getUint32(0);
    const size = short === 1 && head.byteLength >= 16 ? Number(head.getBigUint64(8)) : short === 0 ? file.size - at : short;
    const type = String.fromCharCode(head.getUint8(4), head.getUint8(5), head.getUint8(6), head.getUint8(7));
    if (type === 'moov' || type === 'moof') hasIndex = true;
    if (size < 8 || at + size > file.size) return { isCut: true, hasIndex };
    at += size;
  }
  return { isCut: false, hasIndex };
}

const isBoxed = async (file: Blob): Promise<boolean> => {
  const head = new Uint8Array(await file.slice(4, 8).arrayBuffer());
  return ['ftyp', 'moov', 'mdat', 'wide', 'free', 'skip'].includes(String.fromCharCode(...head));
};

const reasonOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));

/** No container of a film is shorter. */
const SHORTEST_FILM_BYTES = 64;

/** Why a file could not be opened as a film, in a sentence. */
async function whyNot(file: Blob, error: unknown): Promise<string> {
  if (file.size === 0) return 'The file is empty.';
  if (await isBoxed(file)) {
    const { isCut, hasIndex } = await missingBytes(file);
    if (!hasIndex) return 'The film has no index (its “moov” box): it was cut short, or its writing was never finished.';
    if (isCut) return 'The film is cut short: it ends in the middle of what it says it holds.';
  }
  // What a reader says of a file of no kind it knows is about itself.
  if (error instanceof UnsupportedInputFormatError || file.size < SHORTEST_FILM_BYTES)
    return 'It could not be read as a film, pictures or a sound.';
  return `It could not be read: ${reasonOf(error)}.`;
}

async function openTrack(file: Blob, name: string, input: Input, track: InputVideoTrack, decoders: Decoders): Promise<OpenedOutside> {
  const format = await input.getFormat();
  const isMp4 = format instanceof IsobmffInputFormat;
  const codec = await track.getCodec();
  const edits = isMp4 ? await editListOf(file) : null;
  const { shownSeconds, packetDigests, keyFrames, ...times } = await readFilmTimes(track, edits, isMp4, decoders.digest !== null);
  const packets = await packetCount(track);
  const size = { width: await track.getCodedWidth(), height: await track.getCodedHeight() };
  const [displayWidth, displayHeight, rotation] = [
    await track.getDisplayWidth(),
    await track.getDisplayHeight(),
    await track.getRotation(),
  ];
  const notes: string[] = [];
  const isCut = isMp4 && (await missingBytes(file)).isCut;
  if (isCut) notes.push(`The file is cut short: it holds ${shownSeconds.length} of the ${packets} frames its index lists.`);
  else if (packets > shownSeconds.length)
    notes.push(`Its edit list skips ${packets - shownSeconds.length} of ${packets} frames that are stored.`);
  if (packets < shownSeconds.length) notes.push(`Its edit list shows ${shownSeconds.length} frames of ${packets} that are stored.`);
  if (rotation !== 0) notes.push(`It is shown turned by ${rotation}°.`);
  else if (displayWidth !== size.width || displayHeight !== size.height)
    notes.push(
      `It is stored as ${size.width} × ${size.height} and shown as ${displayWidth} × ${displayHeight}: its pixels are not square.`,
    );
  return {
    kind: 'film',
    name,
    fileBytes: file.size,
    made: [format.name, codec ? (CODEC_NAMES[codec] ?? codec) : 'a codec that is not known'].join(', '),
    listedFrames: shownSeconds.length,
    times,
    stampSeconds: shownSeconds,
    size,
    colours: colourWords(await track.getColorSpace()),
    keyFrames: keyFrames.length,
    loop: null,
    sequence: null,
    frames: decoders.frames(input, track, { shownSeconds, size }),
    sound: await decoders.sound(openInput(file)),
    notes: () => notes,
    digests: async () => ({
      file: (await decoders.digest?.(file)) ?? null,
      frames: decoders.digest && frameDigests('packet', packetDigests()),
    }),
  };
}

async function packetCount(track: InputVideoTrack): Promise<number> {
  let packets = 0;
  for await (const _packet of eachPacket(track, { metadataOnly: true })) packets++;
  return packets;
}

/** Opens a film, or a file of sound alone. Throws `NotOpened` where it is neither. */
export async function openFilm(file: Blob, name: string, decoders: Decoders): Promise<OpenedOutside> {
  const input = openInput(file);
  try {
    const track = await input.getPrimaryVideoTrack();
    if (track) return await openTrack(file, name, input, track, decoders);
    const format = await input.getFormat();
    input.dispose();
    const sound = await decoders.sound(openInput(file));
    if (!sound) throw new NotOpened(await whyNot(file, new Error('there is neither a picture nor a sound in it')));
    return {
      kind: 'sound',
      name,
      fileBytes: file.size,
      made: `${format.name}, ${sound.codec}`,
      listedFrames: null,
      times: null,
      stampSeconds: null,
      size: null,
      colours: null,
      keyFrames: null,
      loop: null,
      sequence: null,
      frames: null,
      sound,
      notes: () => [],
      digests: async () => ({ file: (await decoders.digest?.(file)) ?? null, frames: null }),
    };
  } catch (error) {
    input.dispose();
    if (error instanceof NotOpened) throw error;
    throw new NotOpened(await whyNot(file, error));
  }
}
