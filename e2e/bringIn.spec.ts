import { execFileSync } from 'node:child_process';
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Page } from '@playwright/test';
import { BlobReader, TextReader, Uint8ArrayWriter, ZipWriter } from '@zip.js/zip.js';
import sharp from 'sharp';
import type { Size } from '../src/core/document/model';
import { canonicalisePixels } from '../src/core/raster/canonical';
import { digestOfPixels } from '../src/core/raster/digest';
import { column, expect, goToFrame, openStage, test, untilKept } from './fixtures';
import { emptyProject, pictureSvg, projectOnServer } from './projects';

const SIZE = { width: 320, height: 180 };
const FILM = { title: 'Brought', rate: { num: 24, den: 1 }, size: SIZE, frames: 24 };

/** A drawn picture by an image library, as a file and as the digest it must come to. */
async function drawn(index: number, size: Size = SIZE) {
  const image = sharp(Buffer.from(pictureSvg(index, 0, size))).ensureAlpha();
  const rgba = await image.clone().raw().toBuffer();
  canonicalisePixels(rgba);
  return { buffer: await image.png().toBuffer(), digest: await digestOfPixels(size.width, size.height, rgba) };
}

type FileToChoose = { name: string; mimeType: string; buffer: Buffer };
const png = (name: string, buffer: Buffer): FileToChoose => ({ name, mimeType: 'image/png', buffer });

async function choose(page: Page, files: readonly FileToChoose[]): Promise<void> {
  const chooser = page.waitForEvent('filechooser');
  await page.keyboard.press('Control+i');
  await (await chooser).setFiles([...files]);
}

test('a numbered sequence is brought in in its natural order, with gaps and bad files listed, as one edit', async ({ page, app }) => {
  const projectId = await emptyProject(app.url, FILM);
  await openStage(page, app.url, projectId, 'draw');
  const pictures = await Promise.all([0, 1, 2, 1].map((index) => drawn(index)));
  const [one, two, three, four] = pictures;
  if (!one || !two || !three || !four) throw new Error('There are no pictures.');
  await choose(page, [
    png('sock_10.png', four.buffer),
    png('sock_2.png', two.buffer),
    png('sock_1.png', one.buffer),
    png('sock_3.png', two.buffer),
    png('sock_4.png', three.buffer),
    png('sock_5.png', three.buffer.subarray(0, 400)),
    png('notes.png', Buffer.from('these are words')),
  ]);
  const dialog = page.getByRole('dialog', { name: 'Bring pictures in' });
  await expect(dialog.getByText('Missing in the row: 5–9.')).toBeVisible();
  await expect(dialog.getByRole('alert')).toContainText('2 files can’t be brought in:');
  await expect(dialog.getByText('Bring in 5 pictures as 5 drawings on a new level Sock, frames 1–10')).toBeVisible();
  const rows = dialog.getByRole('region', { name: 'The sheet that will be made' }).getByRole('listitem');
  await expect(rows).toHaveText([
    /^11–22–sock_1.png/,
    /^23–42–sock_2.png/,
    /^35–62–sock_3.png/,
    /^47–82–sock_4.png/,
    // The number of its file stays, since some are missing before it.
    /^109–102–sock_10.png/,
  ]);
  await expect(dialog.getByText('2 pictures are equal to one before')).toBeVisible();
  await dialog.getByRole('radio', { name: 'Hold the one before' }).click();
  await expect(dialog.getByText('Bring in 5 pictures as 5 drawings on a new level Sock, frames 1–20')).toBeVisible();
  await dialog.getByRole('radio', { name: 'Close up' }).click();
  await dialog.getByRole('radio', { name: 'Counted on' }).click();
  await expect(rows.last()).toHaveText(/^59–102–sock_10.png/);
  await dialog.getByRole('radio', { name: 'Held', exact: true }).click();
  await expect(dialog.getByText('Bring in 4 pictures as 4 drawings')).toBeVisible();
  await dialog.getByRole('radio', { name: 'Shared' }).click();
  await expect(dialog.getByText('Bring in 4 pictures as 3 drawings')).toBeVisible();
  await dialog.getByRole('button', { name: 'Bring in 5 pictures from 5 of 7 files' }).click();
  await expect(dialog).toHaveCount(0);
  await expect.poll(() => column(page, 'Sock')).toBe('1*2 2*4 3*2 2*2 .*14');
  await untilKept(page);
  const level = (await projectOnServer(app.url, projectId)).shots[0]?.levels.find(({ name }) => name === 'Sock');
  expect(level?.drawings.map((drawing) => drawing.picture)).toEqual([one.digest, two.digest, three.digest]);

  const { sources } = (await (await fetch(`${app.url}/api/projects/${projectId}/sources`)).json()) as {
    sources: { original: string; fileName: string; levelId: string }[];
  };
  expect(sources.map((source) => source.fileName).sort()).toEqual(['sock_1.png', 'sock_10.png', 'sock_2.png', 'sock_3.png', 'sock_4.png']);
  const first = sources.find((source) => source.fileName === 'sock_1.png');
  const original = await fetch(`${app.url}/api/originals/${first?.original}?name=sock_1.png`);
  expect(Buffer.from(await original.arrayBuffer()).equals(one.buffer)).toBe(true);

  await page.keyboard.press('Control+z');
  await expect(page.getByRole('columnheader', { name: /^Sock/ })).toHaveCount(0);
});

