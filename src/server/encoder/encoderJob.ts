import { randomUUID } from 'node:crypto';
import { rmSync } from 'node:fs';
import { mkdtemp, open, readdir, rm, stat, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { OutsideOrder } from '@/core/output/outsideFilm';
import { pictureName } from '@/server/encoder/encoderCall';

/*
 * A film being encoded has a folder of its own among the temporary files, with its pictures, its sound, and at last the film.
 * It is there until whoever began it lets it go, or has asked for nothing for half an hour, or the server ends.
 */

const PREFIX = 'lime-tick-film-';
const IDLE_MILLISECONDS = 30 * 60_000;
const OLD_MILLISECONDS = 24 * 60 * 60_000;
export const MOST_JOBS = 8;

export type EncoderJob = {
  readonly id: string;
  readonly order: OutsideOrder;
  readonly folder: string;
  readonly pictures: Set<number>;
  soundBytes: number;
  /** Stops the encoder while it works. */
  stop: AbortController;
  idle: NodeJS.Timeout;
};

// Routes are bundled apart, and are to see the same jobs.
const shared = globalThis as typeof globalThis & { limeTickEncoderJobs?: Map<string, EncoderJob> };
const jobs = (): Map<string, EncoderJob> => {
  if (!shared.limeTickEncoderJobs) {
    const begun = new Map<string, EncoderJob>();
    shared.limeTickEncoderJobs = begun;
    process.once('exit', () => {
      for (const { stop, folder } of begun.values()) {
        stop.abort();
        rmSync(folder, { recursive: true, force: true });
      }
    });
  }
  return shared.limeTickEncoderJobs;
};

/** Removes folders that a server left which ended before it could. */
async function clearOldFolders(): Promise<void> {
  for (const name of await readdir(tmpdir())) {
    if (!name.startsWith(PREFIX)) continue;
    const folder = path.join(tmpdir(), name);
    const made = await stat(folder).catch(() => null);
    if (made && Date.now() - made.mtimeMs > OLD_MILLISECONDS) await rm(folder, { recursive: true, force: true });
  }
}

const idleTimer = (id: string): NodeJS.Timeout => setTimeout(() => void endJob(id), IDLE_MILLISECONDS).unref();

/** Begins a job; null while as many as are kept at a time are there. */
export async function beginJob(order: OutsideOrder): Promise<EncoderJob | null> {
  if (jobs().size >= MOST_JOBS) return null;
  await clearOldFolders();
  const id = randomUUID();
  const folder = await mkdtemp(path.join(tmpdir(), PREFIX));
  const job = { id, order, folder, pictures: new Set<number>(), soundBytes: 0, stop: new AbortController(), idle: idleTimer(id) };
  jobs().set(id, job);
  return job;
}

/** A job that is there; undefined for one that was let go. */
export function jobOf(id: string): EncoderJob | undefined {
  const job = jobs().get(id);
  if (job) job.idle.refresh();
  return job;
}

/** Ends a job: stops what it does and removes its folder. */
export async function endJob(id: string): Promise<void> {
  const job = jobs().get(id);
  if (!job) return;
  jobs().delete(id);
  clearTimeout(job.idle);
  job.stop.abort();
  await rm(job.folder, { recursive: true, force: true, maxRetries: 5 });
}

export const listFile = 'pictures.txt';
export const soundFile = 'sound.f32';
export const filmFile = ({ order }: EncoderJob): string => `film.${order.container}`;
export const filmPath = (job: EncoderJob): string => path.join(job.folder, filmFile(job));

/** Keeps a picture under its number. */
export async function keepPicture(job: EncoderJob, picture: number, png: Uint8Array): Promise<void> {
  await writeFile(path.join(job.folder, pictureName(picture)), png);
  job.pictures.add(picture);
}

/** Lays samples at a place of the sound, in bytes from its beginning. */
export async function keepSound(job: EncoderJob, fromByte: number, samples: Uint8Array): Promise<void> {
  const file = await open(path.join(job.folder, soundFile), job.soundBytes === 0 ? 'w' : 'r+');
  try {
    await file.write(samples, 0, samples.byteLength, fromByte);
  } finally {
    await file.close();
  }
  job.soundBytes = Math.max(job.soundBytes, fromByte + samples.byteLength);
}
