import { execFileSync } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Page } from '@playwright/test';
import { BlobReader, Uint8ArrayWriter, ZipReader } from '@zip.js/zip.js';
import { decodeApng } from 'fast-png';
import sharp from 'sharp';
import { mustBeDone } from '../src/core/outcome';
import { type LoopOptions, microsecondsIn, START_LOOP } from '../src/core/output/loop';
import { type RenderPlan, renderPlanOf } from '../src/core/render/renderPlan';
import type { HandoverEnd } from '../src/workers/protocol';
import { expect, openStage, test } from './fixtures';
import { ownWorker } from './ownWorker';
import { makeProject, pictureFile, projectOnServer, sendSteps } from './projects';

/* Loops as a person makes them, read by an image library and by the browser's own decoder. */

const SIZE = { width: 320, height: 180 };
const RATE = { num: 24, den: 1 };
/** 24 frames on twos: 12 pictures, 1 s. */
const FILM = { title: 'Loop', rate: RATE, size: SIZE, frames: 24 };

/** Hands over what is chosen, once its exact size is said, as the very file that was made for that; gives it, with that size and its receipt. */
async function handOver(page: Page): Promise<{ bytes: Buffer; said: number; receipt: string }> {
  const size = page.getByRole('region', { name: 'The loop' }).getByText(/bytes\)/);
  await expect(size).toBeVisible();
  const said = Number(/\(([\d,]+) bytes/.exec((await size.textContent()) ?? '')?.[1]?.replaceAll(',', ''));
  return { ...(await handOverNow(page)), said };
}

/** Hands over what is chosen, whether it was made before or not. */
async function handOverNow(page: Page): Promise<{ bytes: Buffer; receipt: string }> {
  const receipts = await page.getByRole('article').count();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: /^Hand over \d/ }).click();
  const bytes = await readFile(await (await download).path());
  await expect(page.getByRole('article')).toHaveCount(receipts + 1);
  const receipt = page.getByRole('article').first();
  expect(await receipt.getByTestId('verdict').textContent(), (await receipt.textContent()) ?? '').toBe('agrees');
  await expect(receipt).not.toContainText(/(?<!\d)0 pictures made/);
  // It is kept on the server, and not only here.
  const id = /projects\/([^/]+)\//.exec(page.url())?.[1] ?? '';
  const { origin } = new URL(page.url());
  const kept = async () => ((await (await fetch(`${origin}/api/projects/${id}`)).json()) as { receipts: unknown[] }).receipts.length;
  await expect.poll(kept).toBe(receipts + 1);
  return { bytes, receipt: (await receipt.textContent()) ?? '' };
}

/** How long the browser's decoder shows each picture, in microseconds. */
const shownByBrowser = (page: Page, bytes: Buffer, type: string): Promise<(number | null)[]> =>
  page.evaluate(
    async ([base64, kind]) => {
      const data = Uint8Array.from(atob(base64), (letter) => letter.charCodeAt(0));
      const decoder = new ImageDecoder({ data, type: kind });
      await decoder.tracks.ready;
      await decoder.completed;
      const microseconds: (number | null)[] = [];
      for (let frameIndex = 0; frameIndex < (decoder.tracks.selectedTrack?.frameCount ?? 0); frameIndex++)
        microseconds.push((await decoder.decode({ frameIndex })).image.duration);
      return microseconds;
    },
    [bytes.toString('base64'), type] as const,
  );

/** How often small independent readers say that a loop is played, and how many pictures it has. */
async function told(bytes: Buffer, type: string): Promise<{ pictures: number; plays: string }> {
  const folder = await mkdtemp(path.join(tmpdir(), 'lime-tick-loop-'));
  const file = path.join(folder, 'loop');
  await writeFile(file, bytes);
  const run = (program: string, ...args: string[]) => execFileSync(program, args, { encoding: 'utf8' });
  try {
    if (type === 'image/gif') {
      const info = run('gifsicle', '--info', file);
      return { pictures: Number(/(\d+) images?/.exec(info)?.[1]), plays: /loop (forever|count \d+)/.exec(info)?.[1] ?? 'once' };
    }
    if (type === 'image/webp') {
      const info = run('webpinfo', file);
      const plays = /Loop count\s*: (\d+)/.exec(info)?.[1] ?? '';
      return { pictures: info.match(/Chunk ANMF/g)?.length ?? 0, plays: plays === '0' ? 'forever' : `count ${plays}` };
    }
    const { numberOfFrames, numberOfPlays } = decodeApng(bytes);
    return { pictures: numberOfFrames, plays: numberOfPlays === 0 ? 'forever' : `count ${numberOfPlays}` };
  } finally {
    await rm(folder, { recursive: true });
  }
}

