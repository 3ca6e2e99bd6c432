import type { WaitingStep } from '@/contracts/local';

/** Most steps of one sending. */
export const MOST_BATCH_STEPS = 50;
/** Most bytes of one sending, unless one step alone has more: far below what the server takes. */
export const MOST_BYTES = 16 * 1024 * 1024;

/** The first of the waiting steps that go out together: as many as `mostSteps`, within MOST_BYTES, at least one. */
export function firstBatch(waiting: readonly WaitingStep[], mostSteps: number): readonly WaitingStep[] {
  let bytes = 0;
  let steps = 0;
  for (const entry of waiting.slice(0, mostSteps)) {
    bytes += entry.sizeBytes;
    if (steps > 0 && bytes > MOST_BYTES) break;
    steps++;
  }
  return waiting.slice(0, steps);
}
