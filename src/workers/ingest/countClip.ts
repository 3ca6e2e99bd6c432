import { ALL_FORMATS, BlobSource, Input, type InputVideoTrack, VideoSampleSink } from 'mediabunny';
import { clipTimingOf, timingOfFirst } from '@/core/count/clipTiming';
import { LONGEST_CLIP_HOURS, MOST_CLIP_FRAMES } from '@/core/document/clip';
import { eachPacket } from '@/workers/eachPacket';
import { Unreadable } from '@/workers/ingest/unreadable';
import type { ClipCount } from '@/workers/protocol';

/** At so many places along a clip it is tried whether it decodes: all of it would take as long as watching it. */
const MOST_TRIED = 24;
/** What part of the work is counting; the rest is trying. */
const COUNTING_PART = 0.6;

type Packets = {
  /** When each frame is shown, in seconds, in order. */
  readonly seconds: readonly number[];
  readonly keySeconds: readonly number[];
  readonly lastDurationSeconds: number;
  readonly tickSeconds: number;
};

/** Every frame that is shown, from what the file says of its packets; none is decoded. */
async function readPackets(track: InputVideoTrack, onProgress: (part: number) => void, stop: AbortSignal): Promise<Packets> {
  const lengthSeconds = (await track.getDurationFromMetadata()) ?? 0;
  const shown: { readonly at: number; readonly duration: number; readonly isKey: boolean }[] = [];
  for await (const packet of eachPacket(track, { metadataOnly: true })) {
    stop.throwIfAborted();
    // What lies before the beginning is there for the decoder alone.
    if (packet.timestamp + packet.duration <= 0) continue;
    shown.push({ at: packet.timestamp, duration: packet.duration, isKey: packet.type === 'key' });
    if (shown.length > MOST_CLIP_FRAMES)
      throw new Unreadable(`The clip has over ${MOST_CLIP_FRAMES.toLocaleString('en')} frames, which is the most: cut it first.`);
    if (shown.length % 500 === 0 && lengthSeconds > 0) onProgress(Math.min(1, packet.timestamp / lengthSeconds));
  }
  shown.sort((a, b) => a.at - b.at);
  const last = shown.at(-1);
  if (!last) throw new Unreadable('There is no picture in this clip.');
  if (last.at > LONGEST_CLIP_HOURS * 3600)
    throw new Unreadable(`The clip is longer than ${LONGEST_CLIP_HOURS} hours, which is the most: cut it first.`);
  return {
    seconds: shown.map(({ at }) => at),
    keySeconds: shown.filter(({ isKey }) => isKey).map(({ at }) => at),
    lastDurationSeconds: last.duration,
    tickSeconds: 1 / (await track.getTimeResolution()),
  };
}

/** Whether a picture comes of the frame that is shown at a moment. */
async function decodesAt(sink: VideoSampleSink, seconds: number): Promise<boolean> {
  try {
    const sample = await sink.getSample(seconds);
    sample?.close();
    // A decoder that gives an earlier picture instead has nothing for this one.
    return sample !== null && Math.abs(sample.timestamp - seconds) < 1e-3;
  } catch {
    return false;
  }
}

/** How many frames decode one after another from a moment on. */
async function decodedFrom(sink: VideoSampleSink, seconds: number, stop: AbortSignal): Promise<number> {
  let frames = 0;
  try {
    for await (const sample of sink.samples(seconds)) {
      sample.close();
      stop.throwIfAborted();
      frames++;
    }
  } catch (error) {
    if (stop.aborted) throw error;
  }
  return frames;
}

/** Places along a clip to try: key frames, evenly, and the last frame. */
function placesToTry({ seconds, keySeconds }: Packets): readonly number[] {
  const step = Math.max(1, keySeconds.length / MOST_TRIED);
  const keys = Array.from(
    { length: Math.min(MOST_TRIED, keySeconds.length) },
    (_, index) => keySeconds[Math.floor(index * step)] as number,
  );
  return [...new Set([...keys, seconds.at(-1) as number])].toSorted((a, b) => a - b);
}

/** How many frames of a clip decode, from the first on, as far as that is tried. */
async function decodedFrames(
  track: InputVideoTrack,
  packets: Packets,
  onProgress: (part: number) => void,
  stop: AbortSignal,
): Promise<number> {
  const sink = new VideoSampleSink(track);
  const places = placesToTry(packets);
  let good: number | null = null;
  for (const [index, seconds] of places.entries()) {
    stop.throwIfAborted();
    if (!(await decodesAt(sink, seconds))) {
      if (good === null) return 0;
      return packets.seconds.indexOf(good) + (await decodedFrom(sink, good, stop));
    }
    good = seconds;
    onProgress((index + 1) / places.length);
  }
  return packets.seconds.length;
}

async function countTrack(input: Input, track: InputVideoTrack, onProgress: (part: number) => void, stop: AbortSignal): Promise<ClipCount> {
  if (!(await track.canDecode()))
    throw new Unreadable(
      `This browser can’t decode the clip (${(await track.getCodec()) ?? 'unknown kind'}): H.264, VP8, VP9 and AV1 are what most can. Save it as one of these.`,
    );
  const size = { width: await track.getDisplayWidth(), height: await track.getDisplayHeight() };
  const packets = await readPackets(track, (part) => onProgress(part * COUNTING_PART), stop);
  const frames = await decodedFrames(track, packets, (part) => onProgress(COUNTING_PART + part * (1 - COUNTING_PART)), stop);
  if (frames === 0) throw new Unreadable('The clip is broken: not even its first frame decodes.');
  const [first = 0] = packets.seconds;
  const timing = clipTimingOf({
    startMicroseconds: packets.seconds.map((seconds) => (seconds - first) * 1e6),
    lastDurationMicroseconds: packets.lastDurationSeconds > 0 ? packets.lastDurationSeconds * 1e6 : null,
    statedDurationMicroseconds: null,
    tickMicroseconds: packets.tickSeconds * 1e6,
  });
  const sound = await input.getPrimaryAudioTrack();
  return {
    kind: 'counted',
    clip: { size, frames, startMicroseconds: Math.round(first * 1e6), timing: timingOfFirst(timing, frames) },
    framesSaid: packets.seconds.length,
    soundMicroseconds: sound ? Math.round((await sound.computeDuration()) * 1e6) : null,
  };
}

/** Counts a clip's frames and times from its file, and tries at places along it whether it decodes. */
export async function countClip(file: File, onProgress: (part: number) => void, stop: AbortSignal): Promise<ClipCount> {
  const input = new Input({ source: new BlobSource(file), formats: ALL_FORMATS });
  try {
    const track = await input.getPrimaryVideoTrack().catch(() => {
      throw new Unreadable('It is not a clip that can be read: MP4, MOV, WebM, Matroska or the like.');
    });
    if (!track) throw new Unreadable('There is no picture in this clip, only sound.');
    return await countTrack(input, track, onProgress, stop);
  } catch (error) {
    if (stop.aborted) return { kind: 'stopped' };
    if (error instanceof Unreadable) return { kind: 'refused', reason: error.message };
    return { kind: 'refused', reason: `The clip is broken: ${error instanceof Error ? error.message : 'it can’t be read'}` };
  } finally {
    input.dispose();
  }
}
