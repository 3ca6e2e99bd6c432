import { expose, transfer } from 'comlink';
import { Compositor } from '@/workers/compositor';
import type { PreviewWorker } from '@/workers/protocol';
import { stackLayersSchema } from '@/workers/protocol';

let compositor: Compositor | undefined;
let turn: Promise<unknown> = Promise.resolve();

/** One composite at a time: they share a canvas. */
function inTurn<T>(work: () => Promise<T>): Promise<T> {
  const result = turn.then(work);
  turn = result.catch(() => undefined);
  return result;
}

const worker: PreviewWorker = {
  composite(size, layers, ground) {
    const checked = stackLayersSchema.parse(layers);
    if (compositor?.size.width !== size.width || compositor.size.height !== size.height) compositor = new Compositor(size);
    const current = compositor;
    current.prepare(checked);
    return inTurn(async () => {
      const canvas = await current.lay(checked, ground);
      const bitmap = await createImageBitmap(canvas);
      return transfer(bitmap, [bitmap]);
    });
  },
  letGo: () => inTurn(async () => compositor?.letGo()),
};

expose(worker);
