import type { ReelSound } from '@/core/reel/sounds';
import { chunkAt, type PlayRange, type PlayWay, secondsOfTick, ticksToPlay } from '@/core/time/playing';
import type { Rate } from '@/core/time/rate';
import type { PlayClock } from '@/features/clock/playClock';
import { mixFrames, reversedBuffer, soundContext } from '@/features/clock/soundOut';

/** Sound is mixed a few seconds at a time, and so far ahead. */
const CHUNK_SECONDS = 4;
const LEAD_SECONDS = 3;
const FILL_MILLISECONDS = 400;
/** The first sound starts so much after it is asked for: no less can be kept. */
const START_SECONDS = 0.05;
/** Sound that is late starts where it should be by now, so much ahead. */
const CATCH_UP_SECONDS = 0.02;
const FADE_SECONDS = 0.008;
/** A clock of the sound that stands for so long has stopped: its device is gone. */
const STOPPED_MILLISECONDS = 1000;

type What = {
  readonly sounds: readonly ReelSound[];
  readonly rate: Rate;
  readonly range: PlayRange;
  readonly startFrame: number;
  readonly way: PlayWay;
};

/**
 * Plays the sounds of a range as its frames are played, and is the clock they are played by: a frame is due when
 * its sound is heard. When the sound's device stops on the way, the page's clock goes on where it stood.
 */
export class SoundClock implements PlayClock {
  private readonly out = soundContext();
  private readonly loudness = new GainNode(this.out);
  private readonly mixes = new Map<string, Promise<AudioBuffer>>();
  private readonly playing = new Set<AudioBufferSourceNode>();
  private readonly chunkTicks: number;
  private startSeconds: number | null = null;
  private nextTick = 0;
  private filling = false;
  private timer = 0;
  private stopped = false;
  private heard: { readonly contextSeconds: number; readonly time: number } | null = null;
  private standing: { readonly elapsed: number; readonly time: number } | null = null;

  constructor(
    private readonly what: What,
    /** Told when sound that should be heard isn't any more. */
    private readonly onSilent: () => void,
  ) {
    this.loudness.connect(this.out.destination);
    this.chunkTicks = Math.max(1, Math.ceil((CHUNK_SECONDS * what.rate.num * what.way.speed.num) / (what.rate.den * what.way.speed.den)));
  }

  /** Mixes what is heard first, so that playing can start at once. */
  async prepare(): Promise<void> {
    await this.mix(0);
  }

  /** Starts to be heard. */
  start(): void {
    // On a whole sample, so that parts that follow each other meet on one.
    this.startSeconds = Math.ceil((this.out.currentTime + START_SECONDS) * this.out.sampleRate) / this.out.sampleRate;
    this.fill();
    this.timer = window.setInterval(() => this.fill(), FILL_MILLISECONDS);
  }

  elapsedMilliseconds(time: number): number {
    if (this.standing) return this.standing.elapsed + time - this.standing.time;
    if (this.startSeconds === null) return 0;
    const { contextTime = 0, performanceTime = 0 } = this.out.getOutputTimestamp();
    if (this.heard?.contextSeconds !== contextTime) this.heard = { contextSeconds: contextTime, time };
    const elapsed = Math.max(0, (contextTime - this.startSeconds) * 1000 + Math.min(time - performanceTime, STOPPED_MILLISECONDS));
    if (time - this.heard.time > STOPPED_MILLISECONDS) {
      this.standing = { elapsed, time };
      this.onSilent();
    }
    return elapsed;
  }

  stop(): void {
    this.stopped = true;
    window.clearInterval(this.timer);
    const now = this.out.currentTime;
    this.loudness.gain.setTargetAtTime(0, now, FADE_SECONDS / 3);
    for (const source of this.playing) source.stop(now + FADE_SECONDS);
    setTimeout(() => this.loudness.disconnect(), FADE_SECONDS * 4000);
  }

  private chunk(tick: number) {
    return chunkAt(tick, this.chunkTicks, this.what.range, this.what.startFrame, this.what.way);
  }

  private mix(tick: number): Promise<AudioBuffer> {
    const { sounds, rate, way } = this.what;
    const { fromFrame, toFrame } = this.chunk(tick);
    const key = `${fromFrame}-${toFrame}`;
    let mixed = this.mixes.get(key);
    if (!mixed) {
      mixed = mixFrames(sounds, fromFrame, toFrame, rate).then((buffer) => (way.backwards ? reversedBuffer(buffer) : buffer));
      this.mixes.set(key, mixed);
      // A short loop is mixed once; of a long one nothing is kept that has been heard.
      const [oldest] = this.mixes.keys();
      if (this.mixes.size > 3 && oldest !== undefined) this.mixes.delete(oldest);
    }
    return mixed;
  }

  private fill(): void {
    if (this.filling || this.stopped || this.standing) return;
    this.filling = true;
    this.schedule()
      .catch(() => this.onSilent())
      .finally(() => {
        this.filling = false;
      });
  }

  private async schedule(): Promise<void> {
    const { rate, way, range, startFrame } = this.what;
    const ticks = ticksToPlay(range, startFrame, way) ?? Number.POSITIVE_INFINITY;
    while (!this.stopped && this.startSeconds !== null && this.nextTick < ticks) {
      const seconds = this.startSeconds + secondsOfTick(this.nextTick, rate, way);
      if (seconds - this.out.currentTime > LEAD_SECONDS) return;
      const tick = this.nextTick;
      this.nextTick += this.chunk(tick).ticks;
      const buffer = await this.mix(tick);
      if (!this.stopped) this.play(buffer, Math.round(seconds * this.out.sampleRate) / this.out.sampleRate);
    }
  }

  private play(buffer: AudioBuffer, seconds: number): void {
    const { speed } = this.what.way;
    const playbackRate = speed.num / speed.den;
    const source = new AudioBufferSourceNode(this.out, { buffer, playbackRate });
    source.connect(this.loudness);
    this.playing.add(source);
    source.addEventListener('ended', () => this.playing.delete(source));
    const now = this.out.currentTime;
    if (seconds >= now) source.start(seconds);
    else source.start(now + CATCH_UP_SECONDS, (now + CATCH_UP_SECONDS - seconds) * playbackRate);
  }
}
