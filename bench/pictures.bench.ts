import { rm } from 'node:fs/promises';
import sharp, { type Sharp } from 'sharp';
import { makeProject, pictureSvg } from '../e2e/projects';
import { newDataFolder, startServer } from '../e2e/server';
import { handOver, openKeptBrowser } from './browser';
import { print, quantile } from './figure';

/*
 * Picture files, one a drawing, against an image library that reads the same stored drawings, lays them on white and packs them,
 * on paper and with transparency. Medians of three, side by side.
 */

const SIZE = { width: 1280, height: 720 };
const PICTURES = 120;
const ROUNDS = Number(process.env.ROUNDS ?? 3);

const KINDS = [
  { kind: 'PNG', figure: 'png', pack: (picture: Sharp) => picture.png() },
  { kind: 'TIFF', figure: 'tiff', pack: (picture: Sharp) => picture.tiff({ compression: 'deflate' }) },
  { kind: 'JPEG', figure: 'jpeg', pack: (picture: Sharp) => picture.jpeg({ quality: 90 }) },
  { kind: 'WebP', figure: 'webp', pack: (picture: Sharp) => picture.webp({ lossless: true }) },
] as const;

const folder = await newDataFolder();
const server = await startServer(folder);
const browser = await openKeptBrowser();
try {
  const id = await makeProject(
    server.url,
    { title: 'Pictures', rate: { num: 24, den: 1 }, size: SIZE, frames: PICTURES },
    { drawings: PICTURES, hold: 1 },
  );
  const page = await browser.newPage();
  // The compiler names functions through a helper that a page does not have.
  await page.addInitScript('globalThis.__name = (named) => named');
  const drawings = await Promise.all(
    Array.from({ length: PICTURES }, (_, index) =>
      sharp(Buffer.from(pictureSvg(index, 0, SIZE)))
        .png()
        .toBuffer(),
    ),
  );
  for (const isClear of [false, true]) {
    for (const { kind, figure, pack } of KINDS) {
      if (isClear && kind === 'JPEG') continue;
      const [ours, theirs]: [number[], number[]] = [[], []];
      for (let round = 0; round < ROUNDS; round++) {
        const started = performance.now();
        for (const each of drawings) await pack(isClear ? sharp(each) : sharp(each).flatten({ background: '#ffffff' })).toBuffer();
        theirs.push((performance.now() - started) / 1000);
        const handed = await handOver(page, server.url, id, kind, isClear ? 'Without' : 'With background');
        if (handed.verdict !== 'agrees') throw new Error(`${kind}: the receipt says ${handed.verdict}.`);
        ours.push(handed.writtenSeconds);
      }
      const [value, against] = [quantile(ours, 0.5), quantile(theirs, 0.5)];
      print({ name: `handover.${figure}${isClear ? '.clear' : ''}`, value, unit: 's', against, ratio: value / against });
    }
  }
} finally {
  await browser.close();
  await server.kill('SIGTERM');
  await rm(folder, { recursive: true, force: true });
}
