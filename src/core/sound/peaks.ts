import { type Sound, sampleOfFrame } from '@/core/document/sound';
import type { Rate } from '@/core/time/rate';

/** Of so many samples the loudest is kept to draw a recording: some eight a frame at 24 a second and 48,000 samples. */
export const PEAK_SAMPLES = 256;

/** How loud a recording is along its length: the largest amplitude of any channel in every PEAK_SAMPLES, 0 to 255 for 0 to 1. */
export function peaksOf(channels: readonly Float32Array[]): Uint8Array<ArrayBuffer> {
  const samples = channels[0]?.length ?? 0;
  const peaks = new Uint8Array(Math.ceil(samples / PEAK_SAMPLES));
  for (let cell = 0; cell < peaks.length; cell++) {
    const end = Math.min(samples, (cell + 1) * PEAK_SAMPLES);
    let most = 0;
    for (const channel of channels)
      for (let index = cell * PEAK_SAMPLES; index < end; index++) most = Math.max(most, Math.abs(channel[index] as number));
    peaks[cell] = Math.min(255, Math.ceil(most * 255));
  }
  return peaks;
}

/** The largest peak among samples `fromSample` (inclusive, from 0) to `toSample` (exclusive), from 0 to 1; 0 where there are none. */
export function peakWithin(peaks: Uint8Array, fromSample: number, toSample: number): number {
  if (toSample <= fromSample) return 0;
  let most = 0;
  const end = Math.min(peaks.length, Math.ceil(toSample / PEAK_SAMPLES));
  for (let cell = Math.max(0, Math.floor(fromSample / PEAK_SAMPLES)); cell < end; cell++) most = Math.max(most, peaks[cell] as number);
  return most / 255;
}

/**
 * How far a sound reaches to either side where it is drawn, 0 to 1, for each of `parts` parts of its frames from `fromFrame`
 * (inclusive) to `toFrame` (exclusive), both counted from its own start. Loudness is heard by its root rather than by itself:
 * soft sounds are seen, too.
 */
export function loudnessOf(sound: Sound, peaks: Uint8Array, rate: Rate, fromFrame: number, toFrame: number, parts: number): number[] {
  const end = sound.fromSample + sound.samples;
  const at = (part: number) => Math.min(end, sound.fromSample + sampleOfFrame(part / parts, rate, sound.recording.sampleRate));
  const reach: number[] = [];
  for (let part = fromFrame * parts; part < toFrame * parts; part++) reach.push(Math.sqrt(peakWithin(peaks, at(part), at(part + 1))));
  return reach;
}
