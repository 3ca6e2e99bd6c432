import { type Remote, transfer, wrap } from 'comlink';
import type { Size } from '@/core/document/model';
import { OutputRefused } from '@/workers/output/outputFormat';
import { type OpenedPicture, openPicture } from '@/workers/output/pictures/openPicture';
import { type PackedPicture, packTaken, type TakenPicture } from '@/workers/output/pictures/packPicture';
import type { PictureFileWorker } from '@/workers/protocol';

/** More than these at once would only hold more pictures in memory. */
const MOST_WORKERS = 4;

type Helper = { readonly remote: Remote<PictureFileWorker>; readonly failed: Promise<never> };

/**
 * Whether a worker can begin others here. In Firefox it does, and now and then stands still for ever where it does so while others
 * are ended: a handover that takes longer is better than one that never comes to its end.
 */
const canBeginWorkers = (): boolean => typeof Worker !== 'undefined' && !/\bFirefox\//.test(navigator.userAgent);

/**
 * Packs pictures, and opens them again, several at once, each on a core of its own. Until a worker is loaded, and where none can be
 * had, that is done where it is asked for. They are for one job, and end with the worker that does it.
 */
export class PictureHelpers {
  private readonly ready: Helper[] = [];
  private readonly rooms: Uint8Array[] = [];
  private next = 0;
  private readonly count: number;

  /** One for each core, that of whoever renders as well: it waits for them oftener than they for it. */
  constructor(cores: number) {
    this.count = Math.max(1, Math.min(MOST_WORKERS, cores));
    for (let begun = 0; begun < this.count; begun++) if (canBeginWorkers()) this.start();
  }

  /** How many pictures to ask for at once: one for each worker, and one that is ready for whoever is done first. */
  get atOnce(): number {
    return this.count + 1;
  }

  private start(): void {
    const worker = new Worker(new URL('./picture.worker.ts', import.meta.url), { type: 'module' });
    const failed = new Promise<never>((_resolve, reject) => {
      worker.addEventListener('error', (event) => {
        event.preventDefault();
        reject(new Error(event.message || 'A picture could not be packed or opened.'));
      });
    });
    const helper = { remote: wrap<PictureFileWorker>(worker), failed };
    // One that can't be loaded is never ready.
    Promise.race([helper.remote.isReady(), failed]).then(
      () => this.ready.push(helper),
      () => undefined,
    );
  }

  /** Whose turn it is; none while none is ready. */
  private helper(): Helper | undefined {
    return this.ready[this.next++ % Math.max(1, this.ready.length)];
  }

  /** Room for the pixels of a picture; what one was packed from serves the next. */
  roomFor({ width, height }: Size): Uint8Array {
    const bytes = width * height * 4;
    const room = this.rooms.pop();
    return room?.byteLength === bytes ? room : new Uint8Array(bytes);
  }

  /** A taken picture as a file. Its pixels are its own, and given away with it. */
  async pack(taken: TakenPicture): Promise<PackedPicture> {
    const { pixels } = taken;
    const helper = this.helper();
    if (!helper) {
      const picture = await packTaken(taken, () => pixels);
      this.rooms.push(pixels);
      return picture;
    }
    const answer = await Promise.race([helper.remote.pack(transfer(taken, [pixels.buffer])), helper.failed]);
    if (answer.kind === 'refused') throw new OutputRefused(answer.reason);
    this.rooms.push(answer.room);
    return answer.picture;
  }

  /** What lies in a picture file. Rejects where its bytes are none. */
  async open(bytes: Uint8Array, extension: string): Promise<OpenedPicture> {
    const helper = this.helper();
    return helper ? Promise.race([helper.remote.open(bytes, extension), helper.failed]) : openPicture(bytes, extension);
  }
}
