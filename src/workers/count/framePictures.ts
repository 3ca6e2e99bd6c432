import { type Input, VideoSampleSink } from 'mediabunny';
import { onPaper } from '@/core/outside/blocks';
import { isPictureName, pictureKind } from '@/core/outside/pictureKind';
import type { FileGroup } from '@/core/outside/sequence';
import { decodeInBrowser } from '@/workers/count/browserDecoders';
import { openInput } from '@/workers/count/openFilm';
import type { CountFile, Machine } from '@/workers/count/openGroup';
import { loopFacts } from '@/workers/count/openLoop';
import type { DecodedPicture } from '@/workers/count/openPictures';

/** Gives any frame of a counted file as a picture no wider than told, decoded anew; null where it can't be. */
export type FramePictures = {
  readonly picture: (frame: number, mostWidthPx: number) => Promise<ImageBitmap | null>;
  readonly close: () => void;
};

/** A drawable on white paper, no wider than told. */
export function fitted(
  draw: (context: OffscreenCanvasRenderingContext2D, width: number, height: number) => void,
  width: number,
  height: number,
  mostWidthPx: number,
): ImageBitmap {
  const scale = Math.min(1, mostWidthPx / width);
  const canvas = new OffscreenCanvas(Math.max(1, Math.round(width * scale)), Math.max(1, Math.round(height * scale)));
  const context = canvas.getContext('2d');
  if (!context) throw new Error('There is no memory for a picture of this size.');
  context.fillStyle = '#ffffff';
  context.fillRect(0, 0, canvas.width, canvas.height);
  context.imageSmoothingQuality = 'high';
  draw(context, canvas.width, canvas.height);
  return canvas.transferToImageBitmap();
}

function fromPixels({ size, rgba }: DecodedPicture, mostWidthPx: number): ImageBitmap {
  const whole = new OffscreenCanvas(size.width, size.height);
  whole.getContext('2d')?.putImageData(new ImageData(new Uint8ClampedArray(rgba), size.width, size.height), 0, 0);
  return fitted((context, width, height) => context.drawImage(whole, 0, 0, width, height), size.width, size.height, mostWidthPx);
}

type Lay = (rgba: Uint8Array) => void;

const pictureOfFile = async (file: CountFile, mostWidthPx: number, lay: Lay): Promise<ImageBitmap | null> =>
  decodeInBrowser(await file.read(), file.name).then(
    (decoded) => {
      lay(decoded.rgba);
      return fromPixels(decoded, mostWidthPx);
    },
    () => null,
  );

type Wanted = { readonly frame: number; readonly mostWidthPx: number; readonly give: (bitmap: ImageBitmap | null) => void };

/** Frames of a film: those that are wanted at once, as a strip wants them, are decoded one after another on one way through. */
class FilmPictures implements FramePictures {
  private wanted: Wanted[] = [];
  private isAtWork = false;

  constructor(
    private readonly input: Input,
    private readonly sink: VideoSampleSink,
    private readonly stampSeconds: readonly number[],
  ) {}

  readonly picture = (frame: number, mostWidthPx: number): Promise<ImageBitmap | null> =>
    new Promise((give) => {
      this.wanted.push({ frame, mostWidthPx, give });
      if (!this.isAtWork) void this.work();
    });

  private async work(): Promise<void> {
    this.isAtWork = true;
    while (this.wanted.length > 0) {
      // All that is asked for in one go comes before any of it is decoded.
      await new Promise((resolve) => setTimeout(resolve));
      const batch = this.wanted.toSorted((a, b) => a.frame - b.frame);
      this.wanted = [];
      await this.decode(batch).catch(() => undefined);
      for (const { give } of batch) give(null);
    }
    this.isAtWork = false;
  }

  /** Gives each picture as it comes; what did not come is given none by whoever asked. */
  private async decode(batch: readonly Wanted[]): Promise<void> {
    const stamps = batch.map(({ frame }) => this.stampSeconds[frame] ?? Number.POSITIVE_INFINITY);
    let at = 0;
    for await (const sample of this.sink.samplesAtTimestamps(stamps)) {
      const { mostWidthPx, give } = batch[at++] as Wanted;
      if (!sample) {
        give(null);
        continue;
      }
      const draw = (context: OffscreenCanvasRenderingContext2D, width: number, height: number) => sample.draw(context, 0, 0, width, height);
      give(fitted(draw, sample.displayWidth, sample.displayHeight, mostWidthPx));
      sample.close();
    }
  }

  readonly close = (): void => this.input.dispose();
}

async function framesOfFilm(blob: Blob, stampSeconds: readonly number[]): Promise<FramePictures> {
  const input = openInput(blob);
  const track = await input.getPrimaryVideoTrack();
  if (!track || !(await track.canDecode())) return { picture: async () => null, close: () => input.dispose() };
  return new FilmPictures(input, new VideoSampleSink(track), stampSeconds);
}

/** Pictures of a loop stand on each other, so that those before one are gone through each time; loops are short. */
function framesOfLoop(pages: () => AsyncIterable<DecodedPicture>): FramePictures {
  return {
    picture: async (frame, mostWidthPx) => {
      let at = 0;
      for await (const page of pages()) if (at++ === frame) return fromPixels(page, mostWidthPx);
      return null;
    },
    close: () => undefined,
  };
}

/** Opens a counted file for its pictures; `lay` lays those of files of their own on paper. `stampSeconds` are those a film's frames are decoded by, null for what has none. */
export async function framePictures(
  group: FileGroup<CountFile>,
  stampSeconds: readonly number[] | null,
  machine: Machine,
  lay: Lay = onPaper,
): Promise<FramePictures> {
  if (group.kind === 'sequence')
    return {
      picture: async (frame, mostWidthPx) => {
        const file = group.files[frame]?.file;
        return file ? pictureOfFile(file, mostWidthPx, lay) : null;
      },
      close: () => undefined,
    };
  const { file, name } = group;
  const blob = await file.blob();
  if (stampSeconds) return framesOfFilm(blob, stampSeconds);
  if (!isPictureName(name) && pictureKind(new Uint8Array(await blob.slice(0, 32).arrayBuffer()), name) === null)
    return { picture: async () => null, close: () => undefined };
  const bytes = await file.read();
  const facts = loopFacts(bytes);
  if (facts) return framesOfLoop(() => machine.loopPages(bytes, name, facts));
  return { picture: async (_frame, mostWidthPx) => pictureOfFile(file, mostWidthPx, lay), close: () => undefined };
}
