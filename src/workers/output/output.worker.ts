import { expose } from 'comlink';
import { FORMATS } from '@/workers/output/formats/list';
import { runJob } from '@/workers/output/job';
import { helperPorts } from '@/workers/output/pictures/helperPorts';
import { type HandoverWorker, handoverOrderSchema } from '@/workers/protocol';

const stopper = new AbortController();

const worker: HandoverWorker = {
  load: async (formatId) => FORMATS.find(({ id }) => id === formatId)?.load(),
  addHelper: (port) => {
    helperPorts.push(port);
  },
  run: (order, folder, onEvent, mix, tried) =>
    runJob(handoverOrderSchema.parse(order), FORMATS, folder, onEvent, stopper.signal, mix, tried),
  stop: () => stopper.abort(),
};

expose(worker);
