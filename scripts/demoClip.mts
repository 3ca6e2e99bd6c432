// `npm run demo-clip`: draws the demo's evening and encodes it with ffmpeg, as a file of 25 frames a second that ships as text.
import { spawnSync } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { DUSK_FRAMES, DUSK_RATE, duskFrame } from '../src/demo/dusk';

const TARGET = 'src/demo/duskClip.ts';
const WIDTH_PX = 960;

const folder = await mkdtemp(path.join(tmpdir(), 'lime-tick-clip-'));
for (let index = 0; index < DUSK_FRAMES; index++)
  await sharp(Buffer.from(duskFrame(index).svg()))
    .resize(WIDTH_PX)
    .png()
    .toFile(path.join(folder, `${String(index).padStart(3, '0')}.png`));
const file = path.join(folder, 'dusk.webm');
const { status, stderr } = spawnSync('ffmpeg', [
  ...['-v', 'error', '-y', '-framerate', String(DUSK_RATE.num), '-i', path.join(folder, '%03d.png')],
  ...['-c:v', 'libvpx-vp9', '-pix_fmt', 'yuv420p', '-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', 'bt709'],
  ...['-vf', 'scale=out_color_matrix=bt709:out_range=tv', '-g', '25', '-crf', '34', '-b:v', '0', '-threads', '1', '-bitexact', file],
]);
if (status !== 0) throw new Error(`ffmpeg made no clip: ${stderr}`);
const base64 = (await readFile(file)).toString('base64');
await writeFile(
  TARGET,
  `/** The clip of the evening as a WebM file, base64; made by \`npm run demo-clip\` from \`dusk.ts\`. */\nexport const DUSK_CLIP =\n  '${base64}';\n`,
);
await rm(folder, { recursive: true });