test('an animated picture keeps its own times, another size is laid as told, and the shot grows', async ({ page, app }) => {
  const projectId = await emptyProject(app.url, FILM);
  await openStage(page, app.url, projectId, 'plan');
  const folder = await mkdtemp(path.join(tmpdir(), 'lime-tick-bring-'));
  const file = path.join(folder, 'wave.gif');
  const size = { width: 160, height: 160 };
  const frames = await Promise.all(
    Array.from({ length: 13 }, (_, index) =>
      sharp(Buffer.from(pictureSvg(index, 0, size)))
        .flatten({ background: '#ffffff' })
        .ensureAlpha()
        .raw()
        .toBuffer(),
    ),
  );
  const options = ['-v', 'error', '-y', '-f', 'rawvideo', '-pix_fmt', 'rgba', '-s', '160x160', '-r', '10', '-i', '-', file];
  execFileSync('ffmpeg', options, { input: Buffer.concat(frames) });
  await goToFrame(page, 3);
  await choose(page, [{ name: 'wave.gif', mimeType: 'image/gif', buffer: await readFile(file) }]);
  await rm(folder, { recursive: true });
  const dialog = page.getByRole('dialog', { name: 'Bring pictures in' });
  await expect(dialog.getByText('Another size than the film’s 320 × 180: 13 pictures of 160 × 160.')).toBeVisible();
  await expect(dialog.getByRole('radio', { name: 'Each its own' })).toBeChecked();
  await dialog.getByRole('radio', { name: 'The current frame' }).click();
  await dialog.getByRole('radio', { name: 'Top left corner' }).click();
  await dialog.getByRole('radio', { name: 'As they are' }).click();
  // Thirteen pictures of a tenth of a second are 1.3 s: 31.2 frames, so 31, from the third on.
  await expect(dialog.getByText('frames 3–33; shot 010 grows from 24 to 33 frames')).toBeVisible();
  // The second for half a second by hand: 1.2 s and that are 1.7 s, 40.8 frames, so 41.
  const byHand = dialog.getByLabel('Times by hand, one after another, - for none');
  await byHand.fill('- 0.5s');
  await expect(dialog.getByText('frames 3–43; shot 010 grows from 24 to 43 frames')).toBeVisible();
  await byHand.fill('- soon');
  await expect(dialog.getByText('Write times as 120 (ms), 0.5s or 12/100, with spaces between.')).toBeVisible();
  await byHand.fill('');
  await dialog.getByRole('button', { name: 'Bring in 13 pictures' }).click();
  await expect(dialog).toHaveCount(0);
  await untilKept(page);
  const shot = (await projectOnServer(app.url, projectId)).shots[0];
  const level = shot?.levels.find(({ name }) => name === 'Wave');
  expect(shot?.frames).toBe(33);
  expect(level?.exposures.map((run) => run.frames)).toEqual([2, 2, 3, 2, 3, 2, 2, 3, 2, 3, 2, 2, 3, 2]);
  const digest = level?.drawings[0]?.picture;
  const answer = Buffer.from(await (await fetch(`${app.url}/api/pictures?digests=${digest}`)).arrayBuffer()).subarray(4);
  const { data, info } = await sharp(answer).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  expect([info.width, info.height]).toEqual([320, 180]);
  const alphaAt = (x: number, y: number) => data[(y * 320 + x) * 4 + 3];
  expect([alphaAt(0, 0), alphaAt(159, 159), alphaAt(160, 0), alphaAt(0, 160)]).toEqual([255, 255, 0, 0]);
});

