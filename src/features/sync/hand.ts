/** So long nothing was drawn when the hand rests. */
export const REST_MILLISECONDS = 400;

let drewAtMilliseconds = Number.NEGATIVE_INFINITY;

/** Takes note that something is being drawn just now. */
export function handDraws(): void {
  drewAtMilliseconds = performance.now();
}

/**
 * Resolves once nothing has been drawn for a moment, at once when nobody draws, and after `mostMilliseconds`
 * at the latest. Work that can wait does so here: on a small machine it would be felt in the line. A page that
 * is put out of sight may not come back, and has nothing to wait for.
 */
export async function handRests(mostMilliseconds: number): Promise<void> {
  const latest = performance.now() + mostMilliseconds;
  for (;;) {
    const leftMilliseconds = Math.min(drewAtMilliseconds + REST_MILLISECONDS, latest) - performance.now();
    if (leftMilliseconds <= 0 || document.hidden) return;
    await untilLaterOrHidden(leftMilliseconds);
  }
}

const untilLaterOrHidden = (milliseconds: number) =>
  new Promise<void>((resolve) => {
    const go = () => {
      clearTimeout(timer);
      document.removeEventListener('visibilitychange', go);
      resolve();
    };
    const timer = setTimeout(go, milliseconds);
    document.addEventListener('visibilitychange', go);
  });
