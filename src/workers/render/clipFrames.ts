import { ALL_FORMATS, Input, type VideoSample, VideoSampleSink } from 'mediabunny';
import PQueue from 'p-queue';
import type { Size } from '@/core/document/model';
import { placeOn } from '@/core/raster/placing';
import type { ClipPicture } from '@/core/render/clipPicture';
import { originalSource } from '@/workers/render/originalSource';
import { PictureMissing } from '@/workers/render/pictureSource';

/*
 * Frames of clips, decoded from the originals as they are wanted and never stored. A decoder gives pictures in the order of its
 * file, so that asking for one after another is cheap and going elsewhere starts again at a key frame: whoever asks in order
 * goes on with the same decoder. A frame that is gone to is decoded by itself: a decoder that is to go on from there would be
 * fed with what comes after it, and gives nothing before it has enough of that. Whatever a machine's decoder gives — planes, hardware frames — is drawn onto a canvas here and
 * nowhere else.
 */

/** How many clips are kept open at once, and how much of a file each may keep. */
const MOST_OPEN = 3;
const MOST_FILE_BYTES = 4 * 1024 * 1024;
/** A frame this near behind the last one is come to by going on: starting again would decode as many. */
const GO_ON_SECONDS = 1;

const secondsOf = ({ atMicroseconds }: ClipPicture) => atMicroseconds / 1e6;

/** One original with its decoder. Frames are asked for one at a time. */
class OpenClip {
  private readonly input: Input;
  private sink: VideoSampleSink | null = null;
  private samples: AsyncGenerator<VideoSample, void, unknown> | null = null;
  private current: VideoSample | null = null;
  /** The moment it was asked for at. */
  private currentSeconds = Number.NaN;
  /** The frame after it, once it was waited for. */
  private next: VideoSample | null = null;
  private isNextKnown = false;
  private readonly turns = new PQueue({ concurrency: 1 });

  constructor(original: string) {
    this.input = new Input({ source: originalSource(original, MOST_FILE_BYTES), formats: ALL_FORMATS });
  }

  /** The frame that is shown at a moment, drawn by `draw` before another is asked for; what can wait makes way for all else. */
  frame<T>(picture: ClipPicture, canWait: boolean, draw: (sample: VideoSample) => Promise<T>): Promise<T> {
    return this.turns.add(async () => draw(await this.sampleAt(picture)), { priority: canWait ? 0 : 1 });
  }

  private async open(): Promise<VideoSampleSink> {
    const track = await this.input.getPrimaryVideoTrack();
    if (!track || !(await track.canDecode())) throw new Error('this browser has no decoder for it');
    return new VideoSampleSink(track);
  }

  private async sampleAt(picture: ClipPicture): Promise<VideoSample> {
    try {
      this.sink ??= await this.open();
      const seconds = secondsOf(picture);
      if (this.current && this.currentSeconds === seconds) return this.current;
      const goesOn = this.current && this.current.timestamp <= seconds && seconds - this.current.timestamp < GO_ON_SECONDS;
      if (!goesOn) await this.goTo(this.sink, seconds);
      else if (!this.samples) await this.goOnFrom(this.sink, seconds);
      else while (((await this.following())?.timestamp ?? Number.POSITIVE_INFINITY) <= seconds) await this.step();
      this.currentSeconds = seconds;
      if (this.current) return this.current;
      throw new Error('it holds no such frame');
    } catch (error) {
      await this.rest();
      throw new PictureMissing(
        `Frame ${picture.frame + 1} of a clip can’t be shown: ${error instanceof Error ? error.message : 'it can’t be decoded'}.`,
      );
    }
  }

  /** The frame that is shown at a moment, and none after it. */
  private async goTo(sink: VideoSampleSink, seconds: number): Promise<void> {
    await this.rest();
    this.current = await sink.getSample(seconds);
  }

  /** Starts again at a moment, to go on from there: the first frame that comes is the one that is shown there. */
  private async goOnFrom(sink: VideoSampleSink, seconds: number): Promise<void> {
    await this.rest();
    this.samples = sink.samples(seconds);
    this.current = (await this.samples.next()).value ?? null;
  }

  /** The frame after the current one; null at the end. */
  private async following(): Promise<VideoSample | null> {
    if (!this.isNextKnown) this.next = (await this.samples?.next())?.value ?? null;
    this.isNextKnown = true;
    return this.next;
  }

  private async step(): Promise<void> {
    const next = await this.following();
    this.current?.close();
    [this.current, this.next, this.isNextKnown] = [next, null, false];
  }

  /** Lets go of the decoder; the file stays open. */
  private async rest(): Promise<void> {
    this.current?.close();
    this.next?.close();
    const { samples } = this;
    [this.current, this.next, this.samples, this.isNextKnown] = [null, null, null, false];
    await samples?.return().catch(() => undefined);
  }

  async close(): Promise<void> {
    await this.turns.onIdle();
    await this.rest();
    this.input.dispose();
  }
}

/** Where frames are copied to, one after another: a new place each would leave hundreds of megabytes to be found some time later. */
let copyRoom: ImageData | null = null;
const copying = new PQueue({ concurrency: 1 });

/** Room for a frame of a size. */
function roomFor(width: number, height: number): ImageData {
  if (copyRoom?.width !== width || copyRoom.height !== height) copyRoom = new ImageData(width, height);
  return copyRoom;
}

