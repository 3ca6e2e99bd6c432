/*
 * A decoder that is fed as its frames are wanted. The library that reads clips feeds a browser's decoder with dozens of packets
 * before the first frame comes; the decoder gives all of their frames at once, and the browser keeps the room of so many for
 * seconds: 130 MB in 1080p. Here what comes too early waits as packets, which are small.
 */

/** So many frames lie decoded and unclosed, or in the decoder's own queue, at most; more than whoever reads a clip holds at once. */
export const MOST_AHEAD = 6;
/** How often it is looked whether frames were let go of, while the rest waits to be decoded: a frame tells nobody that it is closed. */
const LOOK_MILLISECONDS = 10;

/** A closed frame, and one that was given to another thread, has no size. */
const isOpen = (frame: VideoFrame) => frame.codedWidth > 0;

/** The decoder `Base`, paced. Its queue counts what waits here as well. */
export function pacedDecoder(Base: typeof VideoDecoder): typeof VideoDecoder {
  return class PacedDecoder extends Base {
    private readonly waiting: EncodedVideoChunk[] = [];
    private decoded: VideoFrame[];

    constructor(init: VideoDecoderInit) {
      const decoded: VideoFrame[] = [];
      super({
        ...init,
        output: (frame) => {
          this.decoded.push(frame);
          init.output(frame);
        },
      });
      this.decoded = decoded;
      this.addEventListener('dequeue', () => this.feed());
    }

    /** Feeds what there is room for. */
    private feed(): void {
      this.decoded = this.decoded.filter(isOpen);
      while (this.state === 'configured' && super.decodeQueueSize + this.decoded.length < MOST_AHEAD) {
        const chunk = this.waiting.shift();
        if (chunk === undefined) break;
        super.decode(chunk);
      }
    }

    /** Whoever reads looks at the queue when a frame was taken: that is when there may be room. */
    override get decodeQueueSize(): number {
      if (this.waiting.length > 0) this.feed();
      return super.decodeQueueSize + this.waiting.length;
    }

    override decode(chunk: EncodedVideoChunk): void {
      if (this.state === 'configured') {
        this.waiting.push(chunk);
        this.feed();
      } else {
        // One that was closed, or not set up, says so at once.
        super.decode(chunk);
      }
    }

    override async flush(): Promise<void> {
      while (this.waiting.length > 0) {
        this.feed();
        if (this.waiting.length > 0) await this.somethingHappens();
      }
      await super.flush();
    }

    private somethingHappens(): Promise<void> {
      return new Promise((resolve) => {
        const happened = () => {
          clearTimeout(timer);
          this.removeEventListener('dequeue', happened);
          resolve();
        };
        const timer = setTimeout(happened, LOOK_MILLISECONDS);
        this.addEventListener('dequeue', happened);
      });
    }

    override reset(): void {
      this.waiting.length = 0;
      super.reset();
    }

    override close(): void {
      this.waiting.length = 0;
      super.close();
    }
  };
}

/** Has this thread's clips read by decoders that are paced, where the browser has any. */
export function paceDecoders(): void {
  if ('VideoDecoder' in globalThis) globalThis.VideoDecoder = pacedDecoder(VideoDecoder);
}
