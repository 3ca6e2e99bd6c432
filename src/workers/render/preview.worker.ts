import { expose, transfer } from 'comlink';
import PQueue from 'p-queue';
import type { Finish } from '@/core/document/finish';
import type { Size } from '@/core/document/model';
import { pictureBytes, sameSize } from '@/core/document/size';
import { readClipPicture } from '@/core/render/clipPicture';
import type { StackLayer } from '@/core/render/stacks';
import type { PreviewWorker } from '@/workers/protocol';
import { stackSchema } from '@/workers/protocol';
import { clipFrames } from '@/workers/render/clipFrames';
import { Compositor } from '@/workers/render/compositor';
import { letGoOfLooks, lookAt } from '@/workers/render/lookQueue';
import { paceDecoders } from '@/workers/render/pacedDecoder';
import { PictureCache } from '@/workers/render/pictureCache';

paceDecoders();

/** Compositors by the size and finish they are for: a picture as large as it is shown, and the whole one once all is calm. */
let compositors: readonly Compositor[] = [];
const MOST_COMPOSITORS = 2;
const pictures = new PictureCache();
/** One composite at a time: they share a canvas. */
const turns = new PQueue({ concurrency: 1 });
let asked = 0;

/** A size of the same shape that is no wider than told. */
const narrowed = ({ width, height }: Size, mostWidthPx: number): Size => {
  const scale = Math.min(1, mostWidthPx / width);
  return { width: Math.max(1, Math.round(width * scale)), height: Math.max(1, Math.round(height * scale)) };
};

function compositorFor(size: Size, shrink: number, finish: Finish): Compositor {
  const isMadeFor = (one: Compositor) =>
    sameSize(one.size, size) && one.shrink === shrink && JSON.stringify(one.finish) === JSON.stringify(finish);
  const compositor = compositors.find(isMadeFor) ?? new Compositor(size, pictures, shrink, finish);
  compositors = [compositor, ...compositors.filter((one) => one !== compositor)].slice(0, MOST_COMPOSITORS);
  return compositor;
}

/** Stacks that wait for their turn, in the order they were asked for, and who lays them. */
const waiting = new Set<{ readonly compositor: Compositor; readonly layers: readonly StackLayer[] }>();
/** Has the pictures of those whose turn comes next decoded, as far as there is room: with more, some would be let go before they are due. */
function prepareWaiting(): void {
  let leftBytes = pictures.mostBytes;
  for (const { compositor, layers } of waiting) {
    leftBytes -= pictureBytes(compositor.size) * layers.length;
    if (leftBytes < 0) return;
    compositor.prepare(layers);
  }
}

/** What is waited for, the newest first: whoever goes over a film has gone on from the older. */
const now = <T>(work: () => Promise<T>): Promise<T> => turns.add(work, { priority: ++asked });
/** What is for later, in order. */
const later = <T>(work: () => Promise<T>): Promise<T> => turns.add(work);

const worker: PreviewWorker = {
  composite(size, stack, ground, { shrink, finish, ahead, picturesBytes }) {
    const checked = stackSchema.parse(stack);
    const current = compositorFor(size, shrink, finish);
    pictures.mostBytes = picturesBytes ?? pictures.mostBytes;
    const turn = { compositor: current, layers: checked.layers };
    waiting.add(turn);
    prepareWaiting();
    return (ahead ? later : now)(async () => {
      waiting.delete(turn);
      prepareWaiting();
      const bitmap = await current.bitmap(checked, ground);
      return transfer(bitmap, [bitmap]);
    });
  },
  async clipFrame(name, mostWidthPx) {
    const picture = readClipPicture(name);
    if (!picture) throw new Error(`${name} names no frame of a clip.`);
    const bitmap = await clipFrames.frame(picture, (own) => narrowed(own, mostWidthPx), { canWait: true });
    return transfer(bitmap, [bitmap]);
  },
  async look(look) {
    const bitmap = await lookAt(look);
    return transfer(bitmap, [bitmap]);
  },
  letGo: () =>
    later(async () => {
      // What was asked for in a look may wait for the server: nobody waits for that here.
      letGoOfLooks();
      for (const compositor of compositors) compositor.letGo();
    }),
};

expose(worker);
