import { proxy, transfer, wrap } from 'comlink';
import type { JobEvent } from '@/core/output/jobState';
import { PICTURE_KIND_FACTS } from '@/core/output/pictures';
import type { TriedLoop } from '@/workers/output/loop/loopMaker';
import type { Mixing } from '@/workers/output/outputFormat';
import type { HandoverEnd, HandoverOrder, HandoverWorker, PictureFileWorker } from '@/workers/protocol';

/** More than these at once would only hold more pictures in memory. */
const MOST_HELPERS = 4;

/** Formats whose pictures are packed by others while the next is rendered. */
const hasHelp = (formatId: string): boolean => Object.hasOwn(PICTURE_KIND_FACTS, formatId) || formatId === 'apng' || formatId === 'gif';

/** A worker that hands over, with those that pack and open pictures for it. They begin here and end together. */
class Maker {
  readonly worker = new Worker(new URL('./output/output.worker.ts', import.meta.url), { type: 'module' });
  readonly remote = wrap<HandoverWorker>(this.worker);
  private readonly helpers: Worker[] = [];
  /** Rejects when any of them fails in its work. */
  readonly failed: Promise<never>;
  private fail: (reason: Error) => void = () => undefined;

  constructor() {
    this.failed = new Promise((_resolve, reject) => {
      this.fail = reject;
    });
    // Whoever hands over with them is told.
    this.failed.catch(() => undefined);
    this.worker.addEventListener('error', (event) => this.fail(new Error(event.message || 'The handover stopped unexpectedly.')));
  }

  /** Loads what a format needs. What can't be loaded now is tried again by the handover itself, which says so if it still can't. */
  load(formatId: string): void {
    this.remote.load(formatId).catch(() => undefined);
  }

  /** Has as many workers for pictures as there are cores, where a format has use for them: who renders waits for them oftener than they for it. */
  help(formatId: string): void {
    const count = hasHelp(formatId) ? Math.min(MOST_HELPERS, navigator.hardwareConcurrency) : 0;
    while (this.helpers.length < count) this.startHelper();
  }

  private startHelper(): void {
    const helper = new Worker(new URL('./output/pictures/picture.worker.ts', import.meta.url), { type: 'module' });
    this.helpers.push(helper);
    const { port1, port2 } = new MessageChannel();
    let isReady = false;
    helper.addEventListener('error', (event) => {
      // One that can't be loaded is never asked for anything.
      if (isReady) this.fail(new Error(event.message || 'A picture could not be packed or opened.'));
      else event.preventDefault();
    });
    void wrap<PictureFileWorker>(helper)
      .serve(transfer(port1, [port1]))
      .then(() => {
        isReady = true;
      });
    void this.remote.addHelper(transfer(port2, [port2]));
  }

  end(): void {
    for (const worker of [this.worker, ...this.helpers]) worker.terminate();
  }
}

/** The format the next handover is probably in, and workers loaded for it; both null where none is awaited. */
let awaited: string | null = null;
let loaded: Maker | null = null;

function loadNext(): void {
  if (awaited === null) return;
  if (!loaded) {
    const maker = new Maker();
    loaded = maker;
    maker.worker.addEventListener('error', (event) => {
      // The next handover starts one again, and tells why it can't be loaded.
      if (loaded !== maker) return;
      event.preventDefault();
      loaded = null;
      maker.end();
    });
  }
  loaded.help(awaited);
  loaded.load(awaited);
}

/**
 * Loads what a handover in a format needs before it is asked for, so that it starts at once, and though the server should stop
 * answering meanwhile.
 */
export function awaitHandover(formatId: string): void {
  awaited = formatId;
  loadNext();
}

/** Gives back what was loaded for a handover nobody asked for. */
export function awaitNoHandover(): void {
  awaited = null;
  loaded?.end();
  loaded = null;
}

/** How long a worker that was told to stop may take to put away what it had begun. */
const HEED_MILLISECONDS = 15_000;

/** What a person is told of a worker that did not heed it, and was ended with whatever it had in hand. */
function unheeded(folder: FileSystemDirectoryHandle | null): HandoverEnd {
  const left = folder
    ? `What it had written so far is still in the folder ${folder.name}.`
    : 'Nothing was saved; what it had begun is cleared away once this window is closed.';
  return { kind: 'refused', reason: `It was stopped. The part of the page that writes did not answer for 15 s, so it was ended. ${left}` };
}

/** A handover under way: how it ends, and how to stop it. */
export type RunningHandover = { readonly end: Promise<HandoverEnd>; readonly stop: () => void };

/** Starts a handover in workers of its own, which end with it. */
export function startHandover(
  order: HandoverOrder,
  folder: FileSystemDirectoryHandle | null,
  onEvent: (event: JobEvent) => void,
  mix: Mixing | null,
  tried: TriedLoop | null,
): RunningHandover {
  const maker = loaded ?? new Maker();
  const { remote } = maker;
  loaded = null;
  maker.help(order.formatId);
  let endIt: (end: HandoverEnd) => void;
  const ended = new Promise<HandoverEnd>((resolve) => {
    endIt = resolve;
  });
  let patience: ReturnType<typeof setTimeout> | undefined;
  const end = Promise.race([remote.run(order, folder, proxy(onEvent), mix && proxy(mix), tried), maker.failed, ended]).finally(() => {
    clearTimeout(patience);
    maker.end();
    loadNext();
  });
  return {
    end,
    stop: () => {
      void remote.stop();
      patience ??= setTimeout(() => endIt(unheeded(folder)), HEED_MILLISECONDS);
    },
  };
}
