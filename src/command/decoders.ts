import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { availableParallelism } from 'node:os';
import { createInterface } from 'node:readline';
import { ffmpegVersion, type PixelFacts, pixelFacts, startFfmpeg } from '@/command/ffmpeg';
import { piecesOf } from '@/core/bytes';
import { Undecodable } from '@/core/count/readBack';
import type { Size } from '@/core/document/model';
import { blocksOfRgba } from '@/core/outside/blocks';
import type { OutsideFrame } from '@/core/outside/countOutside';
import type { Blocks } from '@/core/outside/look';
import { blockSide } from '@/core/raster/signature';
import type { Decoders } from '@/workers/count/openFilm';
import { readSound, type SoundDecoding } from '@/workers/output/film/readSound';

const NO_FFMPEG = 'ffmpeg is not on the path';

/**
 * ffmpeg's own choice is a thread more than there are processors, of which some wait whenever frames are brought down and told apart:
 * two more keep the processors busy. Beyond sixteen it warns that they are too many.
 */
const DECODING_THREADS = Math.min(16, availableParallelism() + 3);

/** Frames of a film as ffmpeg decodes them, each brought down to blocks, with its digest of the whole frame. */
async function* framesByFfmpeg(file: string, size: Size, asked: Promise<PixelFacts | null>): AsyncGenerator<OutsideFrame> {
  if ((await ffmpegVersion()) === null) throw new Undecodable(NO_FFMPEG);
  const facts = await asked;
  if (!facts) throw new Undecodable('ffmpeg knows no decoder for it');
  const side = blockSide(size.width, size.height);
  const [columns, rows] = [Math.ceil(size.width / side), Math.ceil(size.height / side)];
  const shown = ['-map', '0:v:0', '-fps_mode', 'passthrough'];
  const matrix = facts.isRgb ? ':out_color_matrix=bt709' : '';
  const scaled = facts.hasAlpha
    ? `scale=${columns}:${rows}:flags=area,format=rgba`
    : `scale=${columns}:${rows}:flags=area${matrix}:out_range=tv,format=yuv444p`;
  const {
    program,
    out,
    side: digests,
    ended,
  } = startFfmpeg([
    ...(facts.decoder === null ? [] : ['-c:v', facts.decoder]),
    ...['-threads', `${DECODING_THREADS}`, '-noautorotate', '-i', file, ...shown, '-vf', scaled, '-f', 'rawvideo', 'pipe:1'],
    ...[...shown, '-flush_packets', '1', '-f', 'framehash', '-hash', 'MURMUR3', 'pipe:3'],
  ]);
  const given: string[] = [];
  // Pictures that were told before their digest came: theirs is passed over.
  let overdue = 0;
  const lines = createInterface({ input: digests });
  lines.on('line', (line) => {
    if (line.startsWith('#')) return;
    if (overdue > 0) overdue--;
    else given.push(line.split(',').at(-1)?.trim() ?? '');
  });
  const allGiven = new Promise<void>((resolve) => lines.once('close', resolve));
  // A digest may come some frames after its picture. None is waited for while pictures come: ffmpeg writes both and would wait, too.
  const waiting: Blocks[] = [];
  const next = (): OutsideFrame => {
    const fingerprint = given.shift();
    if (fingerprint === undefined) overdue++;
    return { kind: 'seen', blocks: waiting.shift() as Blocks, fingerprint: fingerprint || null, size };
  };
  try {
    for await (const planes of piecesOf(out, columns * rows * (facts.hasAlpha ? 4 : 3))) {
      waiting.push(facts.hasAlpha ? blocksOfRgba(columns, rows, planes) : { columns, rows, planes });
      while (waiting.length > 0 && (given.length > 0 || waiting.length > MOST_WAITING)) yield next();
    }
    const complaint = await ended;
    await allGiven;
    while (waiting.length > 0) yield next();
    // What was decoded before it broke counts; the list says how many there should have been.
    if (complaint !== null) throw new Undecodable(complaint);
  } finally {
    program.kill('SIGKILL');
  }
}

/** So many pictures wait for their digests at most; one whose digest comes later still is told without. */
const MOST_WAITING = 200;

const SAMPLES_AT_ONCE = 16_384;

/** The sound of a file as ffmpeg decodes it. */
const soundByFfmpeg = (file: string): SoundDecoding =>
  async function* decoded(input, track, { sampleRate, stampedStart }) {
    const channels = await track.getNumberOfChannels();
    input.dispose();
    if ((await ffmpegVersion()) === null) throw new Undecodable(NO_FFMPEG);
    const { program, out, ended } = startFfmpeg([
      '-i',
      file,
      '-map',
      '0:a:0',
      '-ac',
      `${channels}`,
      '-ar',
      `${sampleRate}`,
      '-f',
      'f32le',
      'pipe:1',
    ]);
    try {
      let startSample = Math.max(0, stampedStart);
      for await (const part of floatsOf(out, channels)) {
        yield { startSample, channels: partedChannels(part, channels) };
        startSample += Math.floor(part.length / channels);
      }
      const complaint = await ended;
      if (complaint !== null) throw new Undecodable(complaint);
    } finally {
      program.kill('SIGKILL');
    }
  };

/** Samples of four bytes from a stream, in parts that hold as many of each channel. */
async function* floatsOf(stream: AsyncIterable<Buffer>, channels: number): AsyncGenerator<Float32Array> {
  let part = new Float32Array(SAMPLES_AT_ONCE * channels);
  let filledBytes = 0;
  for await (const chunk of stream) {
    for (let from = 0; from < chunk.byteLength; ) {
      const takenBytes = Math.min(part.byteLength - filledBytes, chunk.byteLength - from);
      new Uint8Array(part.buffer).set(chunk.subarray(from, from + takenBytes), filledBytes);
      filledBytes += takenBytes;
      from += takenBytes;
      if (filledBytes < part.byteLength) continue;
      yield part;
      part = new Float32Array(SAMPLES_AT_ONCE * channels);
      filledBytes = 0;
    }
  }
  if (filledBytes >= 4) yield part.subarray(0, filledBytes >> 2);
}

/** Samples of channels in turn, each channel for itself. */
function partedChannels(samples: Float32Array, channels: number): readonly Float32Array[] {
  if (channels === 1) return [samples];
  const length = Math.floor(samples.length / channels);
  return Array.from({ length: channels }, (_, channel) => {
    const own = new Float32Array(length);
    for (let sample = 0, from = channel; sample < length; sample++, from += channels) own[sample] = samples[from] as number;
    return own;
  });
}

/** SHA-256 of a file on the disk, worked out by Node itself. */
async function digestOfFile(file: string): Promise<string> {
  const hash = createHash('sha256');
  for await (const part of createReadStream(file, { highWaterMark: 1 << 20 })) hash.update(part);
  return hash.digest('hex');
}

/** How a file that lies on the disk is decoded in Node; digests are worked out where they are wanted. */
export function decodersFor(file: string, blob: Blob, wantsDigests: boolean): Decoders {
  // Asked at once, since it is wanted once the packets were read.
  const facts = pixelFacts(file);
  return {
    frames: (input, _track, { size }) => {
      input.dispose();
      return framesByFfmpeg(file, size, facts);
    },
    sound: async (input) => readSound(input, blob, await isMatroska(input), new AbortController().signal, soundByFfmpeg(file)),
    digest: wantsDigests ? () => digestOfFile(file) : null,
  };
}

async function isMatroska(input: Parameters<Decoders['sound']>[0]): Promise<boolean> {
  return /matroska|webm/i.test((await input.getFormat()).name);
}
