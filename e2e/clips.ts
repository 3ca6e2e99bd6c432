import { execFileSync } from 'node:child_process';
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Page } from '@playwright/test';

/** What ffmpeg makes of these arguments, which end with the kind of file. */
export async function ffmpegFile(args: readonly string[], extension: string, input?: Buffer): Promise<Buffer> {
  const folder = await mkdtemp(path.join(tmpdir(), 'lime-tick-clip-'));
  const file = path.join(folder, `clip.${extension}`);
  execFileSync('ffmpeg', ['-v', 'error', '-y', ...args, file], { input });
  const bytes = await readFile(file);
  await rm(folder, { recursive: true });
  return bytes;
}

/** The grey that frame `frame` of a numbered clip has, of 255. */
export const greyOf = (frame: number): number => 20 + ((frame * 37) % 200);

const NUMBERED = ['-f', 'rawvideo', '-pix_fmt', 'gray', '-s', '64x36'];
/** Colours of a film as ITU-R BT.709, limited range. */
const RANGE = ['-vf', 'scale=in_range=full:out_range=tv:out_color_matrix=bt709', '-pix_fmt', 'yuv420p', '-colorspace', 'bt709'];

const pictures = (frames: number) => Buffer.concat(Array.from({ length: frames }, (_, frame) => Buffer.alloc(64 * 36, greyOf(frame))));

/** A clip in which every frame is of a grey of its own, with key frames every twelve. */
export const numberedClip = (frames: number, rate: string, codec: readonly string[], extension: string): Promise<Buffer> =>
  ffmpegFile([...NUMBERED, '-framerate', rate, '-i', '-', ...RANGE, '-g', '12', ...codec], extension, pictures(frames));

/** Lossless VP9. */
export const VP9 = ['-c:v', 'libvpx-vp9', '-lossless', '1'];

/** Chooses a file to bring in by the key. */
export async function chooseFile(page: Page, name: string, buffer: Buffer): Promise<void> {
  const chooser = page.waitForEvent('filechooser');
  await page.keyboard.press('Control+i');
  await (await chooser).setFiles([{ name, mimeType: 'video/mp4', buffer }]);
}
