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

/** How a sample is written: a whole number of 16 bits, rounded and held within them, or a float of 32. */
export type WavSample = 'int16' | 'float32';

const HEAD_BYTES = 44;

/** A WAV file of the given channels, all equally long, samples from -1 to 1. Throws when they are not equally long. */
export function writeWav(channels: readonly Float32Array[], sampleRate: number, sample: WavSample): Uint8Array<ArrayBuffer> {
  const samples = channels[0]?.length ?? 0;
  if (channels.some((channel) => channel.length !== samples))
    throw new Error('All channels of a WAV file have the same number of samples.');
  const sampleBytes = sample === 'int16' ? 2 : 4;
  const frameBytes = sampleBytes * channels.length;
  const bytes = new Uint8Array(HEAD_BYTES + samples * frameBytes);
  const view = new DataView(bytes.buffer);
  const word = (at: number, text: string) =>
    bytes.set(
      Uint8Array.from(text, (letter) => letter.charCodeAt(0)),
      at,
    );
  word(0, 'RIFF');
  view.setUint32(4, bytes.byteLength - 8, true);
  word(8, 'WAVEfmt ');
  view.setUint32(16, 16, true);
  view.setUint16(20, sample === 'int16' ? 1 : 3, true);
  view.setUint16(22, channels.length, true);
  view.setUint32(24, sampleRate, true);
  view.setUint32(28, sampleRate * frameBytes, true);
  view.setUint16(32, frameBytes, true);
  view.setUint16(34, sampleBytes * 8, true);
  word(36, 'data');
  view.setUint32(40, samples * frameBytes, true);
  let at = HEAD_BYTES;
  for (let index = 0; index < samples; index++) {
    for (const channel of channels) {
      const value = channel[index] as number;
      if (sample === 'int16') view.setInt16(at, Math.max(-32768, Math.min(32767, Math.round(value * 32767))), true);
      else view.setFloat32(at, value, true);
      at += sampleBytes;
    }
  }
  return bytes;
}
