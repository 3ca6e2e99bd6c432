import { stat } from 'node:fs/promises';
import { sameSize } from '@/core/document/size';
import { readPngSize } from '@/core/format/png/header';
import { VIDEO_CODEC_NAMES } from '@/core/output/film';
import type { EncodingLine, OutsideEncoder, OutsideOrder, OutsideRun, ReadingLine } from '@/core/output/outsideFilm';
import { encodeFilm } from '@/server/encoder/encodeFilm';
import { beginJob, type EncoderJob, endJob, filmPath, jobOf, keepPicture, keepSound } from '@/server/encoder/encoderJob';
import { findEncoder } from '@/server/encoder/findEncoder';
import { readFrames } from '@/server/encoder/readFrames';
import { type Answer, answered, notFound, unprocessable } from '@/server/service/answer';
import { fileBytes } from '@/server/service/fileBytes';

const GONE = 'That film is not being made here any more: hand it over again.';
const NO_ROOM = 'There is no room left on the disk of the computer Lime Tick runs on. Make room there and hand over again.';
const BYTES_A_SAMPLE = 4;

const isFull = (error: unknown): boolean =>
  error instanceof Error && 'code' in error && (error.code === 'ENOSPC' || error.code === 'EDQUOT');

/** What is written to the disk, or that it is full. */
async function written(act: () => Promise<void>): Promise<Answer<null>> {
  try {
    await act();
    return answered(null);
  } catch (error) {
    if (!isFull(error)) throw error;
    return unprocessable(NO_ROOM);
  }
}

const withJob = async <T>(id: string, act: (job: EncoderJob) => Promise<Answer<T>>): Promise<Answer<T>> => {
  const job = jobOf(id);
  return job ? act(job) : notFound(GONE);
};

const withFilm = <T>(id: string, act: (job: EncoderJob, sizeBytes: number) => Promise<Answer<T>>): Promise<Answer<T>> =>
  withJob(id, async (job) => {
    const file = await stat(filmPath(job)).catch(() => null);
    return file ? act(job, file.size) : notFound('That film is not encoded yet.');
  });

/** The outside encoder that is there. */
export const outsideEncoder = (): Promise<OutsideEncoder> => findEncoder();

/** Begins a film with the outside encoder. */
export async function beginOutsideFilm(order: OutsideOrder): Promise<Answer<{ id: string }>> {
  const encoder = await findEncoder();
  if (!encoder.found) return unprocessable(encoder.reason);
  if (!encoder.codecs.includes(order.codec))
    return unprocessable(
      `The ffmpeg that is there (${encoder.version}) was made without ${VIDEO_CODEC_NAMES[order.codec]}: choose another picture coding.`,
    );
  const job = await beginJob(order);
  return job
    ? answered({ id: job.id })
    : unprocessable('Several films are being encoded already: hand over again when one of them is done.');
}

/** Takes one of its pictures: a PNG of the film's size. */
export const takeOutsidePicture = (id: string, picture: number, png: Uint8Array): Promise<Answer<null>> =>
  withJob(id, async (job) => {
    const size = readPngSize(png);
    if (!size.ok || !sameSize(size.value, job.order))
      return unprocessable('A picture of the film is no PNG of its size. Nothing was encoded: hand over again.');
    return written(() => keepPicture(job, picture, png));
  });

/** Takes a part of its sound: 32-bit floats from a sample on, one of each channel after another. */
export const takeOutsideSound = (id: string, fromSample: number, samples: Uint8Array): Promise<Answer<null>> =>
  withJob(id, async (job) => {
    const { sound } = job.order;
    const sampleBytes = (sound?.channels ?? 0) * BYTES_A_SAMPLE;
    if (!sound || samples.byteLength % sampleBytes !== 0 || fromSample + samples.byteLength / sampleBytes > sound.samples)
      return unprocessable('The sound that came is not the sound that was said to come. Nothing was encoded: hand over again.');
    return written(() => keepSound(job, fromSample * sampleBytes, samples));
  });

/** Has the film made, once all of it is there. */
export const encodeOutsideFilm = (id: string, runs: readonly OutsideRun[]): Promise<Answer<AsyncGenerator<EncodingLine>>> =>
  withJob(id, async (job) => {
    const { frames, sound } = job.order;
    const missing = runs.find(({ picture }) => !job.pictures.has(picture));
    const total = runs.reduce((sum, run) => sum + run.frames, 0);
    const isHeard = job.soundBytes === (sound?.samples ?? 0) * (sound?.channels ?? 0) * BYTES_A_SAMPLE;
    if (missing || total !== frames || !isHeard)
      return unprocessable('Not all of the film came over, so it was not encoded: hand over again.');
    return answered(encodeFilm(job, runs));
  });

/** The film's file. */
export const outsideFilmFile = (id: string): Promise<Answer<{ sizeBytes: number; bytes: AsyncIterable<Uint8Array> }>> =>
  withFilm(id, async (job, sizeBytes) => answered({ sizeBytes, bytes: fileBytes(filmPath(job)) }));

/** The film's frames, as they are decoded here. */
export const outsideFilmFrames = (id: string): Promise<Answer<AsyncGenerator<ReadingLine>>> =>
  withFilm(id, async (job) => answered(readFrames(filmPath(job))));

/** Lets a film go, with all that was kept for it; one that is being made is stopped. */
export const letGoOfOutsideFilm = (id: string): Promise<void> => endJob(id);
