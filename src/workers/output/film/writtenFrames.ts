import { type EncodedPacket, VideoSample } from 'mediabunny';
import { digestOfBytes } from '@/core/raster/digest';
import { signatureOfPlanes } from '@/core/raster/signature';
import { decoderDigest } from '@/workers/output/film/decoderDigest';
import { PlaneReader } from '@/workers/output/film/framePlanes';

/** Frames that are on their way through the decoder; more wait for it, so that memory stays bounded. */
const MOST_ON_THEIR_WAY = 12;

/** What was decoded while it was written: the packets in the order they are shown, and how their decoder was set up. */
export type WrittenPackets = { readonly packetDigests: readonly string[]; readonly decoderDigest: string };

/**
 * Decodes a film's packets as they come from the encoder, each once, and hands on what every frame looks like, in the order
 * they are shown. What is found so holds for a file in which these very packets are found.
 */
export class WrittenFrames {
  private decoder: VideoDecoder | null = null;
  private decoderDigest: Promise<string> | null = null;
  private readonly packets: { readonly seconds: number; readonly digest: Promise<string> }[] = [];
  private readonly reader = new PlaneReader();
  private looking: Promise<void> = Promise.resolve();
  private sent = 0;
  private seen = 0;
  private hasFailed = false;
  private wake: () => void = () => undefined;

  constructor(private readonly onFrame: (signature: Uint8Array) => void) {}

  /** Takes a packet as the encoder gives it. */
  take(packet: EncodedPacket, config: VideoDecoderConfig | undefined): void {
    if (this.hasFailed) return;
    this.packets.push({ seconds: packet.timestamp, digest: digestOfBytes(packet.data) });
    try {
      if (config && !this.decoder) this.start(config);
      this.sent++;
      this.decoder?.decode(packet.toEncodedVideoChunk());
    } catch {
      // What can't be decoded here is counted from the file, which says so.
      this.fail();
    }
  }

  private start(config: VideoDecoderConfig): void {
    this.decoderDigest = decoderDigest(config);
    this.decoder = new VideoDecoder({ output: (frame) => this.look(frame), error: () => this.fail() });
    this.decoder.addEventListener('dequeue', () => this.wake());
    this.decoder.configure({ ...config, hardwareAcceleration: 'prefer-software' });
  }

  private fail(): void {
    this.hasFailed = true;
    if (this.decoder?.state !== 'closed') this.decoder?.close();
    this.wake();
  }

  private look(frame: VideoFrame): void {
    const sample = new VideoSample(frame);
    this.looking = this.looking.then(async () => {
      try {
        if (this.hasFailed) return;
        const { data, planes } = await this.reader.read(sample);
        this.onFrame(signatureOfPlanes(data, planes));
      } catch {
        this.fail();
      } finally {
        sample.close();
        this.seen++;
        this.wake();
      }
    });
  }

  /** Waits while too many frames are on their way; a decoder may keep some back until more come, so it is not waited for them. */
  async room(): Promise<void> {
    const queued = () => (this.hasFailed ? 0 : (this.decoder?.decodeQueueSize ?? 0));
    while (queued() > MOST_ON_THEIR_WAY)
      await new Promise<void>((resolve) => {
        this.wake = resolve;
      });
    await this.looking;
  }

  /** What was decoded, once all of it is; null where not every packet gave its frame. */
  async finish(): Promise<WrittenPackets | null> {
    try {
      if (!this.hasFailed) await this.decoder?.flush();
    } catch {
      this.fail();
    }
    await this.looking;
    this.close();
    if (this.hasFailed || !this.decoderDigest || this.seen !== this.sent) return null;
    const inOrder = this.packets.toSorted((a, b) => a.seconds - b.seconds);
    return { packetDigests: await Promise.all(inOrder.map(({ digest }) => digest)), decoderDigest: await this.decoderDigest };
  }

  /** Lets go of the decoder. */
  close(): void {
    if (this.decoder && this.decoder.state !== 'closed') this.decoder.close();
  }
}
