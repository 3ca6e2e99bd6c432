import { registerAacEncoder } from '@mediabunny/aac-encoder';
import { registerFlacEncoder } from '@mediabunny/flac-encoder';
import {
  type AudioEncodingConfig,
  AudioSample,
  AudioSampleSource,
  canEncodeAudio,
  type EncodedPacket,
  MkvOutputFormat,
  NullTarget,
  Output,
} from 'mediabunny';
import type { SoundCodec } from '@/core/output/film';
import { MIX_RATE } from '@/core/reel/mix';

// Browsers' own coders differ in what they put before the first sample, and most have none for FLAC.
registerAacEncoder();
registerFlacEncoder();

export const SOUND_CHANNELS = 2;
/** For each packet a coder moves all the samples that still wait in it, so it is given few at a time. */
const SAMPLES_AT_ONCE = 8192;

const ENCODINGS: Readonly<Record<SoundCodec, AudioEncodingConfig>> = {
  aac: { codec: 'aac', bitrate: 192_000 },
  opus: { codec: 'opus', bitrate: 160_000 },
  flac: { codec: 'flac' },
  pcm: { codec: 'pcm-s24' },
};

/** The name a coding has in a file. */
export const codingOf = (codec: SoundCodec): AudioEncodingConfig['codec'] => ENCODINGS[codec].codec;

/** Whether this browser can code a sound, or we can in its place. */
export function canCode(sound: SoundCodec): Promise<boolean> {
  const { codec, ...how } = ENCODINGS[sound];
  return canEncodeAudio(codec, { ...how, numberOfChannels: SOUND_CHANNELS, sampleRate: MIX_RATE });
}

export type CodedSound = { readonly packet: EncodedPacket; readonly meta: EncodedAudioChunkMetadata | undefined };

/** A coder of sound: given samples from one on, without a gap, it gives packets. */
export class SoundCoder {
  private constructor(
    private readonly output: Output,
    private readonly source: AudioSampleSource,
  ) {}

  static async start(codec: SoundCodec, onCoded: (coded: CodedSound) => void): Promise<SoundCoder> {
    const source = new AudioSampleSource({ ...ENCODINGS[codec], onEncodedPacket: (packet, meta) => onCoded({ packet, meta }) });
    // Only its packets are wanted: the film's own container gets them with the stamps they are to have.
    const output = new Output({ format: new MkvOutputFormat(), target: new NullTarget() });
    output.addAudioTrack(source);
    await output.start();
    return new SoundCoder(output, source);
  }

  /** Codes samples of every channel. */
  async add(channels: readonly Float32Array[], startSample: number): Promise<void> {
    const length = channels[0]?.length ?? 0;
    for (let from = 0; from < length; from += SAMPLES_AT_ONCE) {
      const part = channels.map((channel) => channel.subarray(from, Math.min(length, from + SAMPLES_AT_ONCE)));
      await this.addPart(part, startSample + from);
    }
  }

  private async addPart(channels: readonly Float32Array[], startSample: number): Promise<void> {
    const length = channels[0]?.length ?? 0;
    const data = new Float32Array(length * SOUND_CHANNELS);
    for (const [index, channel] of channels.entries()) data.set(channel, index * length);
    const sample = new AudioSample({
      data,
      format: 'f32-planar',
      numberOfChannels: SOUND_CHANNELS,
      sampleRate: MIX_RATE,
      timestamp: startSample / MIX_RATE,
    });
    await this.source.add(sample);
    sample.close();
  }

  /** Gives the packets that are left. */
  async finish(): Promise<void> {
    await this.output.finalize();
  }

  /** Lets go of the coder. */
  async cancel(): Promise<void> {
    if (this.output.state === 'started') await this.output.cancel();
  }
}
