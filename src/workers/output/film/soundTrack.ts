import { registerAacEncoder } from '@mediabunny/aac-encoder';
import { registerFlacEncoder } from '@mediabunny/flac-encoder';
import {
  type AudioEncodingConfig,
  AudioSample,
  AudioSampleSource,
  canEncodeAudio,
  EncodedAudioPacketSource,
  type EncodedPacket,
  MkvOutputFormat,
  NullTarget,
  Output,
} from 'mediabunny';
import { LoudnessByFrame } from '@/core/count/soundCount';
import { sampleOfFrame } from '@/core/document/sound';
import { codecDelayPatch, nameWithRoom } from '@/core/format/matroska/codecDelay';
import { opusPriming } from '@/core/format/opus/opusHead';
import { type Container, type FilmOptions, SOUND_CODEC_NAMES, type SoundCodec } from '@/core/output/film';
import { MIX_RATE } from '@/core/reel/mix';
import type { RenderPlan } from '@/core/render/renderPlan';
import { type Mixing, OutputRefused } from '@/workers/output/outputFormat';

/*
 * A film's sound is as long as its pictures, to the sample: frame f starts on sample sampleOfFrame(f), and the last frame's end
 * is the sound's. What a coder puts before the first sample (AAC 1,024, Opus what its header says) is told to players by the
 * container: in MP4 and MOV by stamps before 0, which become an edit list, in Matroska and WebM by CodecDelay. What it adds
 * after the last sample is taken off by how long the last packet says it lasts.
 */

// Browsers' own coders differ in what they put before the first sample, and most have none for FLAC.
registerAacEncoder();
registerFlacEncoder();

const CHANNELS = 2;
/** What an AAC decoder gives before the first sample of what this coder was given; measured, and held by a test. */
const AAC_PRIMING = 1024;
const NAME = 'Mix';
const FRAMES_AT_ONCE = 120;

const ENCODINGS: Readonly<Record<SoundCodec, AudioEncodingConfig>> = {
  aac: { codec: 'aac', bitrate: 192_000 },
  opus: { codec: 'opus', bitrate: 160_000 },
  flac: { codec: 'flac' },
  pcm: { codec: 'pcm-s24' },
};

/** The sound of a film while it is written. */
export class SoundTrack {
  readonly loudness: LoudnessByFrame;
  private readonly encoder: Output;
  private readonly encoding: AudioSampleSource;
  private readonly track: EncodedAudioPacketSource;
  private readonly waiting: { packet: EncodedPacket; meta: EncodedAudioChunkMetadata | undefined }[] = [];
  private readonly samples: number;
  private priming = 0;
  private nextFrame = 0;

  private constructor(
    private readonly plan: RenderPlan,
    private readonly codec: SoundCodec,
    private readonly container: Container,
    private readonly mix: Mixing,
  ) {
    this.loudness = new LoudnessByFrame(plan.frames, plan.rate, MIX_RATE);
    this.samples = sampleOfFrame(plan.frames, plan.rate, MIX_RATE);
    this.priming = codec === 'aac' ? AAC_PRIMING : 0;
    const encoding = ENCODINGS[codec];
    this.encoding = new AudioSampleSource({
      ...encoding,
      onEncodedPacket: (packet, meta) => {
        if (codec === 'opus' && meta?.decoderConfig) this.priming = opusPriming(meta.decoderConfig.description);
        this.waiting.push({ packet, meta });
      },
    });
    // Only its packets are wanted: the film's own container gets them with the stamps they are to have.
    this.encoder = new Output({ format: new MkvOutputFormat(), target: new NullTarget() });
    this.encoder.addAudioTrack(this.encoding);
    this.track = new EncodedAudioPacketSource(encoding.codec);
  }

  /** Adds the sound to a film that isn't begun yet. Throws `OutputRefused` where this browser can't code it. */
  static async addTo(
    output: Output,
    plan: RenderPlan,
    container: Container,
    { sound, language }: FilmOptions,
    mix: Mixing,
  ): Promise<SoundTrack | null> {
    if (sound === null) return null;
    const { codec, ...how } = ENCODINGS[sound];
    if (!(await canEncodeAudio(codec, { ...how, numberOfChannels: CHANNELS, sampleRate: MIX_RATE })))
      throw new OutputRefused(`This browser can’t write ${SOUND_CODEC_NAMES[sound]}: choose another kind of sound, or none.`);
    const made = new SoundTrack(plan, sound, container, mix);
    output.addAudioTrack(made.track, { name: made.saysDelay ? nameWithRoom(NAME) : NAME, languageCode: language });
    await made.encoder.start();
    return made;
  }

  /** Whether the container has an element for what comes before the first sample. */
  private get saysDelay(): boolean {
    return (this.container === 'mkv' || this.container === 'webm') && (this.codec === 'aac' || this.codec === 'opus');
  }

  /** Writes the sound of all frames before `frame`, and of those that are mixed with them: a mix of few frames takes as long as one of many. */
  async until(frame: number): Promise<void> {
    while (this.nextFrame < frame) {
      const fromFrame = this.nextFrame;
      const toFrame = Math.min(this.plan.frames, fromFrame + FRAMES_AT_ONCE) - 1;
      const channels = await this.mix(fromFrame, toFrame);
      const start = sampleOfFrame(fromFrame, this.plan.rate, MIX_RATE);
      this.loudness.take(channels, start);
      await this.encode(channels, start);
      this.nextFrame = toFrame + 1;
    }
    await this.pass();
  }

  private async encode(channels: readonly Float32Array[], startSample: number): Promise<void> {
    const length = channels[0]?.length ?? 0;
    const data = new Float32Array(length * CHANNELS);
    for (const [index, channel] of channels.entries()) data.set(channel, index * length);
    const sample = new AudioSample({
      data,
      format: 'f32-planar',
      numberOfChannels: CHANNELS,
      sampleRate: MIX_RATE,
      timestamp: startSample / MIX_RATE,
    });
    await this.encoding.add(sample);
    sample.close();
  }

  /** Hands packets on with the stamps they are to have in the film. */
  private async pass(): Promise<void> {
    const end = this.samples + this.priming;
    for (const { packet, meta } of this.waiting.splice(0)) {
      const start = Math.round(packet.timestamp * MIX_RATE);
      if (start >= end) continue;
      const samples = Math.min(Math.round(packet.duration * MIX_RATE), end - start);
      const shift = this.saysDelay ? 0 : this.priming;
      const stamped = packet.clone({ timestamp: (start - shift) / MIX_RATE, duration: samples / MIX_RATE });
      await this.track.add(stamped, meta);
    }
  }

  /** Writes what is left. */
  async finish(): Promise<void> {
    await this.until(this.plan.frames);
    await this.encoder.finalize();
    await this.pass();
    this.track.close();
  }

  /** What is to be put into the finished file, given its beginning; null where there is nothing to say. Throws where its place isn't found. */
  patch(beginning: Uint8Array): { readonly position: number; readonly bytes: Uint8Array } | null {
    if (!this.saysDelay) return null;
    const patch = codecDelayPatch(beginning, NAME, (this.priming * 1e9) / MIX_RATE);
    if (!patch) throw new Error('The place for the delay of the sound was not found in the film.');
    return patch;
  }

  /** Lets go of the coder. */
  async cancel(): Promise<void> {
    if (this.encoder.state === 'started') await this.encoder.cancel();
  }
}
