import { expose, transfer } from 'comlink';
import { Desk } from '@/workers/count/desk';
import type { CountWorker } from '@/workers/count/deskProtocol';

const desk = new Desk();
let last = 0;
let planning = new AbortController();
let holding = new AbortController();

function stopHolding(): void {
  holding.abort();
  holding = new AbortController();
}

const REPORT_MILLISECONDS = 100;

/** Reports no more often than eyes follow. */
function calm<Args extends readonly unknown[]>(report: (...args: Args) => void): (...args: Args) => void {
  let at = 0;
  return (...args) => {
    const now = performance.now();
    if (now - at < REPORT_MILLISECONDS) return;
    at = now;
    report(...args);
  };
}

const given = (bitmap: ImageBitmap | null) => (bitmap ? transfer(bitmap, [bitmap]) : null);

const worker: CountWorker = {
  put: (dropped) => desk.put(dropped, () => `thing-${++last}`),
  count: (id, onFrame) => desk.count(id, calm(onFrame)),
  stop: (id) => desk.stop(id),
  remove: (id) => desk.remove(id),
  plan: async (key, order, onFrame) => {
    planning.abort();
    stopHolding();
    planning = new AbortController();
    const { signal } = planning;
    try {
      await desk.plan(key, order, calm(onFrame), signal);
      return true;
    } catch (error) {
      if (signal.aborted) return false;
      throw error;
    }
  },
  stopPlan: () => {
    planning.abort();
    stopHolding();
  },
  hold: (id, order, onFrame) => desk.hold(id, order, calm(onFrame), holding.signal),
  accept: (id, destinations) => desk.accept(id, destinations),
  bench: (id, settings, against, onFrame) => desk.bench(id, settings, against, calm(onFrame)),
  stopBench: (id) => desk.stopBench(id),
  benchFilm: (id, settings, onFrame) => desk.benchFilm(id, settings, calm(onFrame)),
  picture: async (id, frame, mostWidthPx) => given(await desk.picture(id, frame, mostWidthPx)),
  pictureOfPlan: async (key, isDrawingsAlone, frame, mostWidthPx) =>
    given(await desk.pictureOfPlan(key, isDrawingsAlone, frame, mostWidthPx)),
};

expose(worker);
