import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { writeWav } from '@/core/format/wav/writeWav';

const folder = mkdtempSync(path.join(tmpdir(), 'lime-tick-wav-'));
afterAll(() => rmSync(folder, { recursive: true }));

/** Left and right of a file as ffmpeg reads them, and what ffprobe says of it. */
function byFfmpeg(bytes: Uint8Array, channels: number) {
  const file = path.join(folder, 'sound.wav');
  writeFileSync(file, bytes);
  const probed = JSON.parse(execFileSync('ffprobe', ['-v', 'error', '-show_streams', '-of', 'json', file], { encoding: 'utf8' })) as {
    streams: readonly [{ codec_name: string; sample_rate: string; channels: number; duration_ts: number }];
  };
  const raw = execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-f', 'f32le', '-']);
  const all = new Float32Array(new Uint8Array(raw).buffer);
  const { codec_name, sample_rate, channels: counted, duration_ts } = probed.streams[0];
  return {
    said: [codec_name, Number(sample_rate), counted, duration_ts],
    channel: (index: number) => all.filter((_, at) => at % channels === index),
  };
}

const wave = (samples: number, step: number) => Float32Array.from({ length: samples }, (_, index) => Math.sin(index * step) * 0.9);

describe('a WAV file, read by ffmpeg', () => {
  it('of floats has every sample as it was', () => {
    const [left, right] = [wave(4_801, 0.01), wave(4_801, 0.037)];
    const read = byFfmpeg(writeWav([left, right], 44_100, 'float32'), 2);
    expect(read.said).toEqual(['pcm_f32le', 44_100, 2, 4_801]);
    expect(read.channel(0)).toEqual(left);
    expect(read.channel(1)).toEqual(right);
  });

  it('of whole numbers has every sample to the nearest, and holds what is too loud', () => {
    const channel = Float32Array.from([0, 1, -1, 2, -2, 0.5, -0.25, 1 / 40_000]);
    const read = byFfmpeg(writeWav([channel], 48_000, 'int16'), 1);
    expect(read.said).toEqual(['pcm_s16le', 48_000, 1, 8]);
    const whole = [...read.channel(0)].map((value) => Math.round(value * 32_768));
    expect(whole).toEqual([0, 32_767, -32_767, 32_767, -32_768, 16_384, -8_192, 1]);
  });

  it('can’t be of channels that aren’t equally long', () =>
    expect(() => writeWav([new Float32Array(3), new Float32Array(4)], 48_000, 'int16')).toThrow(/same number of samples/));
});
