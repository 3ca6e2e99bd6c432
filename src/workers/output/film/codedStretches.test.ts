import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { AdtsOutputFormat, BufferTarget, EncodedAudioPacketSource, type EncodedPacket, Output } from 'mediabunny';
import { afterAll, describe, expect, it } from 'vitest';
import { soundStretches } from '@/core/output/soundStretches';
import { CodedStretches, type SoundPacket } from '@/workers/output/film/codedStretches';
import { SoundCoder } from '@/workers/output/film/soundCoder';

/*
 * A sound coded in stretches against the same sound coded whole, both opened by ffmpeg: as many samples, the same
 * up to where the second coder takes over, and clear there.
 */

const RATE = 48_000;
const PACKET = 1024;
/** What comes out before the first sample. */
const PRIMING = 1024;
const SAMPLES = 52 * RATE;
/** Bursts that make a coder take short windows, in the first channel alone and in both, every now and then. */
const BURST_EVERY = 9_600;
const BURST_SAMPLES = 200;

const folder = mkdtempSync(path.join(tmpdir(), 'lime-tick-stretches-'));
afterAll(() => rmSync(folder, { recursive: true }));

/** A sound that is the same each time: two tones, a little noise, and bursts. */
function given(): readonly [Float32Array, Float32Array] {
  let state = 1;
  const noise = () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return state / 2 ** 32 - 0.5;
  };
  const channel = (step: number, every: number) =>
    Float32Array.from({ length: SAMPLES }, (_, sample) => {
      const burst = sample % every < BURST_SAMPLES ? 0.5 : 0.01;
      return 0.3 * Math.sin(sample / step) * Math.sin(sample / 3000) + burst * noise();
    });
  return [channel(20, BURST_EVERY), channel(31, 2 * BURST_EVERY)];
}

const sound = given();
const piece = (from: number, to: number) => sound.map((channel) => channel.subarray(from, Math.min(to, SAMPLES)));

async function codedWhole(): Promise<readonly EncodedPacket[]> {
  const packets: EncodedPacket[] = [];
  const coder = await SoundCoder.start('aac', ({ packet }) => packets.push(packet));
  for (let from = 0; from < SAMPLES; from += RATE) await coder.add(piece(from, from + RATE), from);
  await coder.finish();
  return packets;
}

/** Given in pieces of an odd length, so that none ends where a stretch does. */
async function codedInStretches(atOnce: number): Promise<readonly SoundPacket[]> {
  const stretches = new CodedStretches('aac', SAMPLES, atOnce);
  const odd = 77_777;
  const giving = (async () => {
    for (let from = 0; from < SAMPLES; from += odd) await stretches.take(piece(from, from + odd), from);
  })();
  const all: SoundPacket[] = [];
  for (let coded = await stretches.packet(); coded; coded = await stretches.packet()) all.push(coded);
  await giving;
  return all;
}

/** Both channels one after the other, sample by sample, as ffmpeg hears the packets. */
async function heard(packets: readonly EncodedPacket[], meta: EncodedAudioChunkMetadata | undefined): Promise<Float32Array> {
  const target = new BufferTarget();
  const output = new Output({ format: new AdtsOutputFormat(), target });
  const track = new EncodedAudioPacketSource('aac');
  output.addAudioTrack(track);
  await output.start();
  for (const [index, packet] of packets.entries()) await track.add(packet, index === 0 ? meta : undefined);
  await output.finalize();
  const file = path.join(folder, 'sound.aac');
  writeFileSync(file, new Uint8Array(target.buffer as ArrayBuffer));
  const raw = execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-f', 'f32le', '-'], { maxBuffer: 64 * 1024 * 1024 });
  return new Float32Array(new Uint8Array(raw).buffer);
}

/** How far what was heard is from what was given, in decibels below it, packet by packet. */
function clearness(samples: Float32Array): number[] {
  return Array.from({ length: Math.floor(SAMPLES / PACKET) }, (_, packet) => {
    let [signal, error] = [0, 1e-9];
    for (let sample = packet * PACKET; sample < (packet + 1) * PACKET; sample++)
      for (const [index, channel] of sound.entries()) {
        const meant = channel[sample] as number;
        signal += meant ** 2;
        error += ((samples[(sample + PRIMING) * 2 + index] as number) - meant) ** 2;
      }
    return 10 * Math.log10(signal / error);
  });
}

/** Halves that don't fit, or a packet too many, would be as loud as the sound (0 decibels). */
const CLEAR_DECIBELS = 20;
/** Where there is a burst, coding whole is hardly clearer than that. */
const LESS_CLEAR_DECIBELS = 8;
const MUCH_LESS_CLEAR_DECIBELS = 12;

const median = (values: readonly number[]): number => values.toSorted((a, b) => a - b)[values.length >> 1] as number;

describe('a sound coded in stretches', () => {
  it.each([2, 3])('is as long as one coded whole, and as clear where another takes over, by %i coders at a time', async (atOnce) => {
    expect(soundStretches('aac', SAMPLES, 2)).toHaveLength(3);
    const [whole, coded] = [await codedWhole(), await codedInStretches(atOnce)];
    const stamp = ({ timestamp }: EncodedPacket) => Math.round(timestamp * RATE);
    expect(coded.map(({ startSample }) => startSample)).toEqual(whole.map(stamp));
    const meta = coded[0]?.meta;
    const [asWhole, asStretches] = [
      await heard(whole, meta),
      await heard(
        coded.map(({ packet, startSample }) => packet.clone({ timestamp: startSample / RATE })),
        meta,
      ),
    ];
    expect(asStretches.length).toBe(asWhole.length);
    const [meant, found] = [clearness(asWhole), clearness(asStretches)];
    const seams = soundStretches('aac', SAMPLES, 2)
      .slice(1)
      .map(({ fromPacket }) => fromPacket);
    const [first = 0] = seams;
    expect(found.slice(0, first - 1)).toEqual(meant.slice(0, first - 1));
    for (const seam of seams)
      for (let packet = seam - 4; packet < seam + 4; packet++)
        expect(found[packet], `packet ${packet}`).toBeGreaterThan(
          Math.min(CLEAR_DECIBELS, (meant[packet] as number) - LESS_CLEAR_DECIBELS),
        );
    // A coder begun elsewhere spends its bits otherwise: a single packet may be less clear, as with the one that codes the whole.
    const less = found.map((decibels, packet) => (meant[packet] as number) - decibels);
    expect(Math.abs(median(less))).toBeLessThan(1);
    expect(less.filter((decibels) => decibels > MUCH_LESS_CLEAR_DECIBELS).length).toBeLessThan(found.length / 100);
  });

  it('tells whoever waits for packets what went wrong, and takes nothing more', async () => {
    const stretches = new CodedStretches('aac', SAMPLES, 2);
    const waiting = stretches.packet();
    stretches.fail(new Error('The recording is gone.'));
    await expect(waiting).rejects.toThrow('The recording is gone.');
    await stretches.take(piece(0, RATE), 0);
    await expect(stretches.packet()).rejects.toThrow('The recording is gone.');
  });

  it('that is stopped while it is coded gives no more', async () => {
    const stretches = new CodedStretches('aac', SAMPLES, 2);
    await stretches.take(piece(0, RATE), 0);
    expect(await stretches.packet()).not.toBeNull();
    await stretches.cancel();
    await expect(stretches.packet()).rejects.toThrow('stopped');
  });
});
