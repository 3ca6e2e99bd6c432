import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { MOST_AHEAD, pacedDecoder } from '@/workers/render/pacedDecoder';

/** A packet has left the queue before its frame is there: one more than is kept ahead. */
const MOST_DECODED = MOST_AHEAD + 1;

/** A frame as a decoder gives it: closed, it has no size. */
class Frame {
  codedWidth = 1920;
  close(): void {
    this.codedWidth = 0;
  }
}

/** A decoder that gives a frame for each packet once it holds more than `latency` of them, one packet a turn. */
class LateDecoder extends EventTarget {
  static latency = 0;
  state = 'configured';
  private readonly queue: number[] = [];
  private readonly inside: number[] = [];
  readonly fed: number[] = [];

  constructor(private readonly init: { output: (frame: Frame) => void }) {
    super();
  }

  get decodeQueueSize(): number {
    return this.queue.length;
  }

  decode(chunk: number): void {
    if (this.state !== 'configured') throw new Error(`decode: ${this.state}`);
    this.queue.push(chunk);
    this.fed.push(chunk);
    setTimeout(() => this.work(), 1);
  }

  private work(): void {
    const chunk = this.queue.shift();
    if (chunk === undefined) return;
    this.inside.push(chunk);
    this.dispatchEvent(new Event('dequeue'));
    if (this.inside.length > LateDecoder.latency) this.give();
  }

  private give(): void {
    this.inside.shift();
    this.init.output(new Frame());
  }

  async flush(): Promise<void> {
    while (this.queue.length > 0) this.work();
    while (this.inside.length > 0) this.give();
  }

  close(): void {
    this.state = 'closed';
  }
}

type Tried = { readonly decoder: VideoDecoder; readonly fed: readonly number[]; readonly frames: readonly Frame[] };

function tried(latency: number): Tried {
  LateDecoder.latency = latency;
  const frames: Frame[] = [];
  const Paced = pacedDecoder(LateDecoder as unknown as typeof VideoDecoder);
  const decoder = new Paced({ output: (frame) => void frames.push(frame as unknown as Frame), error: () => undefined });
  return { decoder, fed: (decoder as unknown as LateDecoder).fed, frames };
}

const feed = ({ decoder }: Tried, packets: number) => {
  for (let packet = 0; packet < packets; packet++) decoder.decode(packet as unknown as EncodedVideoChunk);
};

describe('a paced decoder', () => {
  beforeEach(() => void vi.useFakeTimers());
  afterEach(() => void vi.useRealTimers());

  it.each([0, 1, 4, 16])('decodes no more than is wanted soon, with a latency of %i packets', async (latency) => {
    const one = tried(latency);
    feed(one, 40);
    expect(one.decoder.decodeQueueSize).toBe(40);
    await vi.runAllTimersAsync();
    expect(one.frames).toHaveLength(MOST_DECODED);
    expect(one.fed).toHaveLength(MOST_DECODED + latency);
  });

  it('goes on when frames were closed and its queue is looked at', async () => {
    const one = tried(2);
    feed(one, 40);
    await vi.runAllTimersAsync();
    for (const frame of one.frames.slice(0, 2)) frame.close();
    expect(one.decoder.decodeQueueSize).toBeGreaterThan(0);
    await vi.runAllTimersAsync();
    expect(one.frames).toHaveLength(MOST_DECODED + 2);
  });

  it.each([0, 3, 16])('gives every frame in order to somebody who closes them, with a latency of %i packets', async (latency) => {
    const one = tried(latency);
    feed(one, 100);
    const flushed = one.decoder.flush();
    for (let index = 0; index < 100; index++) {
      one.frames[index]?.close();
      await vi.advanceTimersByTimeAsync(20);
    }
    expect(one.frames).toHaveLength(100);
    await flushed;
    expect(one.fed).toEqual(Array.from({ length: 100 }, (_, packet) => packet));
  });

  it('waits at the end of a file until frames are let go of, and never gives all at once', async () => {
    const one = tried(0);
    feed(one, 40);
    let isFlushed = false;
    void one.decoder.flush().then(() => {
      isFlushed = true;
    });
    await vi.advanceTimersByTimeAsync(500);
    expect([one.frames.length, isFlushed]).toEqual([MOST_DECODED, false]);
    for (let index = 0; index < 40; index++) {
      one.frames[index]?.close();
      await vi.advanceTimersByTimeAsync(20);
    }
    expect([one.frames.length, isFlushed]).toEqual([40, true]);
  });

  it('gives up what waits when it is closed, and then says that it is', async () => {
    const one = tried(0);
    feed(one, 40);
    await vi.runAllTimersAsync();
    one.decoder.close();
    for (const frame of one.frames) frame.close();
    expect(one.decoder.decodeQueueSize).toBe(0);
    expect(() => one.decoder.decode(40 as unknown as EncodedVideoChunk)).toThrow('closed');
  });
});
