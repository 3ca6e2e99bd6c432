import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { TextReader, Uint8ArrayReader, Uint8ArrayWriter, ZipWriter } from '@zip.js/zip.js';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { EXIT } from '@/command/options';
import { run } from '@/command/run';
import { PACKAGE_FORMAT, PACKAGE_VERSION } from '@/contracts/package';
import type { Project } from '@/core/document/model';
import { canonicalisePixels } from '@/core/raster/canonical';
import { digestOfPixels } from '@/core/raster/digest';
import { levelOf, projectOf, shotOf } from '@/core/testing/sheets';

/* A project's package as what files are held against: three drawings on twos over a page, and films made of the same pictures by ffmpeg. */

const SIZE = { width: 640, height: 360 };
/** What lies beneath the drawings. */
const SKY = '#8fb8d8';
let folder = '';
const at = (name: string): string => path.join(folder, name);

/** A drawing of a disc at a place over nothing: its pixels as a PNG, and their digest. */
async function disc(x: number): Promise<{ readonly digest: string; readonly png: Buffer }> {
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${SIZE.width}" height="${SIZE.height}"><circle cx="${x}" cy="180" r="60" fill="#2b6e72"/></svg>`;
  const data = await sharp(Buffer.from(svg)).ensureAlpha().raw().toBuffer();
  canonicalisePixels(data);
  const png = await sharp(data, { raw: { ...SIZE, channels: 4 } })
    .png()
    .toBuffer();
  return { digest: await digestOfPixels(SIZE.width, SIZE.height, data), png };
}

/** Frames of a film, each by the drawing it shows, on white. */
function film(name: string, shown: readonly number[], page = 'page'): void {
  writeFileSync(at('list.txt'), shown.map((drawing) => `file '${page}_${drawing}.png'\nduration 1`).join('\n'));
  const coding = [
    '-vf',
    'settb=1/24,setpts=N',
    '-fps_mode',
    'passthrough',
    '-enc_time_base',
    '1:24',
    '-c:v',
    'libx264',
    '-pix_fmt',
    'yuv420p',
  ];
  execFileSync('ffmpeg', ['-v', 'error', '-y', '-f', 'concat', '-i', 'list.txt', ...coding, name], { cwd: folder });
}

/** A project and its pictures as a package. */
async function writePackage(
  name: string,
  film: Project,
  drawings: readonly { readonly digest: string; readonly png: Buffer }[],
): Promise<void> {
  const project: Project = { ...film, size: SIZE };
  const zip = new ZipWriter(new Uint8ArrayWriter());
  const facts = { format: PACKAGE_FORMAT, version: PACKAGE_VERSION, madeAt: '2026-01-01T00:00:00.000Z', revision: 0, document: project };
  const named = drawings.map(({ digest, png }) => ({ digest, sizeBytes: png.byteLength }));
  const beside = { pictures: named, originals: [], missing: [], sources: [], receipts: [], recipes: [] };
  await zip.add('project.json', new TextReader(JSON.stringify({ ...facts, ...beside })));
  for (const { digest, png } of drawings) await zip.add(`pictures/${digest}.png`, new Uint8ArrayReader(png));
  writeFileSync(at(name), await zip.close());
}

beforeAll(async () => {
  folder = mkdtempSync(path.join(tmpdir(), 'lime-tick-package-plan-'));
  const drawings = await Promise.all([120, 300, 480].map(disc));
  const level = levelOf('Disc', '1*2 2*2 3*2 2*2');
  const drawn = { ...level, drawings: level.drawings.map((drawing, index) => ({ ...drawing, picture: drawings[index]?.digest ?? null })) };
  await writePackage('plan.limetick', projectOf(shotOf([drawn], 8)), drawings);
  const data = await sharp({ create: { ...SIZE, channels: 4, background: SKY } })
    .raw()
    .toBuffer();
  const sky = {
    digest: await digestOfPixels(SIZE.width, SIZE.height, data),
    png: await sharp(data, { raw: { ...SIZE, channels: 4 } })
      .png()
      .toBuffer(),
  };
  const beneath = levelOf('Sky', '1', { kind: 'still' });
  const ground = { ...beneath, drawings: beneath.drawings.map((drawing) => ({ ...drawing, picture: sky.digest })) };
  await writePackage('sky.limetick', projectOf(shotOf([ground, drawn], 8)), [...drawings, sky]);
  for (const [index, { png }] of drawings.entries())
    for (const [page, background] of [
      ['page', '#ffffff'],
      ['sky', SKY],
    ] as const)
      writeFileSync(at(`${page}_${index + 1}.png`), await sharp(png).flatten({ background }).png().toBuffer());
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

async function held(name: string, plan = 'plan.limetick'): Promise<{ readonly status: number; readonly said: string }> {
  const said: string[] = [];
  const take = (line: string) => void said.push(line);
  const status = await run(['count', at(name), '--against', at(plan)], { print: take, complain: take });
  return { status, said: said.join('\n') };
}

describe('held against a project’s package', () => {
  it('a film of its pictures agrees', async () => {
    film('right.mp4', [1, 1, 2, 2, 3, 3, 2, 2]);
    expect(await held('right.mp4')).toMatchObject({ status: EXIT.agrees, said: expect.stringContaining('Agrees: 8 frames') });
  });

  it.each([
    ['missing', [1, 1, 2, 3, 3, 2, 2], 'frame 4 is missing'],
    ['twice', [1, 1, 2, 2, 3, 3, 3, 2, 2], 'frame 6 is there twice'],
    ['another', [1, 1, 2, 2, 3, 3, 1, 2], 'Frame 7 shows the picture of frame 1.'],
  ])('a frame that is %s is told', async (name, shown, words) => {
    film(`${name}.mp4`, shown);
    expect(await held(`${name}.mp4`)).toMatchObject({ status: EXIT.disagrees, said: expect.stringContaining(words) });
  });

  it('one of its drawings without their background agrees, and that is said', async () => {
    film('sky.mp4', [1, 1, 2, 2, 3, 3, 2, 2], 'sky');
    const whole = await held('sky.mp4', 'sky.limetick');
    expect(whole).toMatchObject({ status: EXIT.agrees, said: expect.stringContaining('Agrees: 8 frames') });
    film('alone.mp4', [1, 1, 2, 2, 3, 3, 2, 2]);
    const alone = await held('alone.mp4', 'sky.limetick');
    expect(alone).toMatchObject({ status: EXIT.agrees, said: expect.stringContaining('Agrees without the background: 8 frames') });
  });

  it('that is none is refused', async () => {
    writeFileSync(at('bad.limetick'), 'no ZIP');
    const said: string[] = [];
    const take = (line: string) => void said.push(line);
    expect(await run(['count', at('right.mp4'), '--against', at('bad.limetick')], { print: take, complain: take })).toBe(EXIT.unreadable);
    expect(said.join('\n')).toContain('It is not a whole ZIP');
  });
});
