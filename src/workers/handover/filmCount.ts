import { BlobSource, EncodedPacketSink, Input, MP4, type VideoSample, VideoSampleSink, WEBM } from 'mediabunny';
import { type FileTimes, mistimedFrames, rateOfTimes } from '@/core/handover/fileTimes';
import type { FrameJudge } from '@/core/handover/frameJudge';
import type { Counted } from '@/core/handover/receipt';
import { i420Planes, type Plane, signatureOfPlanes } from '@/core/raster/signature';
import type { Rate } from '@/core/time/rate';
import type { FilmKind } from '@/workers/handover/filmCodec';

type FilmCounted = Pick<
  Counted,
  'frames' | 'rate' | 'durationMicroseconds' | 'timeToleranceMicroseconds' | 'width' | 'height' | 'mistimedFrames'
>;

/** WebM counts time in thousandths of a second; MP4 as finely as its rate needs. */
const QUANTUM_MICROSECONDS: Record<FilmKind, number> = { mp4: 1, webm: 1000 };

const FRAMES_A_REPORT = 12;

/** Signature of a decoded frame, straight from its Y, U and V planes. */
async function signatureOfSample(sample: VideoSample, buffer: Uint8Array): Promise<Uint8Array> {
  const { codedWidth: width, codedHeight: height } = sample;
  if (sample.format !== 'I420') throw new Error(`A decoded frame came as ${sample.format}, not as the I420 that was written.`);
  const layout = await sample.copyTo(buffer);
  const tight = i420Planes(width, height);
  const planes = tight.map((plane, index) => ({
    ...plane,
    offset: layout[index]?.offset ?? plane.offset,
    stride: layout[index]?.stride ?? plane.stride,
  })) as [Plane, Plane, Plane];
  return signatureOfPlanes(buffer, planes);
}

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
  let frames = 0;
  let buffer = new Uint8Array(0);
  for await (const sample of new VideoSampleSink(track).samples()) {
    stop.throwIfAborted();
    if (buffer.byteLength < sample.allocationSize()) buffer = new Uint8Array(sample.allocationSize());
    judge.take(frames, await signatureOfSample(sample, buffer));
    sample.close();
    frames++;
    if (frames % FRAMES_A_REPORT === 0) onFrames(frames);
  }
  onFrames(frames);
  return {
    frames,
    rate: rateOfTimes(times, asked),
    durationMicroseconds: (starts.at(-1) ?? 0) + lastDuration,
    timeToleranceMicroseconds: times.quantumMicroseconds,
    width: await track.getCodedWidth(),
    height: await track.getCodedHeight(),
    mistimedFrames: mistimedFrames(times, asked),
  };
}
