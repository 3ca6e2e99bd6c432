import { BlobSource, EncodedPacketSink, Input, type InputVideoTrack, MP4, VideoSampleSink, WEBM } from 'mediabunny';
import { type FileTimes, mistimedFrames, rateOfTimes } from '@/core/handover/fileTimes';
import type { FrameJudge } from '@/core/handover/frameJudge';
import type { Counted } from '@/core/handover/receipt';
import { signatureOfPlanes } from '@/core/raster/signature';
import type { Rate } from '@/core/time/rate';
import type { FilmKind } from '@/workers/handover/filmCodec';
import { PlaneReader } from '@/workers/handover/framePlanes';

type FilmCounted = Pick<
  Counted,
  'frames' | 'rate' | 'durationMicroseconds' | 'timeToleranceMicroseconds' | 'width' | 'height' | 'mistimedFrames'
> & {
  /** Why the frames could not be decoded, and so were counted by the file's own list; null when every one was. */
  readonly undecoded: string | null;
};

/** WebM counts time in thousandths of a second; MP4 as finely as its rate needs. */
const QUANTUM_MICROSECONDS: Record<FilmKind, number> = { mp4: 1, webm: 1000 };

const FRAMES_A_REPORT = 12;

/** Opens a written film, reads the times of its frames, decodes every one and hands it to the judge. */
export async function countFilm(
  file: Blob,
  kind: FilmKind,
  asked: Rate,
  judge: FrameJudge,
  stop: AbortSignal,
  onFrames: (framesDone: number) => void,
): Promise<FilmCounted> {
  const input = new Input({ source: new BlobSource(file), formats: [MP4, WEBM] });
  try {
    return await countInput(input, kind, asked, judge, stop, onFrames);
  } finally {
    input.dispose();
  }
}

/** Decodes every frame and hands it to the judge; why that can't be done in this browser, null when it was done. */
async function decodeAll(
  track: InputVideoTrack,
  judge: FrameJudge,
  stop: AbortSignal,
  onFrames: (framesDone: number) => void,
): Promise<string | null> {
  const reader = new PlaneReader();
  // The graphics card's decoder is quicker at watching; here every frame is copied out, which it is slow at.
  const sink = new VideoSampleSink(track, { hardwareAcceleration: 'prefer-software' });
  try {
    for await (const sample of sink.samples()) {
      try {
        stop.throwIfAborted();
        const { data, planes } = await reader.read(sample);
        judge.take(judge.framesTaken, signatureOfPlanes(data, planes));
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
  kind: FilmKind,
  asked: Rate,
  judge: FrameJudge,
  stop: AbortSignal,
  onFrames: (framesDone: number) => void,
): Promise<FilmCounted> {
  const track = await input.getPrimaryVideoTrack();
  if (!track) throw new Error('The written file holds no film.');
  const starts: number[] = [];
  let lastDuration = 0;
  for await (const packet of new EncodedPacketSink(track).packets(undefined, undefined, { metadataOnly: true })) {
    starts.push(packet.timestamp * 1e6);
    lastDuration = packet.duration * 1e6;
  }
  starts.sort((a, b) => a - b);
  const times: FileTimes = {
    startMicroseconds: starts,
    lastDurationMicroseconds: lastDuration,
    quantumMicroseconds: QUANTUM_MICROSECONDS[kind],
  };
  const undecoded = await decodeAll(track, judge, stop, onFrames);
  return {
    frames: undecoded === null ? judge.framesTaken : starts.length,
    undecoded,
    rate: rateOfTimes(times, asked),
    durationMicroseconds: (starts.at(-1) ?? 0) + lastDuration,
    timeToleranceMicroseconds: times.quantumMicroseconds,
    width: await track.getCodedWidth(),
    height: await track.getCodedHeight(),
    mistimedFrames: mistimedFrames(times, asked),
  };
}
