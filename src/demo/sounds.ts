import { writeWav } from '@/core/format/wav/writeWav';
import { randomFrom } from '@/demo/pen';

export const SAMPLE_RATE = 48_000;

/** A sound of the demo as it is thought up: made by code, on a frame of its shot (from 0). */
export type SoundPlan = {
  readonly name: string;
  readonly fileName: string;
  readonly startFrame: number;
  readonly seconds: number;
  readonly make: Wave;
};

/** The amplitude at a time, from 0 on, in seconds; called for one sample after another. */
type Wave = () => (seconds: number) => number;

/** Softly in and out over so many seconds at both ends. */
const faded = (seconds: number, length: number, fade: number) => Math.min(1, seconds / fade, (length - seconds) / fade);

/** Noise with its highs taken off, swelling slowly, with a gust now and then. */
export function wind(seed: number, length: number, gustSeconds: readonly number[]): Wave {
  return () => {
    const random = randomFrom(seed);
    let low = 0;
    let lower = 0;
    return (seconds) => {
      const gust = gustSeconds.reduce((sum, at) => sum + Math.exp(-(((seconds - at) / 0.5) ** 2)), 0);
      const opening = 0.02 + 0.012 * Math.sin(2 * Math.PI * 0.31 * seconds) + 0.05 * gust;
      low += opening * (random() * 2 - 1 - low);
      lower += opening * (low - lower);
      return 1.6 * lower * (0.7 + 0.9 * gust) * faded(seconds, length, 0.25);
    };
  };
}

/** Something soft that lands in a puddle: a tone that falls, with a drop after it. */
export const plop: Wave = () => {
  let phase = 0;
  return (seconds) => {
    const pitch = 180 + 420 * Math.exp(-seconds * 16) + (seconds > 0.11 ? 500 * Math.exp(-(seconds - 0.11) * 30) : 0);
    phase += (2 * Math.PI * pitch) / SAMPLE_RATE;
    const drop = seconds > 0.11 ? 0.4 * Math.exp(-(seconds - 0.11) * 24) : 0;
    return 0.8 * Math.sin(phase) * (Math.exp(-seconds * 13) + drop) * Math.min(1, seconds / 0.002);
  };
};

const TUNE_HERTZ = [196, 220, 246.9, 196, 246.9, 261.6, 293.7, 293.7];

/** Somebody humming a tune of eight notes, two a second. */
export function hum(length: number): Wave {
  return () => {
    let phase = 0;
    return (seconds) => {
      const note = TUNE_HERTZ[Math.floor(seconds * 2) % TUNE_HERTZ.length] as number;
      phase += (2 * Math.PI * note * (1 + 0.004 * Math.sin(2 * Math.PI * 5 * seconds))) / SAMPLE_RATE;
      const breath = Math.min(1, ((seconds * 2) % 1) * 9) * (1 - 0.5 * ((seconds * 2) % 1));
      return 0.3 * breath * (Math.sin(phase) + 0.35 * Math.sin(2 * phase) + 0.12 * Math.sin(3 * phase)) * faded(seconds, length, 0.08);
    };
  };
}

/** A bell far off: three partials that fade one after another. */
export const bell: Wave = () => {
  const partials = [
    { hertz: 523.25, level: 0.3, decay: 2.2 },
    { hertz: 1255.8, level: 0.16, decay: 3.6 },
    { hertz: 2166.3, level: 0.08, decay: 6 },
  ];
  return (seconds) =>
    partials.reduce(
      (sum, { hertz, level, decay }) => sum + level * Math.exp(-seconds * decay) * Math.sin(2 * Math.PI * hertz * seconds),
      0,
    ) * Math.min(1, seconds / 0.004);
};

/** A planned sound as a WAV file, with how many samples it has. */
export function recorded({ seconds, make }: SoundPlan): { file: Uint8Array<ArrayBuffer>; samples: number } {
  const samples = Math.round(seconds * SAMPLE_RATE);
  const wave = make();
  const channel = Float32Array.from({ length: samples }, (_, index) => wave(index / SAMPLE_RATE));
  return { file: writeWav([channel], SAMPLE_RATE, 'int16'), samples };
}
