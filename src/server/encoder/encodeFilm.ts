import { spawn } from 'node:child_process';
import { stat, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { createInterface } from 'node:readline';
import type { EncodingLine, OutsideRun } from '@/core/output/outsideFilm';
import { encoderArguments, pictureList } from '@/server/encoder/encoderCall';
import { type EncoderJob, filmFile, filmPath, listFile, soundFile } from '@/server/encoder/encoderJob';

const MOST_COMPLAINT = 2000;

/** What a program says went wrong, in its last words. */
export const lastWords = (complaint: string): string => complaint.trim().split('\n').at(-1)?.trim() || 'it gave no reason';

/** Has the encoder make the film of a job, telling how many frames it has encoded. A stop ends it at once. */
export async function* encodeFilm(job: EncoderJob, runs: readonly OutsideRun[]): AsyncGenerator<EncodingLine> {
  await writeFile(path.join(job.folder, listFile), pictureList(runs, job.order.rate));
  const args = encoderArguments(job.order, listFile, soundFile, filmFile(job));
  const program = spawn('ffmpeg', args, { cwd: job.folder, stdio: ['ignore', 'pipe', 'pipe'] });
  const stop = () => program.kill('SIGKILL');
  job.stop.signal.addEventListener('abort', stop);
  let complaint = '';
  program.stderr.on('data', (words) => {
    complaint = (complaint + String(words)).slice(-MOST_COMPLAINT);
  });
  const ended = new Promise<number | null>((resolve) => {
    program.on('error', (error) => {
      complaint = error.message;
      resolve(null);
    });
    program.on('close', resolve);
  });
  try {
    for await (const line of createInterface({ input: program.stdout })) {
      const [name, value] = line.split('=');
      if (name === 'frame') yield { kind: 'encoded', frames: Number(value) };
    }
    const status = await ended;
    if (status === 0) yield { kind: 'done', sizeBytes: (await stat(filmPath(job))).size };
    else yield { kind: 'failed', reason: lastWords(complaint) };
  } finally {
    // Who goes away in the middle has it stopped.
    job.stop.signal.removeEventListener('abort', stop);
    stop();
  }
}
