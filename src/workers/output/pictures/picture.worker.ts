import { expose, transfer } from 'comlink';
import { shortestGif } from '@/workers/output/loop/loopPacking';
import { OutputRefused } from '@/workers/output/outputFormat';
import { openPicture } from '@/workers/output/pictures/openPicture';
import { packTaken } from '@/workers/output/pictures/packPicture';
import { packRows } from '@/workers/output/pictures/packRows';
import type { PictureFileWorker } from '@/workers/protocol';

const worker: PictureFileWorker = {
  serve: (port) => expose(worker, port),
  isReady: () => true,
  open: openPicture,
  packRows: async (rgba, facts) => {
    const rows = await packRows(rgba, facts);
    return transfer(rows, [rows.buffer]);
  },
  packGif: (ways) => {
    const bytes = shortestGif(ways);
    return transfer(bytes, [bytes.buffer]);
  },
  pack: async (taken) => {
    try {
      const { pixels: room } = taken;
      const picture = await packTaken(taken, () => room);
      return transfer({ kind: 'packed', picture, room }, [picture.bytes.buffer, room.buffer]);
    } catch (error) {
      // What is thrown crosses as a plain error, by which nobody would know that a person can do something about it.
      if (error instanceof OutputRefused) return { kind: 'refused', reason: error.message };
      throw error;
    }
  },
};

expose(worker);
