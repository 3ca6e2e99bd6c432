import { type ChildProcess, execFile, spawn } from 'node:child_process';
import type { Readable } from 'node:stream';
import { promisify } from 'node:util';
import { z } from 'zod';

/*
 * Pixels and samples are decoded by ffmpeg where it is on the path: it is found, never installed. Every frame is brought down to
 * blocks by it, so that little comes through the pipe, and its own digest of the whole frame comes beside it.
 */

/** What ffmpeg says of a film's pixels, and the decoder that must be asked for by name so that all of them are seen; null for any. */
export type PixelFacts = { readonly format: string; readonly isRgb: boolean; readonly hasAlpha: boolean; readonly decoder: string | null };

const run = promisify(execFile);

let found: Promise<string | null> | undefined;

/** The version of the ffmpeg on the path; null where there is none. */
export function ffmpegVersion(): Promise<string | null> {
  found ??= Promise.all([run('ffmpeg', ['-version']), run('ffprobe', ['-version'])]).then(
    ([{ stdout }]) => /version (\S+)/.exec(stdout)?.[1] ?? null,
    () => null,
  );
  return found;
}

/**
 * VP8 and VP9 keep transparency as a second film beside the first, marked by a tag; of ffmpeg's decoders only these read it (common
 * practice in WebM).
 */
const DECODERS_OF_ALPHA: Readonly<Record<string, string>> = { vp8: 'libvpx', vp9: 'libvpx-vp9' };

/** Whether the ffmpeg on the path was built with a decoder. */
const hasDecoder = (name: string): Promise<boolean> =>
  run('ffmpeg', ['-v', 'error', '-h', `decoder=${name}`]).then(
    ({ stdout }) => stdout.startsWith('Decoder '),
    () => false,
  );

const probedSchema = z.object({
  streams: z.array(
    z.object({ codec_name: z.string().optional(), pix_fmt: z.string().optional(), tags: z.record(z.string(), z.string()).optional() }),
  ),
});

/** What ffprobe says of the first film's pixels; null where it finds none. */
export async function pixelFacts(file: string): Promise<PixelFacts | null> {
  try {
    const shown = 'stream=codec_name,pix_fmt:stream_tags=alpha_mode';
    const args = ['-v', 'error', '-select_streams', 'v:0', '-show_entries', shown, '-of', 'json', file];
    const [stream] = probedSchema.parse(JSON.parse((await run('ffprobe', args)).stdout)).streams;
    const format = stream?.pix_fmt ?? '';
    if (!stream || !format) return null;
    const ofAlpha = stream.tags?.alpha_mode === '1' ? DECODERS_OF_ALPHA[stream.codec_name ?? ''] : undefined;
    const decoder = ofAlpha !== undefined && (await hasDecoder(ofAlpha)) ? ofAlpha : null;
    return {
      format,
      isRgb: /^(rgb|bgr|gbr|argb|abgr|rgba|bgra|0rgb|0bgr|pal8|gray|mono|ya)/.test(format),
      hasAlpha: decoder !== null || /^(yuva|gbrap|rgba|bgra|argb|abgr|ya|pal8)/.test(format),
      decoder,
    };
  } catch {
    // Whatever keeps it from being read, ffmpeg says so when it is asked for frames.
    return null;
  }
}

/** A run of ffmpeg: what comes out of it, and how it ends. */
export type FfmpegRun = {
  readonly program: ChildProcess;
  readonly out: Readable;
  readonly side: Readable;
  readonly ended: Promise<string | null>;
};

const MOST_COMPLAINT = 1000;

/** Starts ffmpeg with a pipe for what it writes and one beside it; `ended` is null when it went well, else its last words. */
export function startFfmpeg(args: readonly string[]): FfmpegRun {
  const program = spawn('ffmpeg', ['-hide_banner', '-nostdin', '-v', 'error', ...args], { stdio: ['ignore', 'pipe', 'pipe', 'pipe'] });
  let complaint = '';
  program.stderr?.on('data', (words) => {
    complaint = (complaint + String(words)).slice(-MOST_COMPLAINT);
  });
  const ended = new Promise<string | null>((resolve) => {
    program.on('error', (error) => resolve(error.message));
    program.on('close', (status) => resolve(status === 0 ? null : complaint.trim().split('\n').at(-1) || `it ended with ${status}`));
  });
  return { program, out: program.stdout as Readable, side: program.stdio[3] as Readable, ended };
}
