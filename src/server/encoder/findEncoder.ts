import { execFile } from 'node:child_process';
import { promisify } from 'node:util';
import { OUTSIDE_CODECS, type OutsideCodec } from '@/core/output/film';
import { NO_ENCODER, type OutsideEncoder } from '@/core/output/outsideFilm';

const run = promisify(execFile);

/** What the encoder calls its coders. */
export const CODER_NAMES: Readonly<Record<OutsideCodec, string>> = { ffv1: 'ffv1', png: 'png', prores: 'prores_ks' };

async function versionOf(program: string): Promise<string | null> {
  try {
    const { stdout } = await run(program, ['-version'], { timeout: 10_000 });
    return /version (\S+)/.exec(stdout)?.[1] ?? null;
  } catch {
    // Whatever keeps it from running, it is not there to be used.
    return null;
  }
}

/** Looks for ffmpeg and its reader on the path, each time anew: it may be installed while Lime Tick runs. */
export async function findEncoder(): Promise<OutsideEncoder> {
  const [version, reader] = await Promise.all([versionOf('ffmpeg'), versionOf('ffprobe')]);
  if (version === null || reader === null) return { found: false, reason: NO_ENCODER };
  const { stdout } = await run('ffmpeg', ['-hide_banner', '-encoders'], { timeout: 10_000 });
  const coders = new Set(stdout.split('\n').map((line) => line.trim().split(/\s+/)[1]));
  return { found: true, version, codecs: OUTSIDE_CODECS.filter((codec) => coders.has(CODER_NAMES[codec])) };
}
