import { LONGEST_SHOT_FRAMES } from '@/core/time/counts';

/** Exposures of so many frames that become so many, and how often that is. */
export type LengthChange = { readonly oldFrames: number; readonly newFrames: number; readonly times: number };

/** Counts how exposures change their frames. */
export class LengthChanges {
  private readonly counts = new Map<number, { oldFrames: number; newFrames: number; times: number }>();

  add(oldFrames: number, newFrames: number, times: number): void {
    const key = oldFrames * LONGEST_SHOT_FRAMES + newFrames;
    const entry = this.counts.get(key);
    if (entry) entry.times += times;
    else this.counts.set(key, { oldFrames, newFrames, times });
  }

  get all(): readonly LengthChange[] {
    return [...this.counts.values()];
  }
}
