import { writeWav } from '@/core/format/wav/writeWav';
import { type GainPoint, MIX_RATE, mixOf } from '@/core/reel/mix';
import type { ReelSound } from '@/core/reel/sounds';
import { remembered } from '@/core/remembered';
import type { Rate } from '@/core/time/rate';
import { RecordingUnavailable, recording } from '@/features/project/recordings';
import type { DecodedRecording } from '@/workers/client';

let context: AudioContext | undefined;

/** What sound comes out of; made when first needed, since a browser lets a page be heard only once it was touched. */
export function soundContext(): AudioContext {
  context ??= new AudioContext({ sampleRate: MIX_RATE, latencyHint: 'interactive' });
  return context;
}

const WAKING_MILLISECONDS = 1500;

/** Whether sound comes out of this machine: a machine without any never wakes up. */
export async function isAudible(): Promise<boolean> {
  const out = soundContext();
  if (out.state !== 'running') {
    const tooLong = new Promise<void>((resolve) => setTimeout(resolve, WAKING_MILLISECONDS));
    await Promise.race([out.resume().catch(() => undefined), tooLong]);
  }
  return out.state === 'running';
}

/** A recording at the rate of the mix, brought to it once. */
const atMixRate = remembered(async ({ channels, samples, sampleRate }: DecodedRecording): Promise<AudioBuffer> => {
  const out = soundContext();
  // What decodes files also brings them to its own rate, far better than what plays them would.
  if (sampleRate !== MIX_RATE) return out.decodeAudioData(writeWav(channels, sampleRate, 'float32').buffer);
  const buffer = out.createBuffer(channels.length, samples, MIX_RATE);
  for (const [index, channel] of channels.entries()) buffer.copyToChannel(channel, index);
  return buffer;
});

/** A recording as it is mixed; null when it is missing, which a finding tells: the others are heard. Rejects when the server is away. */
async function bufferOf(original: string): Promise<AudioBuffer | null> {
  let decoded: DecodedRecording;
  try {
    decoded = await recording(original);
  } catch (error) {
    if (error instanceof RecordingUnavailable) return null;
    throw error;
  }
  return atMixRate(decoded);
}

/** Lets a factor go through its points in straight lines. */
function followGains(param: AudioParam, gains: readonly GainPoint[]): void {
  for (const [index, { atSample, gain }] of gains.entries()) {
    if (index === 0) param.setValueAtTime(gain, atSample / MIX_RATE);
    else param.linearRampToValueAtTime(gain, atSample / MIX_RATE);
  }
}

/** Sounds as they are heard over frames of a shot, from `fromFrame` to `toFrame`, both inclusive, in two channels at MIX_RATE. */
export async function mixFrames(sounds: readonly ReelSound[], fromFrame: number, toFrame: number, rate: Rate): Promise<AudioBuffer> {
  const { samples, parts } = mixOf(sounds, fromFrame, toFrame, rate, MIX_RATE);
  const mixing = new OfflineAudioContext(2, samples, MIX_RATE);
  for (const part of parts) {
    const buffer = await bufferOf(part.sound.recording.original);
    if (!buffer) continue;
    const { sampleRate } = part.sound.recording;
    const source = new AudioBufferSourceNode(mixing, { buffer });
    const gain = new GainNode(mixing);
    followGains(gain.gain, part.gains);
    source.connect(gain).connect(mixing.destination);
    source.start(part.atSample / MIX_RATE, part.fromSample / sampleRate, part.samples / sampleRate);
  }
  return mixing.startRendering();
}

/** The same sound from its end to its beginning. */
export function reversedBuffer(buffer: AudioBuffer): AudioBuffer {
  const turned = soundContext().createBuffer(buffer.numberOfChannels, buffer.length, buffer.sampleRate);
  for (let channel = 0; channel < buffer.numberOfChannels; channel++)
    turned.copyToChannel(buffer.getChannelData(channel).toReversed() as Float32Array<ArrayBuffer>, channel);
  return turned;
}
