import { execFileSync } from 'node:child_process';
import { describe, expect, it } from 'vitest';
import { flacSamples } from '@/core/format/flac/streamInfo';

/** A FLAC file of so many seconds, written by ffmpeg. */
const flac = (seconds: string): Uint8Array =>
  new Uint8Array(
    execFileSync(
      'ffmpeg',
      ['-v', 'error', '-f', 'lavfi', '-i', `sine=frequency=440:sample_rate=44100:duration=${seconds}`, '-f', 'flac', '-'],
      {
        maxBuffer: 2 ** 26,
      },
    ),
  );

describe('flacSamples', () => {
  it('reads what a FLAC file says it holds', () => {
    const file = flac('1.5').slice();
    // ffmpeg can't go back in a pipe and leaves the number out; as written into a file it would be this.
    expect(flacSamples(file)).toBeNull();
    new DataView(file.buffer).setUint32(22, 66_150);
    expect(flacSamples(file)).toBe(66_150);
    new DataView(file.buffer).setUint8(21, (file[21] as number) | 1);
    expect(flacSamples(file)).toBe(2 ** 32 + 66_150);
  });

  it('says nothing of other files', () => {
    for (const bytes of [new Uint8Array(0), new Uint8Array(100), new TextEncoder().encode('fLaC')]) expect(flacSamples(bytes)).toBeNull();
  });
});
