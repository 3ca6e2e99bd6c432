import { inOne } from '@/core/bytes';

/*
 * RIFF WAVE, as IBM and Microsoft's “Multimedia Programming Interface and Data Specifications 1.0” (1991) lays it
 * out; whole numbers are little-endian.
 *
 *   'RIFF' size 'WAVE'
 *   'fmt ' 16   tag channels sampleRate bytesPerSecond bytesPerFrame bitsPerSample
 *   'data' size samples, one of each channel in turn
 *
 * The tag is 1 for whole numbers and 3 for IEEE floats.
 */

/** How a sample is written: a whole number of 16 or 24 bits, rounded and held within them, or a float of 32. */
export type WavSample = 'int16' | 'int24' | 'float32';
const SAMPLE_BYTES: Readonly<Record<WavSample, number>> = { int16: 2, int24: 3, float32: 4 };

const HEAD_BYTES = 44;
/** A WAV file counts its bytes in 32 bits. */
const MOST_DATA_BYTES = 0xffff_ffff - HEAD_BYTES;

export type WavFacts = { readonly channels: number; readonly samples: number; readonly sampleRate: number; readonly sample: WavSample };

/** Whether so much sound fits into one file. */
export const fitsWav = ({ channels, samples, sample }: WavFacts): boolean => samples * channels * SAMPLE_BYTES[sample] <= MOST_DATA_BYTES;

/** The head of a WAV file, which its samples follow. */
export function wavHead({ channels, samples, sampleRate, sample }: WavFacts): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(HEAD_BYTES);
  const view = new DataView(bytes.buffer);
  const frameBytes = SAMPLE_BYTES[sample] * channels;
  const word = (at: number, text: string) =>
    bytes.set(
      Uint8Array.from(text, (letter) => letter.charCodeAt(0)),
      at,
    );
  word(0, 'RIFF');
  view.setUint32(4, HEAD_BYTES - 8 + samples * frameBytes, true);
  word(8, 'WAVEfmt ');
  view.setUint32(16, 16, true);
  view.setUint16(20, sample === 'float32' ? 3 : 1, true);
  view.setUint16(22, channels, true);
  view.setUint32(24, sampleRate, true);
  view.setUint32(28, sampleRate * frameBytes, true);
  view.setUint16(32, frameBytes, true);
  view.setUint16(34, SAMPLE_BYTES[sample] * 8, true);
  word(36, 'data');
  view.setUint32(40, samples * frameBytes, true);
  return bytes;
}

const held = (value: number, most: number): number => Math.max(-most - 1, Math.min(most, Math.round(value * most)));

/** Samples as they lie in a WAV file, one of each channel in turn. Throws when the channels are not equally long. */
export function wavSamples(channels: readonly Float32Array[], sample: WavSample): Uint8Array<ArrayBuffer> {
  const samples = channels[0]?.length ?? 0;
  if (channels.some((channel) => channel.length !== samples))
    throw new Error('All channels of a WAV file have the same number of samples.');
  const sampleBytes = SAMPLE_BYTES[sample];
  const bytes = new Uint8Array(samples * sampleBytes * channels.length);
  const view = new DataView(bytes.buffer);
  let at = 0;
  for (let index = 0; index < samples; index++) {
    for (const channel of channels) {
      const value = channel[index] as number;
      if (sample === 'int16') view.setInt16(at, held(value, 0x7fff), true);
      else if (sample === 'float32') view.setFloat32(at, value, true);
      else {
        const whole = held(value, 0x7f_ffff);
        view.setUint16(at, whole & 0xffff, true);
        view.setInt8(at + 2, whole >> 16);
      }
      at += sampleBytes;
    }
  }
  return bytes;
}

/** A WAV file of the given channels, all equally long, samples from -1 to 1. Throws when they are not equally long. */
export function writeWav(channels: readonly Float32Array[], sampleRate: number, sample: WavSample): Uint8Array<ArrayBuffer> {
  const facts = { channels: channels.length, samples: channels[0]?.length ?? 0, sampleRate, sample };
  return inOne([wavHead(facts), wavSamples(channels, sample)]);
}
