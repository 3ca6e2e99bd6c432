import { decode, encode } from 'fast-png';
import type { Counted } from '@/core/count/receipt';
import type { Size } from '@/core/document/model';
import { sequenceFileNames } from '@/core/output/sequenceNames';
import { canonicalisePixels, fingerprintOf } from '@/core/raster/digest';
import { stackOfEachFrame } from '@/core/render/renderPlan';
import { digestOfStream } from '@/workers/output/fileDigest';
import { folderTarget, type WrittenSequence, zipTarget } from '@/workers/output/sequenceTarget';
import type { HandoverOrder, HandoverProgress, HandoverResult } from '@/workers/protocol';
import { Compositor, type Ground } from '@/workers/render/compositor';
import { StackPictures } from '@/workers/render/stackPictures';

const FRAMES_A_REPORT = 12;

/** A stack as a PNG file, with the fingerprint of its pixels. */
type PackedStack = { readonly png: Uint8Array; readonly fingerprint: string };

/**
 * Packs what the compositor laid last. On paper a canvas packs and is read exactly; where there is
 * transparency it would not be exact, since a canvas is premultiplied, so straight pixels are packed.
 */
async function packStack(canvas: OffscreenCanvas, compositor: Compositor, ground: Ground): Promise<PackedStack> {
  if (ground === 'paper') {
    const { pixels } = await compositor.opaquePixels();
    const fingerprint = await fingerprintOf(pixels);
    return { png: new Uint8Array(await (await canvas.convertToBlob({ type: 'image/png' })).arrayBuffer()), fingerprint };
  }
  const pixels = compositor.pixels();
  canonicalisePixels(pixels);
  const fingerprint = await fingerprintOf(new Uint8Array(pixels.buffer));
  return {
    png: encode({ width: canvas.width, height: canvas.height, data: pixels, channels: 4, depth: 8 }, { zlib: { level: 3 } }),
    fingerprint,
  };
}

/** Writes one PNG a frame, composited and packed once a distinct stack; then reads every file back and compares its pixels. */
export async function writeSequence(
  order: HandoverOrder,
  folder: FileSystemDirectoryHandle | null,
  onProgress: (progress: HandoverProgress) => void,
  stop: AbortSignal,
): Promise<Omit<HandoverResult, 'planDigest'>> {
  const { plan, baseName, ground } = order;
  const names = sequenceFileNames(baseName, plan.firstNumber, plan.frames, 'png');
  const target = folder ? await folderTarget(folder, names) : await zipTarget(`${baseName}.zip`, order.owner);
  try {
    const fingerprints: string[] = [];
    const pictures = new StackPictures<Uint8Array>(
      plan,
      ground,
      async (canvas, stack, compositor) => {
        const packed = await packStack(canvas, compositor, ground);
        fingerprints[stack] = packed.fingerprint;
        return packed.png;
      },
      (png) => png.byteLength,
    );
    for (const [index, run] of plan.runs.entries()) {
      const png = await pictures.ofRun(index);
      for (let frame = run.startFrame; frame < run.startFrame + run.frames; frame++) {
        stop.throwIfAborted();
        await target.add(names[frame] as string, png);
      }
      onProgress({
        phase: 'writing',
        framesDone: run.startFrame + run.frames,
        frames: plan.frames,
        composited: pictures.compositor.composited,
        pictures: plan.stacks.length,
      });
    }
    const written = await target.finish();
    try {
      const composited = pictures.compositor.composited;
      const counted = await countSequence(order, written, names, fingerprints, stop, (framesDone) => {
        onProgress({ phase: 'counting', framesDone, frames: plan.frames, composited, pictures: plan.stacks.length });
      });
      return {
        fileName: folder ? `${baseName}.####.png` : `${baseName}.zip`,
        storedAs: written.storedAs,
        fileBytes: written.fileBytes,
        fileDigest: written.file ? await digestOfStream(written.file) : null,
        composited,
        counted,
      };
    } finally {
      await written.close();
    }
  } catch (error) {
    await target.discard();
    throw error;
  }
}

async function countSequence(
  { plan, ground }: HandoverOrder,
  written: WrittenSequence,
  names: readonly string[],
  meantFingerprints: readonly string[],
  stop: AbortSignal,
  onFrames: (framesDone: number) => void,
): Promise<Counted> {
  const stacks = stackOfEachFrame(plan);
  const runStarts = new Set(plan.runs.map((run) => run.startFrame));
  const there = new Set(written.names);
  const reader = new OpaqueReader(plan.size);
  const decoded = new Map<string, ReadPicture>();
  const repeatFrames: number[] = [];
  const wrongFrames: number[] = [];
  const missingFrames: number[] = [];
  let before: string | undefined;
  let size = { width: 0, height: 0 };
  let frames = 0;
  for (const [frame, name] of names.entries()) {
    stop.throwIfAborted();
    if (!there.has(name)) {
      missingFrames.push(frame);
      before = undefined;
      continue;
    }
    frames++;
    const bytes = await written.read(name);
    const key = await fingerprintOf(bytes);
    let picture = decoded.get(key);
    if (!picture) {
      picture = ground === 'paper' ? await reader.read(bytes) : await decodePixels(bytes);
      decoded.set(key, picture);
    }
    if (frames === 1) size = picture;
    // A picture of another size than the first is not the one meant, and its fingerprint says so.
    const stack = stacks[frame] as number;
    const blank = plan.stacks[stack]?.layers.length === 0;
    if (picture.fingerprint !== meantFingerprints[stack]) wrongFrames.push(frame);
    if (runStarts.has(frame) && picture.fingerprint === before && !blank) repeatFrames.push(frame);
    before = picture.fingerprint;
    if (frame % FRAMES_A_REPORT === 0) onFrames(frame + 1);
  }
  onFrames(plan.frames);
  return {
    frames,
    hasTimes: false,
    rate: null,
    otherRates: [],
    durationMicroseconds: null,
    timeToleranceMicroseconds: 0,
    width: size.width,
    height: size.height,
    repeatFrames,
    wrongFrames,
    missingFrames,
    mistimedFrames: [],
    untellableChanges: 0,
    comparison: { kind: 'exact' },
  };
}

type ReadPicture = { readonly fingerprint: string; readonly width: number; readonly height: number };

/** Reads opaque pictures back through the browser's own decoder. */
class OpaqueReader {
  private readonly compositor: Compositor;

  constructor(size: Size) {
    this.compositor = new Compositor(size);
  }

  async read(bytes: Uint8Array): Promise<ReadPicture> {
    const bitmap = await createImageBitmap(new Blob([bytes as Uint8Array<ArrayBuffer>], { type: 'image/png' }), {
      colorSpaceConversion: 'none',
    });
    const { width, height } = bitmap;
    this.compositor.layBitmap(bitmap);
    bitmap.close();
    const { pixels } = await this.compositor.opaquePixels();
    return { fingerprint: await fingerprintOf(pixels), width, height };
  }
}

/** Straight pixels of a written PNG with transparency. */
async function decodePixels(bytes: Uint8Array): Promise<ReadPicture> {
  const { width, height, channels, data } = decode(bytes);
  if (channels !== 4) throw new Error(`A picture written with transparency came back with ${channels} channels.`);
  const pixels = Uint8Array.from(data);
  canonicalisePixels(pixels);
  return { fingerprint: await fingerprintOf(pixels), width, height };
}
