import {
  AudioSample,
  AudioSampleSink,
  AudioSampleSource,
  BufferTarget,
  CanvasSource,
  canEncodeAudio,
  type Input,
  type InputAudioTrack,
  Output,
  WebMOutputFormat,
} from 'mediabunny';
import type { Size } from '@/core/document/model';
import type { BenchResult } from '@/core/outside/editingBench';
import type { DeskBenchFilm } from '@/workers/count/deskProtocol';
import { openInput } from '@/workers/count/openFilm';

/** The film that comes out of the bench is there to be looked at: no wider than this. */
export const BENCH_WIDTH_PX = 640;

const BITS_A_SECOND = 2_000_000;

const SOUND_BITS_A_SECOND = 128_000;

/** A film whose sound is laid so many seconds later than its picture. */
export type BenchSound = { readonly file: Blob; readonly lateSeconds: number };

/** A part of a sound moved along; without what then lies before the beginning, and null where that is all of it. Closes the part. */
function moved(part: AudioSample, lateSeconds: number): AudioSample | null {
  const { sampleRate, numberOfFrames, numberOfChannels } = part;
  const startSeconds = part.timestamp + lateSeconds;
  const skipped = Math.max(0, Math.ceil(-startSeconds * sampleRate));
  if (skipped >= numberOfFrames) {
    part.close();
    return null;
  }
  const samples = numberOfFrames - skipped;
  const data = new Float32Array(samples * numberOfChannels);
  for (let channel = 0; channel < numberOfChannels; channel++)
    part.copyTo(data.subarray(channel * samples, (channel + 1) * samples), {
      planeIndex: channel,
      format: 'f32-planar',
      frameOffset: skipped,
      frameCount: samples,
    });
  part.close();
  return new AudioSample({ data, format: 'f32-planar', numberOfChannels, sampleRate, timestamp: Math.max(0, startSeconds) });
}

/** The track of a sound, or why it can't be in the film. */
async function soundTrack(input: Input): Promise<InputAudioTrack | string> {
  const track = await input.getPrimaryAudioTrack();
  if (!track || !(await track.canDecode())) return 'this browser doesn’t decode it';
  const [numberOfChannels, sampleRate] = [await track.getNumberOfChannels(), await track.getSampleRate()];
  const canEncode = await canEncodeAudio('opus', { bitrate: SOUND_BITS_A_SECOND, numberOfChannels, sampleRate });
  return canEncode ? track : 'this browser doesn’t write such sound';
}

/** Adds a film's sound to an output, before that is started; gives how it is written then, or why there is none. */
async function addSound(output: Output, { file, lateSeconds }: BenchSound): Promise<(() => Promise<void>) | string> {
  const input = openInput(file);
  const track = await soundTrack(input);
  if (typeof track === 'string') {
    input.dispose();
    return track;
  }
  const source = new AudioSampleSource({ codec: 'opus', bitrate: SOUND_BITS_A_SECOND });
  output.addAudioTrack(source);
  return async () => {
    try {
      for await (const part of new AudioSampleSink(track).samples()) {
        const sample = moved(part, lateSeconds);
        if (!sample) continue;
        await source.add(sample);
        sample.close();
      }
    } finally {
      source.close();
      input.dispose();
    }
  };
}

/**
 * Writes what comes out of the bench as a WebM (VP8, which every browser has, and Opus where there is sound and the browser writes it);
 * `picture` gives a frame of the file. `onFrame` may throw to stop it.
 */
export async function writeBenchFilm(
  { sourceOf, rate }: BenchResult,
  size: Size,
  picture: (frame: number) => Promise<ImageBitmap | null>,
  sound: BenchSound | null,
  onFrame: (frames: number) => void,
): Promise<DeskBenchFilm> {
  const scale = Math.min(1, BENCH_WIDTH_PX / size.width);
  const even = (side: number) => Math.max(2, Math.round((side * scale) / 2) * 2);
  const canvas = new OffscreenCanvas(even(size.width), even(size.height));
  const context = canvas.getContext('2d');
  if (!context) throw new Error('There is no memory for a picture of this size.');
  const target = new BufferTarget();
  const output = new Output({ format: new WebMOutputFormat(), target });
  const source = new CanvasSource(canvas, { codec: 'vp8', bitrate: BITS_A_SECOND });
  output.addVideoTrack(source, { frameRate: rate.num / rate.den });
  const laid = sound && (await addSound(output, sound));
  await output.start();
  const pictures = async () => {
    let shown: number | null | undefined;
    for (const [frame, from] of sourceOf.entries()) {
      if (from !== shown) {
        context.fillStyle = '#000000';
        context.fillRect(0, 0, canvas.width, canvas.height);
        const bitmap = from === null ? null : await picture(from);
        if (bitmap) {
          context.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
          bitmap.close();
        }
        shown = from;
      }
      await source.add((frame * rate.den) / rate.num, rate.den / rate.num);
      onFrame(frame + 1);
    }
    source.close();
  };
  try {
    await Promise.all([pictures(), typeof laid === 'function' ? laid() : null]);
    await output.finalize();
  } catch (error) {
    await output.cancel().catch(() => undefined);
    throw error;
  }
  if (!target.buffer) throw new Error('The film could not be written.');
  return { film: new Blob([target.buffer], { type: 'video/webm' }), unheard: typeof laid === 'string' ? laid : null };
}
