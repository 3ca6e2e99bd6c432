import { type Remote, transfer, wrap } from 'comlink';
import type { Size } from '@/core/document/model';
import type { GifPicture } from '@/core/format/gif/writeGif';
import type { PngFacts } from '@/core/format/png/writePng';
import { type LoopPacking, shortestGif } from '@/workers/output/loop/loopPacking';
import { OutputRefused } from '@/workers/output/outputFormat';
import { type OpenedPicture, openPicture } from '@/workers/output/pictures/openPicture';
import { type PackedPicture, packTaken, type TakenPicture } from '@/workers/output/pictures/packPicture';
import { packRows } from '@/workers/output/pictures/packRows';
import type { PictureFileWorker } from '@/workers/protocol';

/**
 * Packs pictures, and opens them again, several at once, each on a core of its own. Until a worker is loaded, and where none can be
 * had, that is done where it is asked for. They are for one job, and end with the worker that does it.
 */
export class PictureHelpers implements LoopPacking {
  private readonly ready: Remote<PictureFileWorker>[] = [];
  private readonly rooms: Uint8Array[] = [];
  private next = 0;

  /** `ports` lead to the workers there are; one that can't be loaded never answers, and is never asked. */
  constructor(private readonly ports: readonly MessagePort[]) {
    for (const port of ports) {
      const helper = wrap<PictureFileWorker>(port);
      void helper.isReady().then(() => this.ready.push(helper));
    }
  }

  /** How many pictures to ask for at once: one for each worker, and one that is ready for whoever is done first. */
  get atOnce(): number {
    return Math.max(1, this.ports.length) + 1;
  }

  /** Whose turn it is; none while none is ready. */
  private helper(): Remote<PictureFileWorker> | undefined {
    return this.ready[this.next++ % Math.max(1, this.ready.length)];
  }

  /** Room for the pixels of a picture; what one was packed from serves the next. */
  roomFor({ width, height }: Size): Uint8Array {
    const bytes = width * height * 4;
    const room = this.rooms.pop();
    return room?.byteLength === bytes ? room : new Uint8Array(bytes);
  }

  /** A taken picture as a file. Its pixels are its own, and given away with it. */
  async pack(taken: TakenPicture): Promise<PackedPicture> {
    const { pixels } = taken;
    const helper = this.helper();
    if (!helper) {
      const picture = await packTaken(taken, () => pixels);
      this.rooms.push(pixels);
      return picture;
    }
    const answer = await helper.pack(transfer(taken, [pixels.buffer]));
    if (answer.kind === 'refused') throw new OutputRefused(answer.reason);
    this.rooms.push(answer.room);
    return answer.picture;
  }

  /** Pixels (RGBA), which are given away, packed as the rows of a PNG. */
  async packRows(rgba: Uint8Array, facts: PngFacts): Promise<Uint8Array> {
    return (await this.helper()?.packRows(transfer(rgba, [rgba.buffer]), facts)) ?? packRows(rgba, facts);
  }

  async packGif(ways: readonly GifPicture[]): Promise<Uint8Array> {
    const helper = this.helper();
    if (!helper) return shortestGif(ways);
    return helper.packGif(
      transfer(
        ways,
        ways.map(({ indices }) => indices.buffer),
      ),
    );
  }

  /** What lies in a picture file. Rejects where its bytes are none. */
  open(bytes: Uint8Array, extension: string): Promise<OpenedPicture> {
    return this.helper()?.open(bytes, extension) ?? openPicture(bytes, extension);
  }
}
