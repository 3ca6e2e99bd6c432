import { execFile } from 'node:child_process';
import { readFile, stat } from 'node:fs/promises';
import path from 'node:path';
import { promisify } from 'node:util';
import sharp, { type Blend } from 'sharp';
import { ffmpegVersion } from '@/command/ffmpeg';
import { onePath, ownFolder } from '@/command/zipped';
import { inOne } from '@/core/bytes';
import type { BlendMode } from '@/core/document/blendModes';
import { finishPicture } from '@/core/finish/finishPicture';
import { blocksOfPixels } from '@/core/outside/blocks';
import type { CountedOutside } from '@/core/outside/countOutside';
import { heldAgainstReel } from '@/core/outside/heldAgainstReel';
import { type Held, holdAsItLeft } from '@/core/outside/holdAgainst';
import type { Blocks } from '@/core/outside/look';
import { FrameWatch, type SeenFrames } from '@/core/outside/seenFrames';
import { placeOn } from '@/core/raster/placing';
import { once } from '@/core/remembered';
import { type ClipPicture, readClipPicture } from '@/core/render/clipPicture';
import { drawingsAlone } from '@/core/render/drawingsAlone';
import { planOfReel, type RenderPlan } from '@/core/render/renderPlan';
import type { PictureStack, StackLayer } from '@/core/render/stacks';
import { OpenPackage, OpenZip } from '@/server/service/package/readPackage';

/*
 * A project's package as a plan: what its reel shows is composited by the image library, with the same formulas of the finish, so
 * that files can be held against it where there is no browser. Frames of clips are decoded by ffmpeg.
 */

const blendOf = (blend: BlendMode): Blend => (blend === 'normal' ? 'over' : blend);
const CLEAR = { r: 0, g: 0, b: 0, alpha: 0 } as const;

/** The pictures a package's reel shows, read when they are asked for; its clips are laid where ffmpeg finds them, once each. */
class PackagePictures {
  private readonly clips = new Map<string, Promise<string>>();
  private readonly decoded = new Map<string, Promise<{ readonly folder: string; readonly first: number }>>();

  constructor(
    private readonly zip: OpenPackage,
    private readonly plan: RenderPlan,
  ) {}

  png(name: string): Promise<Uint8Array> {
    const clip = readClipPicture(name);
    return clip ? this.frameOfClip(clip) : this.drawing(name);
  }

  private async drawing(digest: string): Promise<Uint8Array> {
    const picture = await this.zip.picture(digest);
    if (!picture.ok) throw new Error(picture.reason);
    return picture.value.png;
  }

  private fileOfClip(original: string): Promise<string> {
    const known = this.clips.get(original);
    if (known) return known;
    const laid = (async () => {
      const parts: Uint8Array[] = [];
      for await (const part of this.zip.original(original)) parts.push(part);
      return onePath(`${original}.clip`, inOne(parts));
    })();
    this.clips.set(original, laid);
    return laid;
  }

  /** Decodes all frames of a clip that the reel shows, on one way through; gives the folder they lie in and the number of the first. */
  private framesOfClip(original: string): Promise<{ readonly folder: string; readonly first: number }> {
    const known = this.decoded.get(original);
    if (known) return known;
    const decoded = (async () => {
      const names = this.plan.stacks.flatMap(({ layers }) => layers.map(({ picture }) => readClipPicture(picture)));
      const wanted = names.flatMap((clip) => (clip?.original === original ? [clip.frame] : []));
      const first = wanted.reduce((least, frame) => Math.min(least, frame), Number.POSITIVE_INFINITY);
      const last = wanted.reduce((most, frame) => Math.max(most, frame), 0);
      const file = await this.fileOfClip(original);
      const folder = ownFolder();
      const cut = ['-vf', `trim=start_frame=${first}:end_frame=${last + 1}`, '-fps_mode', 'passthrough', '-compression_level', '1'];
      await promisify(execFile)('ffmpeg', ['-v', 'error', '-nostdin', '-i', file, '-map', '0:v:0', ...cut, path.join(folder, '%07d.png')]);
      return { folder, first };
    })();
    this.decoded.set(original, decoded);
    return decoded;
  }

