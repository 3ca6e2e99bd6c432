import { expose, transfer } from 'comlink';
import { OutputRefused } from '@/workers/output/outputFormat';
import { packTaken } from '@/workers/output/pictures/packPicture';
import type { PackingWorker } from '@/workers/protocol';

const worker: PackingWorker = {
  isReady: () => true,
  pack: async (taken) => {
    try {
      const bytes = await packTaken(taken);
      return transfer({ kind: 'packed', bytes }, [bytes.buffer]);
    } catch (error) {
      // What is thrown crosses as a plain error, by which nobody would know that a person can do something about it.
      if (error instanceof OutputRefused) return { kind: 'refused', reason: error.message };
      throw error;
    }
  },
};

expose(worker);
