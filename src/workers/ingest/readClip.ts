import { ALL_FORMATS, BlobSource, Input, type InputVideoTrack, VideoSampleSink } from 'mediabunny';
import type { Size } from '@/core/document/model';
import { canonicalisePixels } from '@/core/raster/canonical';
import { digestOfPixels } from '@/core/raster/digest';
import { isRepeat, lumaBlocks } from '@/core/raster/lumaBlocks';
import { placeOn } from '@/core/raster/placing';
import { eachPacket } from '@/workers/eachPacket';
import { Unreadable } from '@/workers/ingest/unreadable';
import type { ClipEnd, ClipFacts, ReadClipFrame } from '@/workers/protocol';

/** Most frames a clip may have: four minutes at 25 a second; a longer one is brought in in parts. */
const MOST_FRAMES = 6000;

/** Pictures are handed on when so many wait: more would only fill memory. */
const FRAMES_AT_ONCE = 8;

async function readPixels(context: OffscreenCanvasRenderingContext2D, { width, height }: Size) {
  const image = context.getImageData(0, 0, width, height);
  canonicalisePixels(image.data);
  return image.data;
}

async function countFrames(track: InputVideoTrack): Promise<number> {
  let frames = 0;
  for await (const _packet of eachPacket(track, { metadataOnly: true })) {
    if (++frames > MOST_FRAMES)
      throw new Unreadable(`The clip has over ${MOST_FRAMES.toLocaleString('en')} frames, which is the most: cut it first.`);
  }
  if (frames === 0) throw new Unreadable('There is no picture in this clip.');
  return frames;
}

async function readTrack(
  track: InputVideoTrack,
  size: Size,
  onFacts: (facts: ClipFacts) => void,
  onFrames: (frames: readonly ReadClipFrame[]) => Promise<void>,
  stop: AbortSignal,
): Promise<number> {
  if (!(await track.canDecode()))
    throw new Unreadable(`This browser can’t decode the clip (${(await track.getCodec()) ?? 'unknown kind'}).`);
  const own = { width: await track.getDisplayWidth(), height: await track.getDisplayHeight() };
  onFacts({ frames: await countFrames(track), ...own });
  const context = new OffscreenCanvas(size.width, size.height).getContext('2d', { willReadFrequently: true });
  if (!context) throw new Unreadable('There is no memory for pictures of this size.');
  const place = placeOn(own, size, 'fit');
  let waiting: ReadClipFrame[] = [];
  let before: Uint8Array | null = null;
  let first: number | null = null;
  let endMicroseconds = 0;
  for await (const sample of new VideoSampleSink(track).samples()) {
    if (stop.aborted) {
      sample.close();
      stop.throwIfAborted();
    }
    first ??= sample.timestamp;
    const startMicroseconds = Math.round((sample.timestamp - first) * 1e6);
    endMicroseconds = Math.round((sample.timestamp - first + sample.duration) * 1e6);
    context.clearRect(0, 0, size.width, size.height);
    context.imageSmoothingQuality = 'high';
    sample.draw(context, place.x, place.y, place.width, place.height);
    sample.close();
    const rgba = await readPixels(context, size);
    const blocks = lumaBlocks(size, rgba);
    if (before && isRepeat(before, blocks)) waiting.push({ startMicroseconds, picture: null });
    else {
      before = blocks;
      const png = new Uint8Array(await (await context.canvas.convertToBlob({ type: 'image/png' })).arrayBuffer());
      waiting.push({ startMicroseconds, picture: { digest: await digestOfPixels(size.width, size.height, rgba), png } });
    }
    if (waiting.length >= FRAMES_AT_ONCE) {
      await onFrames(waiting);
      waiting = [];
    }
  }
  if (waiting.length > 0) await onFrames(waiting);
  return endMicroseconds;
}

/** Reads a clip's frames in order, each laid on a size to fit. A frame that shows what the one before shows has no picture of its own. */
export async function runClip(
  file: File,
  size: Size,
  onFacts: (facts: ClipFacts) => void,
  onFrames: (frames: readonly ReadClipFrame[]) => Promise<void>,
  stop: AbortSignal,
): Promise<ClipEnd> {
  const input = new Input({ source: new BlobSource(file), formats: ALL_FORMATS });
  try {
    const track = await input.getPrimaryVideoTrack().catch(() => {
      throw new Unreadable('It is not a clip that can be read: MP4, MOV, WebM, Matroska or the like.');
    });
    if (!track) throw new Unreadable('There is no picture in this clip, only sound.');
    return { kind: 'read', endMicroseconds: await readTrack(track, size, onFacts, onFrames, stop) };
  } catch (error) {
    if (stop.aborted) return { kind: 'stopped' };
    if (error instanceof Unreadable) return { kind: 'refused', reason: error.message };
    return { kind: 'refused', reason: `The clip is broken: ${error instanceof Error ? error.message : 'it can’t be read'}` };
  } finally {
    input.dispose();
  }
}