  /** A frame of a clip in its place on the film's page, as it is seen on the reel. */
  private async frameOfClip({ original, frame }: ClipPicture): Promise<Uint8Array> {
    if ((await ffmpegVersion()) === null) throw new Error('The reel shows clips, and ffmpeg, which decodes them, is not on the path.');
    const { folder, first } = await this.framesOfClip(original);
    const bytes = await readFile(path.join(folder, `${String(frame - first + 1).padStart(7, '0')}.png`)).catch(() => {
      throw new Error(`Frame ${frame + 1} of a clip on the reel could not be decoded.`);
    });
    const { width = 1, height = 1 } = await sharp(bytes).metadata();
    const { size } = this.plan;
    const place = placeOn({ width, height }, size, 'fit');
    const [across, down] = [Math.round(place.width), Math.round(place.height)];
    const picture = await sharp(bytes).resize(across, down, { fit: 'fill' }).png({ compressionLevel: 1 }).toBuffer();
    return sharp({ create: { ...size, channels: 4, background: CLEAR } })
      .composite([{ input: picture, left: Math.round(place.x), top: Math.round(place.y) }])
      .png({ compressionLevel: 1 })
      .toBuffer();
  }
}

/** A layer as the image library lays it: its transparency has its opacity in it. */
async function layerOf({ opacityPercent, blend = 'normal' }: StackLayer, png: Uint8Array) {
  if (opacityPercent === 100) return { input: Buffer.from(png), blend: blendOf(blend) };
  const { data, info } = await sharp(png).ensureAlpha().raw({ depth: 'uchar' }).toBuffer({ resolveWithObject: true });
  for (let at = 3; at < data.length; at += 4) data[at] = Math.round(((data[at] as number) * opacityPercent) / 100);
  return { input: data, raw: { width: info.width, height: info.height, channels: 4 as const }, blend: blendOf(blend) };
}

async function blocksOfStack({ layers, finished }: PictureStack, { size, finish }: RenderPlan, pictures: PackagePictures): Promise<Blocks> {
  const laid = await Promise.all(layers.map(async (layer) => layerOf(layer, await pictures.png(layer.picture))));
  const { width, height } = size;
  const page = sharp({ create: { width, height, channels: 4, background: '#ffffff' } });
  const data = await page.composite(laid).raw({ depth: 'uchar' }).toBuffer();
  const rgba = new Uint8ClampedArray(data.buffer, data.byteOffset, data.byteLength);
  const seen = finished && finish.length > 0 ? finishPicture(rgba.slice(), width, height, finish, { isOpaque: true, shrink: 1 }) : rgba;
  return blocksOfPixels(width, height, new Uint8Array(seen.buffer, seen.byteOffset, seen.byteLength));
}

/** What the frames of a plan look like; a picture is composited once, and kept for as long as it comes again. */
async function seenOf(plan: RenderPlan, zip: OpenPackage): Promise<SeenFrames> {
  const pictures = new PackagePictures(zip, plan);
  const watch = new FrameWatch(plan.frames);
  const known = new Map<number, Blocks>();
  const lastRun = new Map(plan.runs.map(({ stack }, index) => [stack, index]));
  for (const [index, { stack, frames }] of plan.runs.entries()) {
    const blocks = known.get(stack) ?? (await blocksOfStack(plan.stacks[stack] as PictureStack, plan, pictures));
    // What is not seen again is let go: a feature has thousands of pictures.
    if (lastRun.get(stack) === index) known.delete(stack);
    else known.set(stack, blocks);
    for (let frame = 0; frame < frames; frame++) watch.take(blocks, plan.size.width, `${stack}`);
  }
  return watch.seen;
}

/** Opens a package, asks something of it and closes it. Rejects with a sentence where it can't be read. */
async function inPackage<Answer>(file: string, ask: (opened: OpenPackage) => Promise<Answer>): Promise<Answer> {
  const zip = await OpenZip.open(file, (await stat(file)).size);
  if (!zip.ok) throw new Error(`${file}: ${zip.reason}`);
  try {
    const opened = await OpenPackage.of(zip.value);
    if (!opened.ok) throw new Error(`${file}: ${opened.reason}`);
    return await ask(opened.value);
  } finally {
    await zip.value.close();
  }
}

/** The reel of a package as something files are held against. Rejects with a sentence where it can't be read. */
export async function heldByPackage(file: string): Promise<(counted: CountedOutside) => Promise<Held>> {
  const { project, plan, seen } = await inPackage(file, async (opened) => {
    const plan = planOfReel(opened.project);
    if (!plan) throw new Error(`${file}: there is nothing on its reel to hold files against.`);
    return { project: opened.project, plan, seen: await seenOf(plan, opened) };
  });
  // Few files need it, and compositing takes as long as for the whole.
  const alone = once(async () => {
    const drawings = drawingsAlone(project, null);
    return drawings && inPackage(file, (opened) => seenOf(drawings, opened));
  });
  const whole = { plan: heldAgainstReel(project, plan, project.title), seen, loudness: null };
  return async (counted) => (await holdAsItLeft(whole, alone, counted)).held;
}

/** Whether a file is a project's package: a ZIP that says so in its first file, or by its name. */
export const isPackageName = (name: string): boolean => /\.limetick$/i.test(name);
