import { decode, encode } from 'fast-png';
import { stackOfEachFrame } from '@/core/handover/framePlan';
import type { Counted } from '@/core/handover/receipt';
import { sequenceFileNames } from '@/core/naming/sequence';
import { canonicalisePixels, digestOfBytes, digestOfPixels } from '@/core/raster/digest';
import { digestOfStream } from '@/workers/handover/fileDigest';
import { folderTarget, type WrittenSequence, zipTarget } from '@/workers/handover/sequenceTarget';
import { StackPictures } from '@/workers/handover/stackPictures';
import type { HandoverOrder, HandoverProgress, HandoverResult } from '@/workers/protocol';

const FRAMES_A_REPORT = 12;

/** A stack's PNG; `convertToBlob` is exact for opaque pictures only, since a canvas is premultiplied. */
async function encodeStack(canvas: OffscreenCanvas, pixels: Uint8ClampedArray, opaque: boolean): Promise<Uint8Array> {
  if (opaque) return new Uint8Array(await (await canvas.convertToBlob({ type: 'image/png' })).arrayBuffer());
  return encode({ width: canvas.width, height: canvas.height, data: pixels, channels: 4, depth: 8 }, { zlib: { level: 3 } });
}

/** Writes one PNG a frame, composited and packed once a distinct stack; then reads every file back and compares its pixels. */
export async function writeSequence(
  order: HandoverOrder,
  folder: FileSystemDirectoryHandle | null,
  onProgress: (progress: HandoverProgress) => void,
  stop: AbortSignal,
): Promise<Omit<HandoverResult, 'planDigest'>> {
  const { plan, baseName, ground } = order;
  const { width, height } = plan.size;
  const names = sequenceFileNames(baseName, plan.firstNumber, plan.frames, 'png');
  const target = folder ? await folderTarget(folder, names) : await zipTarget(`${baseName}.zip`);
  try {
    const pixelDigests: string[] = [];
    const pictures = new StackPictures<Uint8Array>(
      plan,
      ground,
      async ({ canvas, pixels }, stack) => {
        canonicalisePixels(pixels);
        pixelDigests[stack] = await digestOfPixels(width, height, pixels);
        return encodeStack(canvas, pixels, ground === 'paper');
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
      const counted = await countSequence(order, written, names, pixelDigests, stop, (framesDone) => {
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
  { plan }: HandoverOrder,
  written: WrittenSequence,
  names: readonly string[],
  meantDigests: readonly string[],
  stop: AbortSignal,
  onFrames: (framesDone: number) => void,
): Promise<Counted> {
  const stacks = stackOfEachFrame(plan);
  const runStarts = new Set(plan.runs.map((run) => run.startFrame));
  const there = new Set(written.names);
  const decoded = new Map<string, { digest: string; width: number; height: number }>();
  const repeatFrames: number[] = [];
  const wrongFrames: number[] = [];
  let before: string | undefined;
  let size = { width: 0, height: 0 };
  let frames = 0;
  for (const [frame, name] of names.entries()) {
    stop.throwIfAborted();
    if (!there.has(name)) {
      wrongFrames.push(frame);
      before = undefined;
      continue;
    }
    frames++;
    const bytes = await written.read(name);
    const key = await digestOfBytes(bytes);
    let picture = decoded.get(key);
    if (!picture) {
      picture = await decodePixels(bytes);
      decoded.set(key, picture);
    }
    if (frame === 0) size = picture;
    const stack = stacks[frame] as number;
    const blank = plan.stacks[stack]?.layers.length === 0;
    if (picture.digest !== meantDigests[stack]) wrongFrames.push(frame);
    if (runStarts.has(frame) && picture.digest === before && !blank) repeatFrames.push(frame);
    before = picture.digest;
    if (frame % FRAMES_A_REPORT === 0) onFrames(frame + 1);
  }
  onFrames(plan.frames);
  return {
    frames,
    rate: null,
    durationMicroseconds: null,
    timeToleranceMicroseconds: 0,
    width: size.width,
    height: size.height,
    repeatFrames,
    wrongFrames,
    mistimedFrames: [],
    untellableChanges: 0,
    comparison: { kind: 'exact' },
  };
}

/** Pixels of a written PNG, read by another decoder than the one that wrote it. */
async function decodePixels(bytes: Uint8Array): Promise<{ digest: string; width: number; height: number }> {
  const image = decode(bytes);
  const { width, height } = image;
  const pixels = new Uint8ClampedArray(width * height * 4);
  if (image.channels === 4) pixels.set(image.data);
  else {
    for (let from = 0, to = 0; to < pixels.length; from += 3, to += 4) {
      pixels[to] = image.data[from] as number;
      pixels[to + 1] = image.data[from + 1] as number;
      pixels[to + 2] = image.data[from + 2] as number;
      pixels[to + 3] = 255;
    }
  }
  canonicalisePixels(pixels);
  return { digest: await digestOfPixels(width, height, pixels), width, height };
}
