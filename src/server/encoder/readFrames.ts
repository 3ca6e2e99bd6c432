import { execFile, spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { promisify } from 'node:util';
import { piecesOf } from '@/core/bytes';
import type { ReadingLine } from '@/core/output/outsideFilm';
import { fingerprintOf } from '@/core/raster/digest';
import { signatureOfPixels } from '@/core/raster/pictureSignature';
import { i420aPlanes, i420Planes, signatureOfPlanes } from '@/core/raster/signature';
import { i420Bytes } from '@/core/raster/yuv';
import { i420aBytes } from '@/core/raster/yuva';
import { lastWords } from '@/server/encoder/encodeFilm';

/*
 * Reads a film that browsers can't decode: everything it does follows from the file alone. Films of colours give their pixels;
 * films of brightness and colour differences give the planes other films are compared by.
 */

type FilmFacts = { readonly width: number; readonly height: number; readonly pixels: string };

async function factsOf(file: string): Promise<FilmFacts | null> {
  const { stdout } = await promisify(execFile)('ffprobe', [
    ...['-v', 'error', '-select_streams', 'v:0', '-show_entries', 'stream=width,height,pix_fmt', '-of', 'json'],
    file,
  ]);
  const [stream] = (JSON.parse(stdout) as { streams: { width?: number; height?: number; pix_fmt?: string }[] }).streams;
  return stream?.width && stream.height && stream.pix_fmt ? { width: stream.width, height: stream.height, pixels: stream.pix_fmt } : null;
}

/** How frames of a pixel format are asked for and what is made of each. */
function readingOf({ width, height, pixels }: FilmFacts): {
  readonly asked: string;
  readonly bytes: number;
  readonly read: (frame: Uint8Array) => Promise<ReadingLine>;
} {
  const hasAlpha = /^(yuva|gbrap|rgba|bgra|argb|abgr|ya)/.test(pixels);
  const signed = (signature: Uint8Array) => Buffer.from(signature).toString('base64');
  if (pixels.startsWith('yuv')) {
    const planes = hasAlpha ? i420aPlanes(width, height) : i420Planes(width, height);
    return {
      asked: hasAlpha ? 'yuva420p' : 'yuv420p',
      bytes: hasAlpha ? i420aBytes(width, height) : i420Bytes(width, height),
      read: async (frame) => ({ kind: 'frame', fingerprint: null, signature: signed(signatureOfPlanes(frame, planes)) }),
    };
  }
  // Of more than eight bits a colour, eight are compared; with transparency they come out nearly as they went in.
  const isNear = hasAlpha && /10|12|14|16|64/.test(pixels);
  return {
    asked: 'rgba',
    bytes: width * height * 4,
    read: async (frame) => ({
      kind: 'frame',
      fingerprint: await fingerprintOf(frame),
      signature: isNear ? signed(signatureOfPixels(width, height, frame, true)) : null,
    }),
  };
}

async function digestOf(file: string): Promise<string> {
  const hash = createHash('sha256');
  for await (const bytes of createReadStream(file)) hash.update(bytes as Buffer);
  return hash.digest('hex');
}

/** Decodes every frame of a film, in the order they are shown, and tells of each what it is known by. */
export async function* readFrames(file: string): AsyncGenerator<ReadingLine> {
  yield { kind: 'file', digest: await digestOf(file) };
  const facts = await factsOf(file);
  if (!facts) {
    yield { kind: 'failed', reason: 'the file holds no film' };
    return;
  }
  const { asked, bytes, read } = readingOf(facts);
  const shown = ['-map', '0:v:0', '-fps_mode', 'passthrough', '-pix_fmt', asked, '-f', 'rawvideo', 'pipe:1'];
  const program = spawn('ffmpeg', ['-hide_banner', '-nostdin', '-v', 'error', '-i', file, ...shown], { stdio: ['ignore', 'pipe', 'pipe'] });
  let complaint = '';
  program.stderr.on('data', (words) => {
    complaint += String(words).slice(0, 500);
  });
  const ended = new Promise<number | null>((resolve) => {
    program.on('error', () => resolve(null));
    program.on('close', resolve);
  });
  let frames = 0;
  try {
    for await (const frame of piecesOf(program.stdout, bytes)) {
      frames++;
      yield await read(frame);
    }
    if ((await ended) === 0) yield { kind: 'end', frames };
    else yield { kind: 'failed', reason: lastWords(complaint) };
  } finally {
    program.kill('SIGKILL');
  }
}
