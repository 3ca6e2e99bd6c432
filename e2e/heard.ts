import { execFileSync } from 'node:child_process';

type HeardByFfmpeg = { readonly samples: number; readonly clickAt: number };

/** What ffmpeg hears of a film: how many samples from the film's beginning, and where the first loud one is. */
export function heardByFfmpeg(file: string): HeardByFfmpeg {
  // Stamps as the file has them: sound that comes before the picture's beginning is not heard.
  const raw = execFileSync(
    'ffmpeg',
    ['-v', 'error', '-copyts', '-i', file, '-map', '0:a', '-af', 'aresample=async=1:first_pts=0', '-f', 'f32le', '-ac', '1', '-'],
    { maxBuffer: 256 * 1024 * 1024 },
  );
  const samples = new Float32Array(raw.buffer.slice(raw.byteOffset, raw.byteOffset + raw.byteLength));
  return { samples: samples.length, clickAt: samples.findIndex((value) => Math.abs(value) > 0.3) };
}
