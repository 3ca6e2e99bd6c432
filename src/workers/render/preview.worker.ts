import { expose, transfer } from 'comlink';
import type { ColourRange } from '@/core/document/checks';
import { sameSize } from '@/core/document/size';
import type { PreviewWorker } from '@/workers/protocol';
import { stackLayersSchema } from '@/workers/protocol';
import { Compositor } from '@/workers/render/compositor';

let compositor: Compositor | undefined;
let turn: Promise<unknown> = Promise.resolve();

const isMadeFor = ({ shrink, hold }: Compositor, wantedShrink: number, wanted: ColourRange | null) =>
  shrink === wantedShrink && hold?.from === wanted?.from && hold?.to === wanted?.to;

/** One composite at a time: they share a canvas. */
function inTurn<T>(work: () => Promise<T>): Promise<T> {
  const result = turn.then(work);
  turn = result.catch(() => undefined);
  return result;
}

const worker: PreviewWorker = {
  composite(size, layers, ground, { shrink, hold }) {
    const checked = stackLayersSchema.parse(layers);
    if (!compositor || !sameSize(compositor.size, size) || !isMadeFor(compositor, shrink, hold)) {
      const replaced = compositor;
      // After what it still has to do, its pictures are given back.
      void inTurn(async () => replaced?.letGo());
      compositor = new Compositor(size, undefined, shrink, hold);
    }
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
