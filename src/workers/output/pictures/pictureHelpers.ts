import { type Remote, transfer, wrap } from 'comlink';
import type { Size } from '@/core/document/model';
import type { LoopMaker, LoopWork } from '@/workers/output/loop/loopMaker';
import { type LoopPacking, newLoopMaker } from '@/workers/output/loop/loopPacking';
import { OutputRefused } from '@/workers/output/outputFormat';
import { type OpenedPicture, openPicture } from '@/workers/output/pictures/openPicture';
import { type PackedPicture, packStored, packTaken, type StoredOrder, type TakenPicture } from '@/workers/output/pictures/packPicture';
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

  /** A stored picture that is all of what leaves, as a file. */
  async packStored(order: StoredOrder): Promise<PackedPicture> {
    const helper = this.helper();
    if (!helper) return packStored(order);
    const answer = await helper.packStored(order);
    if (answer.kind === 'refused') throw new OutputRefused(answer.reason);
    return answer.picture;
  }

  /** Whoever is ready makes a loop's pictures; until one is, they are made here. */
  makersFor(work: LoopWork): () => LoopMaker {
    const makers = new Map<Remote<PictureFileWorker>, LoopMaker>();
    let here: LoopMaker | null = null;
    return () => {
      const helper = this.helper();
      if (!helper) {
        here ??= newLoopMaker(work);
        return here;
      }
      const known = makers.get(helper);
      if (known) return known;
      // What it answers comes before the first picture it makes; one that can't begin says so with that.
      helper.beginLoop(work).catch(() => undefined);
      const maker: LoopMaker = {
        make: (picture) => {
          const { before } = picture;
          const given = typeof before === 'string' ? [picture.pixels.buffer] : [picture.pixels.buffer, before.pixels.buffer];
          return helper.makePart(transfer(picture, given));
        },
      };
      makers.set(helper, maker);
      return maker;
    };
  }

  get makersAtOnce(): number {
    return this.atOnce;
  }

  /** What lies in a picture file. Rejects where its bytes are none. */
  open(bytes: Uint8Array, extension: string): Promise<OpenedPicture> {
    return this.helper()?.open(bytes, extension) ?? openPicture(bytes, extension);
  }
}
