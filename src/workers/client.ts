import { proxy, type Remote, transfer, wrap } from 'comlink';
import type { StackLayer } from '@/core/handover/framePlan';
import type { Digest, Size } from '@/core/sheet/document';
import type { Ground } from '@/workers/compositor';
import type { HandoverEnd, HandoverOrder, HandoverProgress, HandoverWorker, PictureWorker, PreviewWorker } from '@/workers/protocol';

export { PictureCache } from '@/workers/pictureCache';
export { localStore, type WaitingStep } from '@/workers/pictureSource';
export type { HandoverProgress, HandoverResult } from '@/workers/protocol';

let previewWorker: Remote<PreviewWorker> | undefined;
let pictureWorker: Remote<PictureWorker> | undefined;

/** A stack composited in the preview worker. */
export function compositePreview(size: Size, layers: readonly StackLayer[], ground: Ground): Promise<ImageBitmap> {
  previewWorker ??= wrap<PreviewWorker>(new Worker(new URL('./preview.worker.ts', import.meta.url), { type: 'module' }));
  return previewWorker.composite(size, layers, ground);
}

/** The digest and PNG of a drawing's pixels, worked out off the page's thread; null for an empty page. */
export function keepPixels(width: number, height: number, rgba: Uint8ClampedArray): Promise<{ digest: Digest; png: Uint8Array } | null> {
  pictureWorker ??= wrap<PictureWorker>(new Worker(new URL('./picture.worker.ts', import.meta.url), { type: 'module' }));
  return pictureWorker.keep(width, height, transfer(rgba, [rgba.buffer]));
}

/** A handover under way: how it ends, and how to stop it. */
export type RunningHandover = { readonly end: Promise<HandoverEnd>; readonly stop: () => void };

/** Starts a handover in a worker of its own, which ends with it. */
export function startHandover(
  order: HandoverOrder,
  folder: FileSystemDirectoryHandle | null,
  onProgress: (progress: HandoverProgress) => void,
): RunningHandover {
  const worker = new Worker(new URL('./handover.worker.ts', import.meta.url), { type: 'module' });
  const remote = wrap<HandoverWorker>(worker);
  const failed = new Promise<HandoverEnd>((_resolve, reject) => {
    worker.addEventListener('error', (event) => reject(new Error(event.message || 'The handover stopped unexpectedly.')));
  });
  const end = Promise.race([remote.run(order, folder, proxy(onProgress)), failed]).finally(() => worker.terminate());
  return {
    end,
    stop: () => {
      void remote.stop();
    },
  };
}
