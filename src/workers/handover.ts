import { proxy, type Remote, wrap } from 'comlink';
import type { JobEvent } from '@/core/output/jobState';
import type { Mixing } from '@/workers/output/outputFormat';
import type { HandoverEnd, HandoverOrder, HandoverWorker } from '@/workers/protocol';

type Maker = { readonly worker: Worker; readonly remote: Remote<HandoverWorker> };

function newMaker(): Maker {
  const worker = new Worker(new URL('./output/output.worker.ts', import.meta.url), { type: 'module' });
  return { worker, remote: wrap<HandoverWorker>(worker) };
}

/** The format the next handover is probably in, and a worker loaded for it; both null where none is awaited. */
let awaited: string | null = null;
let loaded: Maker | null = null;

function loadNext(): void {
  if (awaited === null) return;
  if (!loaded) {
    const maker = newMaker();
    loaded = maker;
    maker.worker.addEventListener('error', (event) => {
      // The next handover starts one again, and tells why it can't be loaded.
      if (loaded !== maker) return;
      event.preventDefault();
      loaded = null;
      maker.worker.terminate();
    });
  }
  // What can't be loaded now is tried again by the handover itself, which says so if it still can't.
  loaded.remote.load(awaited).catch(() => undefined);
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
  loaded?.worker.terminate();
  loaded = null;
}

/** How long a worker that was told to stop may take to put away what it had begun. */
const HEED_MILLISECONDS = 15_000;

/** What a person is told of a worker that did not heed it, and was ended with whatever it had in hand. */
function unheeded(folder: FileSystemDirectoryHandle | null): HandoverEnd {
  const left = folder
    ? `What it had written so far is still in the folder ${folder.name}.`
    : 'Nothing was saved; what it had begun is cleared away once this window was closed.';
  return { kind: 'refused', reason: `It was stopped. The part of the page that writes did not answer for 15 s, so it was ended. ${left}` };
}

/** A handover under way: how it ends, and how to stop it. */
export type RunningHandover = { readonly end: Promise<HandoverEnd>; readonly stop: () => void };

/** Starts a handover in a worker of its own, which ends with it. */
export function startHandover(
  order: HandoverOrder,
  folder: FileSystemDirectoryHandle | null,
  onEvent: (event: JobEvent) => void,
  mix: Mixing | null,
): RunningHandover {
  const { worker, remote } = loaded ?? newMaker();
  loaded = null;
  const failed = new Promise<HandoverEnd>((_resolve, reject) => {
    worker.addEventListener('error', (event) => reject(new Error(event.message || 'The handover stopped unexpectedly.')));
  });
  let endIt: (end: HandoverEnd) => void;
  const ended = new Promise<HandoverEnd>((resolve) => {
    endIt = resolve;
  });
  let patience: ReturnType<typeof setTimeout> | undefined;
  const end = Promise.race([remote.run(order, folder, proxy(onEvent), mix && proxy(mix)), failed, ended]).finally(() => {
    clearTimeout(patience);
    worker.terminate();
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