/** The files of a ZIP. */
async function entriesOf(zip: Buffer): Promise<ReadonlyMap<string, Buffer>> {
  const files = new Map<string, Buffer>();
  for (const entry of await new ZipReader(new BlobReader(new Blob([new Uint8Array(zip)]))).getEntries())
    if (!entry.directory) files.set(entry.filename, Buffer.from(await entry.getData(new Uint8ArrayWriter())));
  return files;
}

const sumOf = (values: readonly (number | null)[]): number => values.reduce((sum: number, value) => sum + (value ?? 0), 0);

test('a GIF, an animated PNG and an animated WebP have the size that is said before, every picture and times that add up', async ({
  page,
  app,
}) => {
  const projectId = await makeProject(app.url, FILM, { drawings: 12, hold: 2 });
  await openStage(page, app.url, projectId, 'hand-over');
  const kinds = [
    { name: 'GIF', type: 'image/gif', twos: [80_000, 90_000] },
    // A browser counts in whole milliseconds; the fractions themselves are read elsewhere.
    { name: 'APNG', type: 'image/png', twos: [83_000] },
    { name: 'Animated WebP', type: 'image/webp', twos: [83_000, 84_000] },
  ];
  for (const { name, type, twos } of kinds) {
    await page.getByRole('radio', { name, exact: true }).click();
    const { bytes, said, receipt } = await handOver(page);
    expect(bytes.byteLength, name).toBe(said);
    expect(receipt, name).toContain('Agrees: 12 pictures');
    expect(await told(bytes, type), name).toEqual({ pictures: 12, plays: 'forever' });
    // Twelve pictures that are held as the sheet says are the reel's 24 frames.
    const path = page.getByRole('navigation', { name: 'Stages' });
    await expect(path, name).toContainText('24 fr counted');
    await expect(path.getByLabel('Assemble to Hand over: counts agree'), name).toBeVisible();
    const microseconds = await shownByBrowser(page, bytes, type);
    expect(microseconds, name).toHaveLength(12);
    for (const time of microseconds) expect(twos, name).toContain(time);
    if (name === 'APNG') continue;
    expect(sumOf(microseconds), name).toBe(1_000_000);
    expect(await sharp(bytes, { animated: true }).metadata(), name).toMatchObject({ pages: 12, loop: 0, width: 320, pageHeight: 180 });
  }
});

test('a loop that is handed over before its size was worked out is the same to the byte, made by several at once', async ({
  page,
  app,
}) => {
  const projectId = await makeProject(app.url, { ...FILM, frames: 60 }, { drawings: 30, hold: 2 });
  const kinds = ['GIF', 'APNG'] as const;
  for (const ground of ['With background', 'Without'])
    for (const name of kinds) {
      await openStage(page, app.url, projectId, 'hand-over');
      await page.getByRole('radio', { name: /^Shot .* alone/ }).click();
      await page.getByRole('radio', { name: ground }).click();
      await page.getByRole('radio', { name, exact: true }).click();
      // What is tried is stopped, and would begin anew once it is asked for.
      await page.getByRole('radio', { name: 'n times' }).click();
      const untried = await handOverNow(page);
      const tried = await handOver(page);
      expect(tried.bytes.equals(untried.bytes), `${name}, ${ground}`).toBe(true);
      expect(tried.said, name).toBe(untried.bytes.byteLength);
      expect(tried.receipt.match(/\d+ pictures made/)?.[0], name).toBe('30 pictures made');
      expect(untried.receipt.match(/\d+ pictures made/)?.[0], name).toMatch(/^(30|60) pictures made$/);
    }
});

test('a loop without background is transparent, played so often, with a time by hand that can be put on the sheet', async ({
  page,
  app,
}) => {
  const projectId = await makeProject(app.url, FILM, { drawings: 12, hold: 2 });
  await openStage(page, app.url, projectId, 'hand-over');
  await page.getByRole('radio', { name: /^Shot .* alone/ }).click();
  await page.getByRole('radio', { name: 'GIF', exact: true }).click();
  await page.getByRole('radio', { name: 'Without' }).click();
  await page.getByRole('radio', { name: 'n times' }).click();
  await page.getByRole('textbox', { name: 'Times', exact: true }).fill('3');
  await page.keyboard.press('Enter');
  await page.getByLabel(/^Time by hand/).fill('50/100');
  await page.keyboard.press('Enter');
  await expect(page.getByText('lasts 0.500 s in the file')).toBeVisible();
  const { bytes } = await handOver(page);
  // Played three times is played again twice, as a GIF says it.
  expect(await told(bytes, 'image/gif')).toEqual({ pictures: 12, plays: 'count 2' });
  const microseconds = await shownByBrowser(page, bytes, 'image/gif');
  expect(microseconds[0]).toBe(500_000);
  const { data } = await sharp(bytes, { animated: true, pages: 1 }).raw().toBuffer({ resolveWithObject: true });
  expect(data[3]).toBe(0);

  await expect(page.getByText(/no picture begins more than 0\.0 ms from its time/)).toBeVisible();
  await page.getByRole('button', { name: 'Put the times on the sheet' }).click();
  await expect(page.getByText('12 pictures').first()).toBeVisible();
  // Half a second is 12 frames: the first drawing is held for them, and the loop is 34 frames long.
  await expect(page.getByRole('region', { name: 'The loop' }).getByText('Picture 1 of 12: frames 1–12')).toBeVisible();
});