test('dropped pictures are brought in too, and a stop leaves the film as it was', async ({ page, app }) => {
  const projectId = await emptyProject(app.url, FILM);
  await openStage(page, app.url, projectId, 'draw');
  const picture = await drawn(4);
  const drop = (count: number) =>
    page.evaluate(
      ([base64, files]) => {
        const bytes = Uint8Array.from(atob(base64), (sign) => sign.charCodeAt(0));
        const transfer = new DataTransfer();
        for (let number = 1; number <= files; number++) transfer.items.add(new File([bytes], `leaf ${number}.png`, { type: 'image/png' }));
        document.dispatchEvent(new DragEvent('drop', { dataTransfer: transfer, bubbles: true, cancelable: true }));
      },
      [picture.buffer.toString('base64'), count] as const,
    );
  const before = await projectOnServer(app.url, projectId);
  await drop(200);
  const dialog = page.getByRole('dialog', { name: 'Bring pictures in' });
  await expect(dialog.getByText(/^reading \d+ of 200$/)).toBeVisible();
  await dialog.getByRole('button', { name: 'Stop' }).click();
  await expect(dialog).toHaveCount(0);
  expect(await projectOnServer(app.url, projectId)).toEqual(before);

  await drop(1);
  await expect(dialog.getByText('Bring in 1 picture as 1 drawing on a new level Leaf')).toBeVisible();
  await expect(dialog.getByRole('radio', { name: 'Still' })).toBeChecked();
  await dialog.getByRole('button', { name: 'Bring in 1 picture' }).click();
  await untilKept(page);
  const levels = (await projectOnServer(app.url, projectId)).shots[0]?.levels ?? [];
  expect(levels[0]).toMatchObject({ name: 'Leaf', kind: 'still' });
  expect(levels[0]?.drawings[0]?.picture).toBe(picture.digest);
});

test('a picture in the clipboard is pasted as a picture, and a layered one of another program as its layers', async ({ page, app }) => {
  const projectId = await emptyProject(app.url, FILM);
  await openStage(page, app.url, projectId, 'draw');
  const paste = async (name: string, type: string, bytes: Uint8Array) =>
    page.evaluate(
      ([base64, fileName, mimeType]) => {
        const transfer = new DataTransfer();
        transfer.items.add(new File([Uint8Array.from(atob(base64), (sign) => sign.charCodeAt(0))], fileName, { type: mimeType }));
        document.body.dispatchEvent(new ClipboardEvent('paste', { clipboardData: transfer, bubbles: true, cancelable: true }));
      },
      [Buffer.from(bytes).toString('base64'), name, type] as const,
    );
  const picture = await drawn(4);
  await paste('image.png', 'image/png', picture.buffer);
  const dialog = page.getByRole('dialog', { name: 'Bring pictures in' });
  await dialog.getByRole('button', { name: 'Bring in 1 picture' }).click();
  await untilKept(page);
  expect((await projectOnServer(app.url, projectId)).shots[0]?.levels[0]?.drawings[0]?.picture).toBe(picture.digest);

  const zip = new ZipWriter(new Uint8ArrayWriter());
  await zip.add('mimetype', new TextReader('image/openraster'), { level: 0 });
  await zip.add(
    'stack.xml',
    new TextReader('<image w="320" h="180"><stack><layer name="Top" src="b.png"/><layer src="a.png"/></stack></image>'),
  );
  const [low, top] = [await drawn(5), await drawn(6)];
  await zip.add('a.png', new BlobReader(new Blob([new Uint8Array(low.buffer)])));
  await zip.add('b.png', new BlobReader(new Blob([new Uint8Array(top.buffer)])));
  await paste('leaves.ora', 'image/openraster', await zip.close());
  await dialog.getByRole('button', { name: /^Bring in 2 pictures/ }).click();
  await expect(dialog).toHaveCount(0);
  await untilKept(page);
  const levels = (await projectOnServer(app.url, projectId)).shots[0]?.levels ?? [];
  const digests = levels.flatMap((level) => level.drawings.map((drawing) => drawing.picture));
  expect(digests).toEqual(expect.arrayContaining([low.digest, top.digest]));
});

test.describe('kinds of files through the window', () => {
  const rgba = sharp(Buffer.from(pictureSvg(3, 0, { width: 320, height: 180 }))).ensureAlpha();
  for (const [name, args] of [
    ['leaf.tga', ['-c:v', 'targa']],
    ['leaf.bmp', ['-c:v', 'bmp', '-pix_fmt', 'bgr24']],
    ['leaf.tiff', ['-c:v', 'tiff']],
  ] as const)
    test(`${name}, written by another program, comes in with its very pixels`, async ({ page, app }) => {
      const projectId = await emptyProject(app.url, FILM);
      await openStage(page, app.url, projectId, 'draw');
      const folder = await mkdtemp(path.join(tmpdir(), 'lime-tick-bring-'));
      const file = path.join(folder, name);
      const input = await rgba.clone().raw().toBuffer();
      const options = ['-v', 'error', '-y', '-f', 'rawvideo', '-pix_fmt', 'rgba', '-s', '320x180', '-i', '-', '-frames:v', '1', ...args];
      execFileSync('ffmpeg', [...options, '-update', '1', file], { input });
      const back = execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-f', 'rawvideo', '-pix_fmt', 'rgba', '-']);
      await choose(page, [{ name, mimeType: '', buffer: await readFile(file) }]);
      await rm(folder, { recursive: true });
      await page.getByRole('dialog').getByRole('button', { name: 'Bring in 1 picture' }).click();
      await untilKept(page);
      const digest = (await projectOnServer(app.url, projectId)).shots[0]?.levels[0]?.drawings[0]?.picture;
      canonicalisePixels(back);
      expect(digest).toBe(await digestOfPixels(320, 180, back));
    });
});
