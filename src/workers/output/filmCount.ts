import { BlobSource, Input, type InputVideoTrack, MP4, VideoSampleSink, WEBM } from 'mediabunny';
import { rateOfTimes } from '@/core/count/fileTimes';
import type { FrameJudge } from '@/core/count/frameJudge';
import type { Counted } from '@/core/count/receipt';
import { signatureOfPlanes } from '@/core/raster/signature';
import type { FilmKind } from '@/workers/output/filmCodec';
import { editListOf, readFilmTimes } from '@/workers/output/filmTimes';
import { PlaneReader } from '@/workers/output/framePlanes';

type FilmCounted = Pick<
  Counted,
  | 'frames'
  | 'hasTimes'
  | 'rate'
  | 'otherRates'
  | 'durationMicroseconds'
  | 'timeToleranceMicroseconds'
  | 'width'
  | 'height'
  | 'mistimedFrames'
> & {
  /** Why the frames could not be decoded, and so were counted by the file's own list; null when every one was. */
  readonly undecoded: string | null;
};

const FRAMES_A_REPORT = 12;

/** Opens a written film, reads the times of its frames, decodes every one a player shows and hands it to the judge. It is told nothing of what was asked for. */
export async function countFilm(
  file: Blob,
  kind: FilmKind,
  judge: FrameJudge,
  stop: AbortSignal,
  onFrames: (framesDone: number) => void,
): Promise<FilmCounted> {
  const input = new Input({ source: new BlobSource(file), formats: [MP4, WEBM] });
  try {
    return await countInput(input, kind === 'mp4' ? await editListOf(file) : null, kind === 'mp4', judge, stop, onFrames);
  } finally {
    input.dispose();
  }
}

/** Decodes every frame a player shows and hands it to the judge, as often as it is shown; why that can't be done in this browser, null when it was done. */
async function decodeAll(
  track: InputVideoTrack,
  shownSeconds: readonly number[],
  judge: FrameJudge,
  stop: AbortSignal,
  onFrames: (framesDone: number) => void,
): Promise<string | null> {
  const reader = new PlaneReader();
  const stampOf = (seconds: number) => Math.round(seconds * 1e6);
  const timesShown = new Map<number, number>();
  for (const seconds of shownSeconds) timesShown.set(stampOf(seconds), (timesShown.get(stampOf(seconds)) ?? 0) + 1);
  // The graphics card's decoder is quicker at watching; here every frame is copied out, which it is slow at.
  const sink = new VideoSampleSink(track, { hardwareAcceleration: 'prefer-software' });
  try {
    for await (const sample of sink.samples()) {
      try {
        stop.throwIfAborted();
        const shown = timesShown.get(stampOf(sample.timestamp)) ?? 0;
        if (shown === 0) continue;
        const { data, planes } = await reader.read(sample);
        const seen = signatureOfPlanes(data, planes);
        for (let time = 0; time < shown; time++) judge.take(judge.framesTaken, seen);
      } finally {
        sample.close();
      }
      if (judge.framesTaken % FRAMES_A_REPORT === 0) onFrames(judge.framesTaken);
    }
    onFrames(judge.framesTaken);
    return null;
  } catch (error) {
    if (stop.aborted) throw error;
    return error instanceof Error ? error.message : 'its decoder gave no reason';
  }
}

async function countInput(
  input: Input,
  edits: Awaited<ReturnType<typeof editListOf>>,
  areTicksExact: boolean,
  judge: FrameJudge,
  stop: AbortSignal,
  onFrames: (framesDone: number) => void,
): Promise<FilmCounted> {
  const track = await input.getPrimaryVideoTrack();
  if (!track) throw new Error('The written file holds no film.');
  const times = await readFilmTimes(track, edits, areTicksExact);
  const undecoded = await decodeAll(track, times.shownSeconds, judge, stop, onFrames);
  const { rates, mistimedFrames } = rateOfTimes(times);
  const frames = times.startMicroseconds.length;
  return {
    frames: undecoded === null ? judge.framesTaken : frames,
    hasTimes: true,
    undecoded,
    rate: rates[0] ?? null,
    otherRates: rates.slice(1),
    durationMicroseconds:
      times.lastDurationMicroseconds === null ? null : (times.startMicroseconds.at(-1) ?? 0) + times.lastDurationMicroseconds,
    timeToleranceMicroseconds: Math.max(1, times.tickMicroseconds),
    width: await track.getCodedWidth(),
    height: await track.getCodedHeight(),
    mistimedFrames,
  };
}
