import { expose, transfer } from 'comlink';
import type { LoopMaker } from '@/workers/output/loop/loopMaker';
import { newLoopMaker } from '@/workers/output/loop/loopPacking';
import { OutputRefused } from '@/workers/output/outputFormat';
import { openPicture } from '@/workers/output/pictures/openPicture';
import { packStored, packTaken } from '@/workers/output/pictures/packPicture';
import type { PictureFileWorker } from '@/workers/protocol';

let maker: LoopMaker | null = null;
let lastPart: Promise<unknown> = Promise.resolve();

/** What is thrown crosses as a plain error, by which nobody would know that a person can do something about it. */
async function orRefusal<Packed>(pack: () => Promise<Packed>): Promise<Packed | { readonly kind: 'refused'; readonly reason: string }> {
  try {
    return await pack();
  } catch (error) {
    if (error instanceof OutputRefused) return { kind: 'refused', reason: error.message };
    throw error;
  }
}

const worker: PictureFileWorker = {
  serve: (port) => expose(worker, port),
  isReady: () => true,
  open: openPicture,
  beginLoop: (work) => {
    maker = newLoopMaker(work);
  },
  makePart: (picture) => {
    // One after another: each is held against the one before.
    const part = lastPart.then(async () => {
      if (!maker) throw new Error('A loop is begun before its pictures are made.');
      const { bytes, note, room } = await maker.make(picture);
      return transfer({ bytes, note, room }, room ? [bytes.buffer, room.buffer] : [bytes.buffer]);
    });
    lastPart = part.catch(() => undefined);
    return part;
  },
  pack: (taken) => {
    const { pixels: room } = taken;
    return orRefusal(async () => {
      const picture = await packTaken(taken, () => room);
      return transfer({ kind: 'packed', picture, room }, [picture.bytes.buffer, room.buffer]);
    });
  },
  packStored: (order) =>
    orRefusal(async () => {
      const picture = await packStored(order);
      return transfer({ kind: 'packed', picture }, [picture.bytes.buffer]);
    }),
};

expose(worker);
