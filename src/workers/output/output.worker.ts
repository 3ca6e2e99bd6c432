import { expose } from 'comlink';
import { runHandover } from '@/workers/output/job';
import { type HandoverWorker, handoverOrderSchema } from '@/workers/protocol';

const stopper = new AbortController();

const worker: HandoverWorker = {
  run: (order, folder, onProgress) => runHandover(handoverOrderSchema.parse(order), folder, onProgress, stopper.signal),
  stop: () => stopper.abort(),
};

expose(worker);