test('an animated WebP without background agrees, also where a picture hides all that lies under it', async ({ page, app }) => {
  const projectId = await makeProject(app.url, FILM, { drawings: 12, hold: 2 });
  const sky = await pictureFile(
    `<svg xmlns="http://www.w3.org/2000/svg" width="320" height="180"><rect width="320" height="180" fill="#7fb2d9"/></svg>`,
    SIZE,
  );
  const shot = (await projectOnServer(app.url, projectId)).shots[0];
  const level = shot?.levels[0];
  if (!shot || !level) throw new Error('The project has a shot with a level.');
  const at = { shotId: shot.id, levelId: level.id, drawingId: 'd0-5' };
  await sendSteps(app.url, projectId, [{ type: 'setPicture', ...at, picture: sky.digest }], [sky]);
  await openStage(page, app.url, projectId, 'hand-over');
  await page.getByRole('radio', { name: 'Animated WebP', exact: true }).click();
  await page.getByRole('radio', { name: 'Without' }).click();
  const { bytes, receipt } = await handOver(page);
  expect(receipt).toContain('Agrees: 12 pictures');
  const { data } = await sharp(bytes, { page: 5 }).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  expect([...data.subarray(0, 4)]).toEqual([0x7f, 0xb2, 0xd9, 255]);
});

test('a GIF is brought below a size, says how, and opens in a page; one that grew past it is refused', async ({ page, app }) => {
  const projectId = await makeProject(app.url, FILM, { drawings: 12, hold: 2 });
  await openStage(page, app.url, projectId, 'hand-over');
  await page.getByRole('radio', { name: 'GIF', exact: true }).click();
  await page.getByRole('radio', { name: 'Diffused' }).click();
  await expect(page.getByRole('region', { name: 'The loop' }).getByText(/bytes\)/)).toBeVisible();
  await page.getByLabel('Stay below, MB').fill('0.012');
  await page.getByRole('button', { name: 'Fit' }).click();
  await expect(page.getByText(/with \d+ colours, no dither, \d+ × \d+/)).toBeVisible({ timeout: 60_000 });
  const { bytes, said } = await handOver(page);
  expect(bytes.byteLength).toBe(said);
  expect(bytes.byteLength).toBeLessThanOrEqual(12_000);
  const own = await page.context().newPage();
  await own.setContent(`<img alt="" src="data:image/gif;base64,${bytes.toString('base64')}">`);
  expect(await own.evaluate(() => document.images[0]?.decode().then(() => document.images[0]?.naturalWidth))).toBeGreaterThan(0);
  await own.close();

  // The same limit at full size and with all colours can't be kept.
  await page.getByRole('radio', { name: 'Full' }).click();
  await page.getByLabel('Colours, 2 to 256').fill('256');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: /^Hand over \d/ }).click();
  await expect(page.getByText(/was to stay below 12 kB/).first()).toBeVisible();
});

