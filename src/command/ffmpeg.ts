import { type ChildProcess, execFile, spawn } from 'node:child_process';
import type { Readable } from 'node:stream';
import { promisify } from 'node:util';

/*
 * Pixels and samples are decoded by ffmpeg where it is on the path: it is found, never installed. Every frame is brought down to
 * blocks by it, so that little comes through the pipe, and its own digest of the whole frame comes beside it.
 */

/** What ffmpeg says of a film's pixels. */
export type PixelFacts = { readonly format: string; readonly isRgb: boolean; readonly hasAlpha: boolean };

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

/** What ffprobe says of the first film's pixels; null where it finds none. */
export async function pixelFacts(file: string): Promise<PixelFacts | null> {
  try {
    const args = ['-v', 'error', '-select_streams', 'v:0', '-show_entries', 'stream=pix_fmt', '-of', 'default=nw=1:nk=1', file];
    const format = (await run('ffprobe', args)).stdout.trim().split('\n')[0] ?? '';
    if (!format) return null;
    return {
      format,
      isRgb: /^(rgb|bgr|gbr|argb|abgr|rgba|bgra|0rgb|0bgr|pal8|gray|mono|ya)/.test(format),
      hasAlpha: /^(yuva|gbrap|rgba|bgra|argb|abgr|ya|pal8)/.test(format),
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
