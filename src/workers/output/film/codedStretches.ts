import { takeOverPacket } from '@/core/format/aac/takeOver';
import { SOUND_FRAME_SAMPLES, type SoundCodec } from '@/core/output/film';
import { firstPacketOf, JOIN_PACKETS, type SoundStretch, soundStretches } from '@/core/output/soundStretches';
import { MIX_RATE } from '@/core/reel/mix';
import { Bell } from '@/workers/output/film/bell';
import { CodingLane } from '@/workers/output/film/codingLane';
import type { CodedSound } from '@/workers/output/film/soundCoder';

/** A packet of a sound, and which of its coder's samples (from 0) it begins with, as if one coder had been given all of it. */
export type SoundPacket = CodedSound & { readonly startSample: number };

/** A stretch on the lane that codes it. */
class StretchAtWork {
  /** Whether all of its samples are given to its lane. */
  isFed = false;
  /** Where it begins among the samples and the packets of its lane. */
  private readonly laneSample: number;
  private readonly lanePacket: number;

  constructor(
    readonly stretch: SoundStretch,
    private readonly lane: CodingLane,
    packetSamples: number,
  ) {
    this.laneSample = lane.givenSamples;
    this.lanePacket = packetSamples === 0 ? 0 : this.laneSample / packetSamples;
  }

  /** Takes of `channels`, which begin at `startSample` of the film, what belongs to this stretch. */
  take(channels: readonly Float32Array[], startSample: number): void {
    const { fromSample, toSample } = this.stretch;
    const from = Math.max(startSample, fromSample);
    const to = Math.min(startSample + (channels[0]?.length ?? 0), toSample);
    if (to <= from) return;
    this.lane.add(channels.map((channel) => channel.subarray(from - startSample, to - startSample)));
    this.isFed = to === toSample;
  }

  /** The lane's packet at a place of the film; undefined where it has none there yet. */
  at(packet: number): SoundPacket | undefined {
    const coded = this.lane.packet(this.placeOf(packet));
    if (!coded) return undefined;
    const laneStart = Math.round(coded.packet.timestamp * MIX_RATE);
    return { ...coded, startSample: laneStart - this.laneSample + this.stretch.fromSample };
  }

  private placeOf(packet: number): number {
    return this.lanePacket + packet - firstPacketOf(this.stretch);
  }

  /** Whether every packet of it is coded that may be wanted. */
  get isCoded(): boolean {
    return this.lane.isFinished || this.at(this.stretch.toPacket + JOIN_PACKETS) !== undefined;
  }

  /** Lets go of the packets that come before one of the film. */
  letGo(before: number): void {
    this.lane.letGo(this.placeOf(before));
  }
}

/**
 * A sound in the coding: its stretches go to several coders in turn, and come out as the packets of one sound, in order.
 */
export class CodedStretches {
  private readonly lanes: readonly CodingLane[];
  private readonly waiting: SoundStretch[];
  private readonly atWork: StretchAtWork[] = [];
  private begun = 0;
  private nextPacket = 0;
  /** With which packet the stretch after the first at work takes over; null until that is known. */
  private takesOverAt: number | null = null;
  private failure: { readonly error: unknown } | null = null;
  private readonly changed = new Bell();

  /** At most `atOnce` coders work at a time. */
  constructor(
    private readonly codec: SoundCodec,
    private readonly samples: number,
    atOnce: number,
  ) {
    this.waiting = [...soundStretches(codec, samples, atOnce)];
    // Begun together, and ended together.
    this.lanes = Array.from({ length: Math.min(Math.max(1, atOnce), this.waiting.length) }, () => new CodingLane(codec, this.onChange));
  }

  private readonly onChange = (failure?: unknown): void => {
    if (failure !== undefined) this.failure ??= { error: failure };
    this.changed.ring();
  };

  /** Tells that nothing more is coming, and why; whoever waits for packets is told. */
  readonly fail = (error: unknown): void => this.onChange(error ?? new Error('The sound could not be coded.'));

  /** Takes samples of every channel, which follow those taken before. Waits while every lane has a whole stretch to code. */
  async take(channels: readonly Float32Array[], startSample: number): Promise<void> {
    while (this.failure === null && this.busy >= this.lanes.length) await this.changed.next();
    if (this.failure) return;
    const end = startSample + (channels[0]?.length ?? 0);
    for (let next = this.waiting[0]; next && next.fromSample < end; next = this.waiting[0]) {
      this.waiting.shift();
      const lane = this.lanes[this.begun++ % this.lanes.length] as CodingLane;
      this.atWork.push(new StretchAtWork(next, lane, SOUND_FRAME_SAMPLES[this.codec]));
    }
    for (const stretch of this.atWork) if (!stretch.isFed) stretch.take(channels, startSample);
    if (end >= this.samples) for (const lane of this.lanes) lane.finish();
  }

  private get busy(): number {
    return this.atWork.filter((stretch) => stretch.isFed && !stretch.isCoded).length;
  }

  /** The next packet of the sound, as soon as it is coded; null after the last. Throws what coding failed with. */
  async packet(): Promise<SoundPacket | null> {
    for (;;) {
      if (this.failure) throw this.failure.error;
      const found = this.find();
      if (found !== undefined) return found;
      await this.changed.next();
    }
  }

  /** Undefined while it isn't coded yet. */
  private find(): SoundPacket | null | undefined {
    const [current, later] = this.atWork;
    if (!current) return undefined;
    const { toPacket } = current.stretch;
    if (this.nextPacket >= toPacket) {
      if (!later || !current.isCoded || !later.at(toPacket + JOIN_PACKETS)) return undefined;
      const dataOf = (stretch: StretchAtWork) => (packet: number) => stretch.at(packet)?.packet.data;
      this.takesOverAt ??= takeOverPacket(toPacket, toPacket + JOIN_PACKETS, dataOf(current), dataOf(later));
      if (this.nextPacket >= this.takesOverAt) {
        current.letGo(toPacket + JOIN_PACKETS);
        this.atWork.shift();
        this.takesOverAt = null;
        return this.find();
      }
    }
    const found = current.at(this.nextPacket);
    if (!found) return current.isCoded && toPacket === Number.POSITIVE_INFINITY ? null : undefined;
    this.nextPacket++;
    // The one before is looked at where another takes over.
    current.letGo(this.nextPacket - 1);
    return found;
  }

  /** Lets go of the coders. */
  async cancel(): Promise<void> {
    this.fail(new Error('The sound was stopped.'));
    await Promise.all(this.lanes.map((lane) => lane.cancel()));
  }
}
