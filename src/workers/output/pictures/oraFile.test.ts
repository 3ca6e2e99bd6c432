import { execFileSync } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { expect, it } from 'vitest';
import { mustBeDone } from '@/core/outcome';
import { readOpenRaster } from '@/server/service/bringIn/openRaster';
import { oraFile } from '@/workers/output/pictures/oraFile';

const SIZE = { width: 20, height: 12 };
const flat = async (background: string, size = SIZE): Promise<Uint8Array> =>
  new Uint8Array(
    await sharp({ create: { ...size, channels: 4, background } })
      .png()
      .toBuffer(),
  );

const made = async (): Promise<Uint8Array> => {
  const layers = [
    { name: 'Yard', png: await flat('#336699'), opacityPercent: 100, blend: 'normal', visible: true },
    { name: 'Sock & "peg"', png: await flat('#ff000080'), opacityPercent: 50, blend: 'multiply', visible: false },
  ] as const;
  const file = await oraFile(SIZE, layers, await flat('#123456'), await flat('#123456', { width: 10, height: 6 }));
  return new Uint8Array(await file.arrayBuffer());
};

it('an OpenRaster picture has its kind first and stored, and its parts as a ZIP program and an image library read them', async () => {
  const bytes = await made();
  // The name of the first entry begins at byte 30, and what is in it follows as it is.
  expect(new TextDecoder().decode(bytes.subarray(30, 54))).toBe('mimetypeimage/openraster');
  const folder = await mkdtemp(path.join(tmpdir(), 'lime-tick-ora-'));
  const file = path.join(folder, 'picture.ora');
  await writeFile(file, bytes);
  const python =
    'import zipfile, sys; z = zipfile.ZipFile(sys.argv[1]); assert z.testzip() is None; z.extractall(sys.argv[2]); print("\\n".join(z.namelist()))';
  const names = execFileSync('python3', ['-c', python, file, folder], { encoding: 'utf8' }).trim().split('\n');
  expect(names).toEqual(['mimetype', 'stack.xml', 'data/layer001.png', 'data/layer002.png', 'mergedimage.png', 'Thumbnails/thumbnail.png']);
  expect(await sharp(path.join(folder, 'mergedimage.png')).metadata()).toMatchObject({ width: 20, height: 12 });
  const xml = await readFile(path.join(folder, 'stack.xml'), 'utf8');
  expect(xml.indexOf('Sock')).toBeLessThan(xml.indexOf('Yard'));
  expect(xml).toContain(
    'name="Sock &amp; &quot;peg&quot;" src="data/layer002.png" x="0" y="0" opacity="0.50" visibility="hidden" composite-op="svg:multiply"',
  );
  await rm(folder, { recursive: true });
});

it('it comes back with every layer', async () => {
  const read = mustBeDone(await readOpenRaster(await made()));
  const pages: [string, number[]][] = [];
  for await (const { name, rgba } of read.pages) pages.push([name, [...rgba.subarray(0, 4)]]);
  expect(pages[0]).toEqual(['Yard', [0x33, 0x66, 0x99, 255]]);
  expect(pages[1]?.[1]).toEqual([255, 0, 0, 64]);
});
