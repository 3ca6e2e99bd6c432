import { type ProxyMarked, proxy } from 'comlink';

/** Makes what a worker is to tell something that it can call from where it is. */
export type Heard = <Told extends unknown[]>(told: (...what: Told) => void) => ((...what: Told) => void) & ProxyMarked;

/**
 * Asks a worker something that it tells of meanwhile, as how far it is. What it tells comes by another port than its answer, and no
 * order holds between two ports: what comes after the answer is not heard, so that nothing seems to go on that is over.
 */
export function hearing<T>(question: (heard: Heard) => Promise<T>): Promise<T> {
  let isAnswered = false;
  return question((told) =>
    proxy((...what) => {
      if (!isAnswered) told(...what);
    }),
  ).finally(() => {
    isAnswered = true;
  });
}
