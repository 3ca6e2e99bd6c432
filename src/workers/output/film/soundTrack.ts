import { EncodedAudioPacketSource, type Output } from 'mediabunny';
import { LoudnessByFrame } from '@/core/count/soundCount';
import { sampleOfFrame } from '@/core/document/sound';
import { codecDelayPatch, nameWithRoom } from '@/core/format/matroska/codecDelay';
import { opusPriming } from '@/core/format/opus/opusHead';
import { type Container, type FilmOptions, SOUND_CODEC_NAMES, type SoundCodec } from '@/core/output/film';
import { MIX_RATE } from '@/core/reel/mix';
import type { RenderPlan } from '@/core/render/renderPlan';
import { Bell } from '@/workers/output/film/bell';
import { CodedStretches, type SoundPacket } from '@/workers/output/film/codedStretches';
import { canCode, codingOf } from '@/workers/output/film/soundCoder';
import { type Mixing, OutputRefused } from '@/workers/output/outputFormat';

/*
 * A film's sound is as long as its pictures, to the sample: frame f starts on sample sampleOfFrame(f), and the last frame's end
 * is the sound's. What a coder puts before the first sample (AAC 1,024, Opus what its header says) is told to players by the
 * container: in MP4 and MOV by stamps before 0, which become an edit list, in Matroska and WebM by CodecDelay. What it adds
 * after the last sample is taken off by how long the last packet says it lasts.
 *
 * It is mixed and coded beside the pictures, some way ahead of them, and handed to the container as they come to it.
 */

/** What an AAC decoder gives before the first sample of what this coder was given; measured, and held by a test. */
const AAC_PRIMING = 1024;
const NAME = 'Mix';
const FRAMES_AT_ONCE = 120;
const MOST_CODERS = 4;
/** A coder waits for its next samples between packets: one more than there are cores keeps all of them at work. */
const SPARE_CODERS = 1;
/** How far the mix may be ahead of the pictures: far enough that every coder has its own stretch of AAC, and little of what isn't cut. */
const AHEAD_SECONDS: Readonly<Record<SoundCodec, number>> = { aac: 120, opus: 20, flac: 20, pcm: 20 };

/** The sound of a film while it is written. */
export class SoundTrack {
  readonly loudness: LoudnessByFrame;
  private readonly coded: CodedStretches;
  private readonly track: EncodedAudioPacketSource;
  private readonly samples: number;
  private priming: number;
  /** Coded, and not handed on as its time has not come. */
  private held: SoundPacket | null = null;
  private isWhole = false;
  private pictureFrame = 0;
  private readonly goneOn = new Bell();
  private isStopped = false;

  private constructor(
    private readonly plan: RenderPlan,
    private readonly codec: SoundCodec,
    private readonly container: Container,
    private readonly mix: Mixing,
  ) {
    this.loudness = new LoudnessByFrame(plan.frames, plan.rate, MIX_RATE);
    this.samples = sampleOfFrame(plan.frames, plan.rate, MIX_RATE);
    this.priming = codec === 'aac' ? AAC_PRIMING : 0;
    this.coded = new CodedStretches(codec, this.samples, Math.min(MOST_CODERS, navigator.hardwareConcurrency + SPARE_CODERS));
    this.track = new EncodedAudioPacketSource(codingOf(codec));
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
    if (!(await canCode(sound)))
      throw new OutputRefused(`This browser can’t write ${SOUND_CODEC_NAMES[sound]}: choose another kind of sound, or none.`);
    const made = new SoundTrack(plan, sound, container, mix);
    output.addAudioTrack(made.track, { name: made.saysDelay ? nameWithRoom(NAME) : NAME, languageCode: language });
    void made.run().catch(made.coded.fail);
    return made;
  }

  /** Whether the container has an element for what comes before the first sample. */
  private get saysDelay(): boolean {
    return (this.container === 'mkv' || this.container === 'webm') && (this.codec === 'aac' || this.codec === 'opus');
  }

  /** Mixes the sound, some frames at a time (a mix of few frames takes as long as one of many), and has it coded. */
  private async run(): Promise<void> {
    const { plan } = this;
    const ahead = (AHEAD_SECONDS[this.codec] * plan.rate.num) / plan.rate.den;
    for (let fromFrame = 0; fromFrame < plan.frames; fromFrame += FRAMES_AT_ONCE) {
      while (!this.isStopped && fromFrame > this.pictureFrame + ahead) await this.goneOn.next();
      if (this.isStopped) return;
      const channels = await this.mix(fromFrame, Math.min(plan.frames, fromFrame + FRAMES_AT_ONCE) - 1);
      const start = sampleOfFrame(fromFrame, plan.rate, MIX_RATE);
      this.loudness.take(channels, start);
      await this.coded.take(channels, start);
    }
  }

  /** Writes the sound of all frames before `frame`; waits until it is coded. */
  async until(frame: number): Promise<void> {
    this.pictureFrame = frame;
    this.goneOn.ring();
    await this.pass(sampleOfFrame(frame, this.plan.rate, MIX_RATE));
  }

  /** Hands on the packets that begin before `endSample` of the sound, with the stamps they are to have in the film. */
  private async pass(endSample: number): Promise<void> {
    while (!this.isWhole) {
      this.held ??= await this.coded.packet();
      if (!this.held) {
        this.isWhole = true;
        return;
      }
      const { packet, meta, startSample: start } = this.held;
      if (this.codec === 'opus' && meta?.decoderConfig) this.priming = opusPriming(meta.decoderConfig.description);
      if (start >= endSample + this.priming) return;
      this.held = null;
      const samples = Math.min(Math.round(packet.duration * MIX_RATE), this.samples + this.priming - start);
      const shift = this.saysDelay ? 0 : this.priming;
      const stamped = packet.clone({ timestamp: (start - shift) / MIX_RATE, duration: samples / MIX_RATE });
      await this.track.add(stamped, meta);
    }
  }

  /** Writes what is left. */
  async finish(): Promise<void> {
    await this.until(this.plan.frames);
    // What a coder gives beyond the last sample is not wanted; it is ended when that has come.
    while (await this.coded.packet());
    this.track.close();
  }

  /** What is to be put into the finished file, given its beginning; null where there is nothing to say. Throws where its place isn't found. */
  patch(beginning: Uint8Array): { readonly position: number; readonly bytes: Uint8Array } | null {
    if (!this.saysDelay) return null;
    const patch = codecDelayPatch(beginning, NAME, (this.priming * 1e9) / MIX_RATE);
    if (!patch) throw new Error('The place for the delay of the sound was not found in the film.');
    return patch;
  }

  /** Lets go of the coders. */
  async cancel(): Promise<void> {
    this.isStopped = true;
    this.goneOn.ring();
    await this.coded.cancel();
  }
}
