/*
 * What is under way while the server is told to stop: a request that is being answered, a file that is being given. The server
 * ends once nothing is, or when that takes too long. Streams that last as long as a page is open are ended by it.
 */

type InHand = { count: number; isEnding: boolean; readonly waiting: Set<() => void>; readonly streams: Set<() => void> };
const shared = globalThis as typeof globalThis & { limeTickInHand?: InHand };
const own = (): InHand => {
  shared.limeTickInHand ??= { count: 0, isEnding: false, waiting: new Set(), streams: new Set() };
  return shared.limeTickInHand;
};

/** Takes something in hand; what is returned, once, lets it go. */
export function takeInHand(): () => void {
  const state = own();
  state.count++;
  let isHeld = true;
  return () => {
    if (!isHeld) return;
    isHeld = false;
    state.count--;
    if (state.count === 0) for (const tell of state.waiting) tell();
  };
}

/** Does something that the server finishes before it ends. */
export async function whileInHand<T>(work: () => Promise<T>): Promise<T> {
  const letGo = takeInHand();
  try {
    return await work();
  } finally {
    letGo();
  }
}

/** Has `end` called when the server is told to stop, or at once when it was; what is returned forgets it. */
export function endWithServer(end: () => void): () => void {
  const { streams, isEnding } = own();
  if (isEnding) end();
  else streams.add(end);
  return () => void streams.delete(end);
}

/** Ends what lasts, and waits until nothing is in hand, `patienceMilliseconds` at most. Resolves with how many things still were. */
export async function finishInHand(patienceMilliseconds: number): Promise<number> {
  const state = own();
  state.isEnding = true;
  for (const end of state.streams) end();
  state.streams.clear();
  if (state.count > 0)
    await new Promise<void>((resolve) => {
      state.waiting.add(resolve);
      setTimeout(resolve, patienceMilliseconds);
    });
  return state.count;
}
