import { takeOverPacket } from '@/core/format/aac/takeOver';
import type { SoundCodec } from '@/core/output/film';
import { firstPacketOf, type SoundStretch, soundStretches, TAIL_PACKETS } from '@/core/output/soundStretches';
import { Bell } from '@/workers/output/film/bell';
import { type CodedSound, SoundCoder } from '@/workers/output/film/soundCoder';

/** A stretch while it is coded: what is given to it is coded one after another. */
class StretchAtWork {
  readonly coded: CodedSound[] = [];
  isCoded = false;
  /** Whether all of its samples are given to it. */
  isFed = false;
  private coder: SoundCoder | null = null;
  private going: Promise<void>;

  constructor(
    readonly stretch: SoundStretch,
    codec: SoundCodec,
    private readonly onChange: (failure?: unknown) => void,
  ) {
    this.going = SoundCoder.start(codec, (coded) => {
      this.coded.push(coded);
      onChange();
    }).then((coder) => {
      this.coder = coder;
    });
    this.going.catch(onChange);
  }

  private next(act: (coder: SoundCoder) => Promise<void>): void {
    const going = this.going.then(() => act(this.coder as SoundCoder));
    this.going = going;
    going.catch(this.onChange);
  }

  /** Takes of `channels`, which begin at `startSample` of the film, what belongs to this stretch. */
  take(channels: readonly Float32Array[], startSample: number): void {
    const { fromSample, toSample } = this.stretch;
    const from = Math.max(startSample, fromSample);
    const to = Math.min(startSample + (channels[0]?.length ?? 0), toSample);
    if (to <= from) return;
    const own = channels.map((channel) => channel.subarray(from - startSample, to - startSample));
    this.next((coder) => coder.add(own, from));
    if (to < toSample) return;
    this.isFed = true;
    this.next(async (coder) => {
      await coder.finish();
      this.isCoded = true;
      this.onChange();
    });
  }

  /** The coder's packet at a place of the film; undefined where it has none there yet. */
  readonly at = (packet: number): CodedSound | undefined => this.coded[packet - firstPacketOf(this.stretch)];

  async cancel(): Promise<void> {
    await this.coder?.cancel();
  }
}

/**
 * A sound in the coding: what is given to it goes to the coders of its stretches, several at a time, and comes out as the packets of
 * one sound, in order.
 */
export class CodedStretches {
  private readonly waiting: SoundStretch[];
  private readonly atWork: StretchAtWork[] = [];
  private nextPacket = 0;
  private failure: { readonly error: unknown } | null = null;
  private readonly changed = new Bell();

  /** At most `atOnce` coders work at a time. */
  constructor(
    private readonly codec: SoundCodec,
    samples: number,
    private readonly atOnce: number,
  ) {
    this.waiting = [...soundStretches(codec, samples)];
  }

  private readonly onChange = (failure?: unknown): void => {
    if (failure !== undefined) this.failure ??= { error: failure };
    this.changed.ring();
  };

  /** Tells that nothing more is coming, and why; whoever waits for packets is told. */
  readonly fail = (error: unknown): void => this.onChange(error ?? new Error('The sound could not be coded.'));

  /** Takes samples of every channel, which follow those taken before. Waits while as many coders have all their samples as may work at a time. */
  async take(channels: readonly Float32Array[], startSample: number): Promise<void> {
    while (this.failure === null && this.busy >= this.atOnce) await this.changed.next();
    if (this.failure) return;
    const end = startSample + (channels[0]?.length ?? 0);
    for (let next = this.waiting[0]; next && next.fromSample < end; next = this.waiting[0]) {
      this.waiting.shift();
      this.atWork.push(new StretchAtWork(next, this.codec, this.onChange));
    }
    for (const stretch of this.atWork) stretch.take(channels, startSample);
  }

  private get busy(): number {
    return this.atWork.filter(({ isFed, isCoded }) => isFed && !isCoded).length;
  }

  /** The next packet of the sound, as soon as it is coded; null after the last. Throws what coding failed with. */
  async packet(): Promise<CodedSound | null> {
    for (;;) {
      if (this.failure) throw this.failure.error;
      const found = this.find();
      if (found !== undefined) return found;
      await this.changed.next();
    }
  }

  /** Undefined while it isn't coded yet. */
  private find(): CodedSound | null | undefined {
    const [current, later] = this.atWork;
    if (!current) return undefined;
    const { toPacket } = current.stretch;
    if (this.nextPacket >= toPacket) {
      const isKnown = current.isCoded && later && (later.isCoded || later.at(toPacket + TAIL_PACKETS));
      if (!isKnown) return undefined;
      const over = takeOverPacket(
        toPacket,
        toPacket + TAIL_PACKETS,
        (packet) => current.at(packet)?.packet.data,
        (packet) => later.at(packet)?.packet.data,
      );
      if (this.nextPacket >= over) {
        this.atWork.shift();
        return this.find();
      }
    }
    const found = current.at(this.nextPacket);
    if (!found) return current.isCoded && toPacket === Number.POSITIVE_INFINITY ? null : undefined;
    this.nextPacket++;
    return found;
  }

  /** Lets go of the coders. */
  async cancel(): Promise<void> {
    this.fail(new Error('The sound was stopped.'));
    await Promise.all(this.atWork.map((stretch) => stretch.cancel()));
  }
}
