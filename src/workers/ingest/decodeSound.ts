import { ALL_FORMATS, type AudioSample, AudioSampleSink, BlobSource, Input, type InputAudioTrack } from 'mediabunny';
import { LONGEST_RECORDING_SECONDS, MOST_CHANNELS } from '@/core/document/sound';
import { peaksOf } from '@/core/sound/peaks';
import { Unreadable } from '@/workers/ingest/unreadable';
import type { DecodedSound } from '@/workers/protocol';

/** Files that count in milliseconds place their parts some samples off; a real gap is longer than this. */
const SAME_PLACE_SECONDS = 0.02;

/** Samples of every channel one after another, growing as they come. */
class Tape {
  private channels: Float32Array<ArrayBuffer>[];
  samples = 0;

  constructor(
    channels: number,
    readonly sampleRate: number,
  ) {
    this.channels = Array.from({ length: channels }, () => new Float32Array(sampleRate));
  }

  /** Puts a part where its time says; before the beginning nothing is heard. Samples between parts are silent. */
  put(part: AudioSample): void {
    const says = Math.round(part.timestamp * this.sampleRate);
    const isNext = this.samples > 0 && Math.abs(says - this.samples) <= SAME_PLACE_SECONDS * this.sampleRate;
    const at = isNext ? this.samples : says;
    const skipped = Math.max(0, -at);
    const frames = part.numberOfFrames - skipped;
    if (frames <= 0) return;
    const start = Math.max(0, at);
    this.grow(start + frames);
    for (const [planeIndex, channel] of this.channels.entries())
      part.copyTo(channel.subarray(start, start + frames), { planeIndex, format: 'f32-planar', frameOffset: skipped, frameCount: frames });
    this.samples = Math.max(this.samples, start + frames);
  }

  private grow(samples: number): void {
    const [first] = this.channels;
    if (!first || samples <= first.length) return;
    const length = Math.max(samples, first.length * 2);
    this.channels = this.channels.map((channel) => {
      const longer = new Float32Array(length);
      longer.set(channel);
      return longer;
    });
  }

  all(): readonly Float32Array<ArrayBuffer>[] {
    return this.channels.map((channel) => channel.slice(0, this.samples));
  }
}

async function readTrack(track: InputAudioTrack, onProgress: (part: number) => void): Promise<DecodedSound> {
  if (!(await track.canDecode()))
    throw new Unreadable(`This browser can’t decode the recording (${(await track.getCodec()) ?? 'unknown kind'}).`);
  const lengthSeconds = await track.computeDuration();
  let tape: Tape | undefined;
  for await (const sample of new AudioSampleSink(track).samples()) {
    try {
      if (sample.numberOfChannels > MOST_CHANNELS)
        throw new Unreadable(`The recording has ${sample.numberOfChannels} channels; ${MOST_CHANNELS} is the most.`);
      tape ??= new Tape(sample.numberOfChannels, sample.sampleRate);
      if (sample.sampleRate !== tape.sampleRate) throw new Unreadable('The recording changes its rate on the way, which can’t be read.');
      if (sample.timestamp > LONGEST_RECORDING_SECONDS)
        throw new Unreadable(`The recording is longer than ${LONGEST_RECORDING_SECONDS / 60} minutes, which is the most: cut it first.`);
      tape.put(sample);
    } finally {
      sample.close();
    }
    onProgress(Math.min(1, lengthSeconds > 0 ? sample.timestamp / lengthSeconds : 0));
  }
  if (!tape || tape.samples === 0) throw new Unreadable('There is no sound in this file.');
  const channels = tape.all();
  return { kind: 'decoded', sampleRate: tape.sampleRate, samples: tape.samples, channels, peaks: peaksOf(channels) };
}

/** Every sample of a recording, as its file says: what lies before its beginning is left out. */
export async function decodeSound(file: Blob, onProgress: (part: number) => void): Promise<DecodedSound> {
  const input = new Input({ source: new BlobSource(file), formats: ALL_FORMATS });
  try {
    const track = await input.getPrimaryAudioTrack().catch(() => {
      throw new Unreadable('It is not a recording that can be read: WAV, FLAC, MP3, Ogg, M4A or the like.');
    });
    if (!track) throw new Unreadable('There is no sound in this file.');
    return await readTrack(track, onProgress);
  } catch (error) {
    if (error instanceof Unreadable) return { kind: 'refused', reason: error.message };
    return { kind: 'refused', reason: `The recording is broken: ${error instanceof Error ? error.message : 'it can’t be read'}` };
  } finally {
    input.dispose();
  }
}
