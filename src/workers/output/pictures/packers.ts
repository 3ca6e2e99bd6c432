import { type Remote, transfer, wrap } from 'comlink';
import { OutputRefused } from '@/workers/output/outputFormat';
import { packTaken, type TakenPicture } from '@/workers/output/pictures/packPicture';
import type { PackingWorker } from '@/workers/protocol';

/** One core renders; more than these at once would only hold more pictures in memory. */
const MOST_WORKERS = 4;

type Packer = { readonly remote: Remote<PackingWorker>; readonly failed: Promise<never> };

/**
 * Packs pictures on the cores that rendering leaves, several at once. Until a worker is loaded, and where none can be had, they
 * are packed where they are rendered. Whoever makes it closes it.
 */
export class Packers {
  private readonly workers: Worker[] = [];
  private readonly ready: Packer[] = [];
  private next = 0;
  /** How many pictures to have packed at once: one for each worker, and one that is ready for whoever is done first. */
  readonly atOnce: number;

  constructor(cores: number) {
    const count = Math.max(1, Math.min(MOST_WORKERS, cores - 1));
    this.atOnce = count + 1;
    if (typeof Worker !== 'undefined') for (let each = 0; each < count; each++) this.start();
  }

  private start(): void {
    const worker = new Worker(new URL('./packing.worker.ts', import.meta.url), { type: 'module' });
    this.workers.push(worker);
    const failed = new Promise<never>((_resolve, reject) => {
      worker.addEventListener('error', (event) => {
        event.preventDefault();
        reject(new Error(event.message || 'A picture could not be packed.'));
      });
    });
    const packer = { remote: wrap<PackingWorker>(worker), failed };
    // One that can't be loaded is never ready.
    Promise.race([packer.remote.isReady(), failed]).then(
      () => this.ready.push(packer),
      () => undefined,
    );
  }

  /** A taken picture as a file. Its pixels are copied before this first waits; a bitmap is used up. */
  async pack(taken: TakenPicture): Promise<Uint8Array> {
    const packer = this.ready[this.next++ % Math.max(1, this.ready.length)];
    if (!packer) return packTaken(taken);
    const { content } = taken;
    const question = packer.remote.pack(content instanceof Uint8Array ? taken : transfer(taken, [content]));
    const answer = await Promise.race([question, packer.failed]);
    if (answer.kind === 'refused') throw new OutputRefused(answer.reason);
    return answer.bytes;
  }

  close(): void {
    for (const worker of this.workers) worker.terminate();
  }
}
