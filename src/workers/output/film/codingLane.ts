import { type CodedSound, SoundCoder } from '@/workers/output/film/soundCoder';

/**
 * A coder for as long as a sound is coded: what is given to it is coded one after another, whatever places of the sound it is of, and
 * its packets are counted from its own beginning. One that ended for each stretch, while others begin, stands still for ever now and
 * then in Firefox.
 */
export class CodingLane {
  private readonly coded = new Map<number, CodedSound>();
  private packets = 0;
  private samples = 0;
  private hasEnded = false;
  private coder: SoundCoder | null = null;
  private going: Promise<void>;

  constructor(
    codec: Parameters<typeof SoundCoder.start>[0],
    private readonly onChange: (failure?: unknown) => void,
  ) {
    this.going = SoundCoder.start(codec, (coded) => {
      this.coded.set(this.packets++, coded);
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

  /** Samples of one channel that were given to it, which is the place of those given next. */
  get givenSamples(): number {
    return this.samples;
  }

  /** Codes samples of every channel. */
  add(channels: readonly Float32Array[]): void {
    const at = this.samples;
    this.samples += channels[0]?.length ?? 0;
    this.next((coder) => coder.add(channels, at));
  }

  /** Gives the packets that are left, and ends. */
  finish(): void {
    this.next(async (coder) => {
      await coder.finish();
      this.hasEnded = true;
      this.onChange();
    });
  }

  /** Whether no more packets are coming. */
  get isFinished(): boolean {
    return this.hasEnded;
  }

  /** A packet by its place from this lane's beginning; undefined where there is none yet, or none any more. */
  packet(place: number): CodedSound | undefined {
    return this.coded.get(place);
  }

  /** Lets go of the packets before a place. */
  letGo(before: number): void {
    for (const place of this.coded.keys()) {
      if (place >= before) break;
      this.coded.delete(place);
    }
  }

  /** Ends at once. */
  async cancel(): Promise<void> {
    await this.coder?.cancel();
  }
}