/** A frame's pixels, in the one room there is for them; null where this browser can't copy them so. */
async function copiedImage(frame: VideoFrame): Promise<ImageData | null> {
  try {
    const shown = frame.visibleRect;
    if (!shown || frame.allocationSize({ format: 'RGBA' }) !== shown.width * shown.height * 4) return null;
    const image = roomFor(shown.width, shown.height);
    await frame.copyTo(image.data, { format: 'RGBA' });
    return image;
  } catch (error) {
    if (error instanceof DOMException || error instanceof TypeError) return null;
    throw error;
  }
}

/** How a frame is made smaller or larger: as well as a browser can, or in a third of that time. */
export type Resizing = 'well' | 'quickly';

/**
 * A frame copied out of the decoder, in the size it is to have; null where this browser can't copy it so. A browser that draws
 * decoded frames keeps what it makes of each for a while, hundreds of megabytes of pictures that nobody asks for again.
 */
async function copiedBitmap(sample: VideoSample, { width, height }: Size, resizing: Resizing): Promise<ImageBitmap | null> {
  if (sample.rotation !== 0) return null;
  const frame = sample.toVideoFrame();
  try {
    const image = await copiedImage(frame);
    const [resizeWidth, resizeHeight] = [Math.round(width), Math.round(height)];
    if (!image || (resizeWidth === image.width && resizeHeight === image.height)) return image && (await createImageBitmap(image));
    // Between its four nearest pixels lies all of a picture that is no more than halved; of a larger one some would be passed over.
    const isHalvedAtMost = image.width <= 2 * resizeWidth && image.height <= 2 * resizeHeight;
    const resizeQuality = resizing === 'quickly' && isHalvedAtMost ? 'low' : 'high';
    return await createImageBitmap(image, { resizeWidth, resizeHeight, resizeQuality });
  } finally {
    frame.close();
  }
}

/** The pixels of a frame as it is, RGBA, until the next is asked for; null where it has another size or is to be turned. */
async function copiedPixels(sample: VideoSample, { width, height }: Size): Promise<Uint8ClampedArray | null> {
  if (sample.rotation !== 0 || sample.displayWidth !== width || sample.displayHeight !== height) return null;
  const frame = sample.toVideoFrame();
  try {
    const image = await copiedImage(frame);
    return image?.width === width && image.height === height ? image.data : null;
  } finally {
    frame.close();
  }
}

/** The clips a worker has open. */
class ClipFrames {
  private readonly open = new Map<string, OpenClip>();
  private context: OffscreenCanvasRenderingContext2D | null = null;

  /** One canvas for all frames: a new one each would leave its memory to be found some time later. */
  private canvasOf({ width, height }: Size): OffscreenCanvasRenderingContext2D {
    const { context } = this;
    if (context?.canvas.width === width && context.canvas.height === height) return context;
    const made = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true });
    if (!made) throw new Error('there is no memory for its pictures');
    this.context = made;
    return made;
  }

  private clip(original: string): OpenClip {
    const clip = this.open.get(original) ?? new OpenClip(original);
    this.open.delete(original);
    this.open.set(original, clip);
    for (const [longestUnused, other] of this.open) {
      if (this.open.size <= MOST_OPEN) break;
      this.open.delete(longestUnused);
      void other.close();
    }
    return clip;
  }

  /**
   * A frame of a clip in the middle of a picture of the size that `sizeFor` gives for the clip's own, as large as it fits;
   * `beside` lies beside it, nothing when that is null. One that `canWait` makes way for others of its clip. Rejects with PictureMissing when it is missing.
   */
  frame(
    picture: ClipPicture,
    sizeFor: (own: Size) => Size,
    { beside = null, canWait = false, resizing = 'well' }: { beside?: string | null; canWait?: boolean; resizing?: Resizing } = {},
  ): Promise<ImageBitmap> {
    return this.clip(picture.original).frame(picture, canWait, async (sample) => {
      const own = { width: sample.displayWidth, height: sample.displayHeight };
      const size = sizeFor(own);
      const place = placeOn(own, size, 'fit');
      const isAll = place.width === size.width && place.height === size.height;
      const copied = await copying.add(() => copiedBitmap(sample, place, resizing));
      if (copied && isAll) return copied;
      const context = this.canvasOf(size);
      context.clearRect(0, 0, size.width, size.height);
      if (beside) {
        context.fillStyle = beside;
        context.fillRect(0, 0, size.width, size.height);
      }
      context.imageSmoothingQuality = 'high';
      if (copied) context.drawImage(copied, place.x, place.y);
      else sample.draw(context, place.x, place.y, place.width, place.height);
      copied?.close();
      return createImageBitmap(context.canvas);
    });
  }

  /**
   * The pixels of a frame of a clip in the middle of a picture of a size, RGBA; they hold until the next is asked for. Rejects with
   * PictureMissing when it is missing.
   */
  async pixels(picture: ClipPicture, size: Size): Promise<Uint8ClampedArray> {
    const asItIs = await this.clip(picture.original).frame(picture, false, (sample) => copying.add(() => copiedPixels(sample, size)));
    if (asItIs) return asItIs;
    const bitmap = await this.frame(picture, () => size);
    const context = this.canvasOf(size);
    context.clearRect(0, 0, size.width, size.height);
    context.drawImage(bitmap, 0, 0);
    bitmap.close();
    return context.getImageData(0, 0, size.width, size.height).data;
  }

  /** Lets go of every decoder and file. */
  async letGo(): Promise<void> {
    this.context = null;
    copyRoom = null;
    const all = [...this.open.values()];
    this.open.clear();
    await Promise.all(all.map((clip) => clip.close()));
  }
}

export const clipFrames = new ClipFrames();
