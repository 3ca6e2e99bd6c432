import { AudioSampleSink, type Input, type InputAudioTrack } from 'mediabunny';
import { type ReadSound, Undecodable } from '@/core/count/readBack';
import { readCodecDelay } from '@/core/format/matroska/readCodecDelay';
import { opusPriming } from '@/core/format/opus/opusHead';
import { eachPacket } from '@/workers/eachPacket';

/** The tracks are described at the beginning of a file. */
const BEGINNING_BYTES = 64 * 1024;
/** Files that count in milliseconds place their parts some samples off; a real gap is longer than this. */
const SAME_PLACE_SECONDS = 0.02;

/** Decodes a track part by part. Throws `Undecodable` where that can't be done here; lets go of `input` when all were walked. */
export type SoundDecoding = (input: Input, track: InputAudioTrack, placing: Placing, stop: AbortSignal) => ReadSound['parts'];

/**
 * The sound of a film: what its file says of it, and its samples where they are heard; null where it has none. Lets go of `input`
 * when all were walked. `decoding` is this browser's unless told.
 */
export async function readSound(
  input: Input,
  file: Blob,
  isMatroska: boolean,
  stop: AbortSignal,
  decoding: SoundDecoding = decoded,
): Promise<ReadSound | null> {
  const track = await input.getPrimaryAudioTrack();
  if (!track) {
    input.dispose();
    return null;
  }
  const codec = (await track.getCodec()) ?? 'unknown';
  const sampleRate = await track.getSampleRate();
  const delay = isMatroska
    ? Math.round((readCodecDelay(new Uint8Array(await file.slice(0, BEGINNING_BYTES).arrayBuffer())) * sampleRate) / 1e9)
    : 0;
  let firstSeconds: number | null = null;
  let endSample = 0;
  let packetSamples = 0;
  for await (const packet of eachPacket(track, { metadataOnly: true })) {
    firstSeconds ??= packet.timestamp;
    endSample = Math.max(endSample, Math.round((packet.timestamp + packet.duration) * sampleRate) - delay);
    packetSamples = Math.max(packetSamples, Math.round(packet.duration * sampleRate));
  }
  const priming = codec === 'opus' ? opusPriming((await track.getDecoderConfig())?.description) : 0;
  const stampedStart = Math.round((firstSeconds ?? 0) * sampleRate) - delay;
  return {
    codec,
    sampleRate,
    channels: await track.getNumberOfChannels(),
    startSample: Math.max(0, stampedStart),
    // Matroska says of most parts only where they start.
    samples: isMatroska ? null : endSample - Math.max(0, stampedStart),
    parts: decoding(input, track, { sampleRate, stampedStart, priming, packetSamples }, stop),
  };
}

export type Placing = {
  readonly sampleRate: number;
  readonly stampedStart: number;
  readonly priming: number;
  readonly packetSamples: number;
};

/** Every part as it is decoded. Throws `Undecodable` where this browser can't. */
async function* decoded(
  input: Input,
  track: InputAudioTrack,
  { sampleRate, stampedStart, priming, packetSamples }: Placing,
  stop: AbortSignal,
): AsyncGenerator<{ startSample: number; channels: readonly Float32Array[] }> {
  let next: number | null = null;
  let offset = 0;
  try {
    if (!(await track.canDecode())) throw new Error('there is no decoder for it');
    for await (const part of new AudioSampleSink(track).samples()) {
      try {
        stop.throwIfAborted();
        const says = Math.round(part.timestamp * sampleRate);
        if (next === null) {
          // A decoder that leaves out what comes before the first sample gives a shorter first part, under the stamp of the whole.
          const leftOut = priming > 0 && part.numberOfFrames <= packetSamples - priming ? priming : 0;
          offset = stampedStart + leftOut - says;
        }
        const due: number = says + offset;
        const startSample: number = next !== null && Math.abs(due - next) <= SAME_PLACE_SECONDS * sampleRate ? next : due;
        const channels = Array.from({ length: part.numberOfChannels }, (_, planeIndex) => {
          const channel = new Float32Array(part.numberOfFrames);
          part.copyTo(channel, { planeIndex, format: 'f32-planar' });
          return channel;
        });
        next = startSample + part.numberOfFrames;
        yield { startSample, channels };
      } finally {
        part.close();
      }
    }
  } catch (error) {
    if (stop.aborted) throw error;
    throw new Undecodable(error instanceof Error ? error.message : 'its decoder gave no reason');
  } finally {
    input.dispose();
  }
}
