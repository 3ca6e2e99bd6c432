import { sampleOfFrame } from '@/core/document/sound';
import type { Rate } from '@/core/time/rate';

/*
 * Samples of a mix go from −1 to 1; the largest of them is 0 dBFS, decibels below full scale, and what is larger is cut off
 * wherever it is written in whole numbers (common practice). 20 decibels are a factor of ten in amplitude.
 */

/** A frame (from 0) on which a mix is louder than full scale, and its loudest sample, as a factor over 1. */
export type Overload = { readonly frame: number; readonly peak: number };

/** Frames one after another on which a mix is louder than full scale: both inclusive, from 0, with the loudest sample among them. */
export type OverloadRun = { readonly fromFrame: number; readonly toFrame: number; readonly peak: number };

/** The frames of a part of a mix that are louder than full scale. Channels begin with frame `fromFrame`. */
export function overloadsOf(
  channels: readonly Float32Array[],
  fromFrame: number,
  toFrame: number,
  rate: Rate,
  mixRate: number,
): readonly Overload[] {
  const start = sampleOfFrame(fromFrame, rate, mixRate);
  const overloads: Overload[] = [];
  for (let frame = fromFrame; frame <= toFrame; frame++) {
    const from = sampleOfFrame(frame, rate, mixRate) - start;
    const to = sampleOfFrame(frame + 1, rate, mixRate) - start;
    let peak = 0;
    for (const channel of channels)
      for (let sample = from; sample < to && sample < channel.length; sample++) peak = Math.max(peak, Math.abs(channel[sample] as number));
    if (peak > 1) overloads.push({ frame, peak });
  }
  return overloads;
}

/** Overloads as runs of frames, with the loudest of each. */
export function overloadRuns(overloads: readonly Overload[]): readonly OverloadRun[] {
  const runs: OverloadRun[] = [];
  for (const { frame, peak } of overloads) {
    const last = runs.at(-1);
    if (last && last.toFrame === frame - 1) runs[runs.length - 1] = { ...last, toFrame: frame, peak: Math.max(last.peak, peak) };
    else runs.push({ fromFrame: frame, toFrame: frame, peak });
  }
  return runs;
}

/** How much louder than full scale a peak is, as `+2.3 dB`; at least `+0.1 dB`. */
export const overWords = (peak: number): string => `+${Math.max(0.1, Math.round(200 * Math.log10(peak)) / 10).toFixed(1)} dB`;
