import type { Project } from '@/core/document/model';
import { MIX_RATE } from '@/core/reel/mix';
import { framesOfReel } from '@/core/reel/reel';
import { soundsOfReel } from '@/core/reel/sounds';
import { type Overload, type OverloadRun, overloadRuns, overloadsOf } from '@/core/sound/overloads';
import { nominalRate } from '@/core/time/rate';
import { mixFrames } from '@/features/clock/soundOut';

/** So much of the reel is mixed at once: memory stays small however long the film is. */
const SECONDS_AT_ONCE = 10;

/** Where the mix of the whole reel is louder than full scale. `onProgress` is told how much is done, from 0 to 1; null when it was stopped. */
export async function measureMix(
  project: Project,
  onProgress: (part: number) => void,
  stop: AbortSignal,
): Promise<readonly OverloadRun[] | null> {
  const { rate } = project;
  const sounds = soundsOfReel(project);
  const total = framesOfReel(project);
  const step = nominalRate(rate) * SECONDS_AT_ONCE;
  const overloads: Overload[] = [];
  for (let from = 0; from < total; from += step) {
    if (stop.aborted) return null;
    const to = Math.min(total, from + step) - 1;
    const heard = sounds.filter(({ startFrame, endFrame }) => startFrame <= to && endFrame > from);
    if (heard.length > 0) {
      const mixed = await mixFrames(heard, from, to, rate);
      const channels = Array.from({ length: mixed.numberOfChannels }, (_, index) => mixed.getChannelData(index));
      overloads.push(...overloadsOf(channels, from, to, rate, MIX_RATE));
    }
    onProgress((to + 1) / total);
  }
  return overloadRuns(overloads);
}