test('a small page plays by its own times with nothing to fetch; a strip holds every picture once, with where and how long', async ({
  page,
  app,
}) => {
  // Six drawings on twos, round twice: each is shown two times and is there once.
  const projectId = await makeProject(app.url, FILM, { drawings: 6, hold: 2 });
  await openStage(page, app.url, projectId, 'hand-over');
  await page.getByRole('radio', { name: 'Small page', exact: true }).click();
  const made = await handOver(page);
  expect(made.bytes.byteLength).toBe(made.said);
  const html = made.bytes.toString('utf8');
  expect(html.match(/data:image\/png;base64,/g)).toHaveLength(6);
  expect(html).not.toMatch(/https?:/);
  const own = await page.context().newPage();
  await own.setContent(html);
  await expect(own.getByRole('status')).toHaveText(/^Picture \d+ of 12$/);
  await own.getByRole('button', { name: 'Stop' }).click();
  const before = await own.getByRole('status').textContent();
  await own.keyboard.press('ArrowRight');
  await expect(own.getByRole('status')).not.toHaveText(before ?? '');
  await own.getByRole('button', { name: 'Play' }).click();
  await expect(own.getByRole('button', { name: 'Stop' })).toBeVisible();
  await own.close();

  await page.getByRole('radio', { name: 'Strip', exact: true }).click();
  const strip = await handOver(page);
  const files = await entriesOf(strip.bytes);
  const list = JSON.parse(files.get('loop_reel_24.json')?.toString('utf8') ?? '{}') as {
    image: string;
    pictures: { x: number; y: number; width: number; height: number }[];
    shown: { picture: number; microseconds: number }[];
  };
  expect(list.pictures).toHaveLength(6);
  expect(list.shown.map(({ picture }) => picture)).toEqual([0, 1, 2, 3, 4, 5, 0, 1, 2, 3, 4, 5]);
  expect(list.shown.reduce((sum, { microseconds }) => sum + microseconds, 0)).toBe(1_000_000);
  // Cut out by an image library, the pictures are those the page holds.
  const pngs = [...html.matchAll(/data:image\/png;base64,([^"]+)"/g)].map(([, base64 = '']) => Buffer.from(base64, 'base64'));
  for (const [place, { x, y, width, height }] of list.pictures.entries()) {
    const cut = sharp(files.get(list.image)).extract({ left: x, top: y, width, height });
    expect(
      Buffer.compare(await cut.removeAlpha().raw().toBuffer(), await sharp(pngs[place]).removeAlpha().raw().toBuffer()),
      `${place}`,
    ).toBe(0);
  }
});

test('a loop of one pixel, of 3,000 pictures, of pictures shorter than browsers show and of equal ones is what it is asked for', async ({
  page,
  app,
}) => {
  const projectId = await makeProject(app.url, FILM, { drawings: 12, hold: 2 });
  const project = await projectOnServer(app.url, projectId);
  const plan = mustBeDone(renderPlanOf(project, { shotId: null, fromFrame: 0, toFrame: 23, withBackground: true }));
  const run = await ownWorker<{ end: HandoverEnd; left: string[]; phases: string[] }>(page, 'e2e/spoiled/worker.ts');
  await openStage(page, app.url, projectId, 'hand-over');
  const small = { ...plan, size: { width: 32, height: 18 }, composedSize: SIZE };
  const alternating = (frames: number): RenderPlan => ({
    ...small,
    frames,
    runs: Array.from({ length: frames }, (_, index) => ({ stack: index % 12, startFrame: index, frames: 1 })),
  });
  const [one, two] = plan.stacks;
  if (!one || !two) throw new Error('There are twelve pictures.');
  const equal: RenderPlan = {
    ...small,
    stacks: [one, { ...one, key: 'the same under another number' }],
    runs: small.runs.map((each, index) => ({ ...each, stack: index % 2 })),
  };
  const cases: { what: string; plan: RenderPlan; options?: Partial<LoopOptions>; repeats?: number }[] = [
    { what: 'one pixel', plan: { ...plan, size: { width: 1, height: 1 }, composedSize: SIZE } },
    { what: 'two colours', plan: small, options: { colours: 2, dither: 'ordered' } },
    { what: '3,000 pictures', plan: alternating(3000) },
    { what: 'shorter than browsers show', plan: { ...alternating(60), rate: { num: 60, den: 1 } } },
    { what: 'a palette for each picture', plan: small, options: { palette: 'each', colours: 16, dither: 'diffused' } },
    { what: 'equal pictures', plan: equal, repeats: 11 },
  ];
  for (const formatId of ['gif', 'apng'] as const)
    for (const each of cases) {
      const options: LoopOptions = { ...START_LOOP, ...each.options };
      const order = {
        ...{
          plan: each.plan,
          formatId,
          baseName: 'loop',
          ground: 'paper',
          owner: 'test',
          decodeWhileWriting: false,
          jobId: 'job',
          wasBegun: false,
        },
        ...{ options, names: [], lists: [] },
      };
      const { end, phases } = await run({ order, spoil: 'none', intoFolder: false });
      const what = `${formatId}, ${each.what}: ${JSON.stringify(end).slice(0, 300)}`;
      if (end.kind !== 'written') throw new Error(what);
      // A palette for all needs all their colours, and what is done before anything is written is told.
      expect(phases, what).toEqual([...(formatId === 'gif' && options.palette === 'whole' ? ['looking'] : []), 'writing', 'counting']);
      const { count } = end.result;
      expect(count.frames, what).toBe(each.plan.runs.length);
      expect(count.wrongFrames, what).toEqual([]);
      expect(count.repeatFrames.length, what).toBe(each.repeats ?? 0);
      expect(count.loop?.microseconds, what).toEqual(microsecondsIn(formatId, each.plan, options));
      if (each.what === 'shorter than browsers show' && formatId === 'gif')
        expect(count.loop?.microseconds.slice(0, 3)).toEqual([20_000, 10_000, 20_000]);
    }
});
