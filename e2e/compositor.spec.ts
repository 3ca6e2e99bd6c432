import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { BlobReader, Uint8ArrayWriter, ZipReader } from '@zip.js/zip.js';
import sharp from 'sharp';
import { BLEND_MODES, type BlendMode } from '../src/core/document/blendModes';
import type { Project } from '../src/core/document/model';
import type { Step } from '../src/core/edit/step';
import { BLENDING } from '../src/core/raster/blend';
import { canonicalisePixels } from '../src/core/raster/canonical';
import { digestOfPixels } from '../src/core/raster/digest';
import { expect, openStage, test } from './fixtures';
import { makeProject, sendSteps } from './projects';

const SIZE = { width: 64, height: 36 };
type Colour = { r: number; g: number; b: number; alpha: number };

async function flat({ r, g, b, alpha }: Colour): Promise<{ digest: string; png: Buffer }> {
  const rgba = new Uint8Array(SIZE.width * SIZE.height * 4);
  for (let index = 0; index < rgba.length; index += 4) rgba.set([r, g, b, alpha], index);
  canonicalisePixels(rgba);
  const png = await sharp(rgba, { raw: { ...SIZE, channels: 4 } })
    .png()
    .toBuffer();
  return { digest: await digestOfPixels(SIZE.width, SIZE.height, rgba), png };
}

type Layer = { colour: Colour; opacityPercent: number; blend: BlendMode };

/** A layer on an opaque backdrop: Co = B(Cb, Cs)·αs + Cb·(1 − αs) (W3C Compositing and Blending Level 1, clauses 9.1.4 and 10). */
function over({ colour, opacityPercent, blend }: Layer, backdrop: readonly number[]): number[] {
  const alpha = (colour.alpha / 255) * (opacityPercent / 100);
  return [colour.r, colour.g, colour.b].map((channel, index) => {
    const below = backdrop[index] ?? 0;
    return 255 * BLENDING[blend](below / 255, channel / 255) * alpha + below * (1 - alpha);
  });
}

/** The pixels of the first picture of a project that is handed over as a ZIP: red, green and blue. */
async function leavingPixels(page: Page, url: string, id: string): Promise<Buffer> {
  await openStage(page, url, id, 'hand-over');
  await page.getByRole('radio', { name: 'PNG', exact: true }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: /^Hand over \d+ frames?$/ }).click();
  const reader = new ZipReader(new BlobReader(new Blob([await readFile(await (await download).path())])));
  const [entry] = await reader.getEntries();
  if (!entry || entry.directory) throw new Error('The ZIP is empty.');
  const picture = sharp(await entry.getData(new Uint8ArrayWriter()));
  return picture.removeAlpha().raw().toBuffer();
}

test('levels lie over each other by the formula of the W3C specification', async ({ page, app }) => {
  const wanted = { title: 'Blend', rate: { num: 24, den: 1 }, size: SIZE, firstFrameNumber: 1, frames: 1 };
  const { id } = (await (
    await fetch(`${app.url}/api/projects`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(wanted),
    })
  ).json()) as { id: string };
  const opened = (await (await fetch(`${app.url}/api/projects/${id}`)).json()) as { project: Project };
  const shotId = opened.project.shots[0]?.id ?? '';
  const layers: Layer[] = [
    { colour: { r: 200, g: 40, b: 90, alpha: 255 }, opacityPercent: 60, blend: 'normal' },
    { colour: { r: 10, g: 220, b: 130, alpha: 128 }, opacityPercent: 100, blend: 'normal' },
    { colour: { r: 250, g: 250, b: 0, alpha: 77 }, opacityPercent: 35, blend: 'normal' },
    ...BLEND_MODES.map((blend, index) => ({
      colour: { r: (index * 53) % 256, g: (90 + index * 101) % 256, b: (200 + index * 37) % 256, alpha: index % 2 === 0 ? 255 : 180 },
      opacityPercent: 70,
      blend,
    })),
  ];
  const form = new FormData();
  const steps: Step[] = [];
  for (const [index, { colour, opacityPercent, blend }] of layers.entries()) {
    const picture = await flat(colour);
    form.set(`picture-${picture.digest}`, new Blob([new Uint8Array(picture.png)]), 'p.png');
    const drawing = { id: `d${index}`, number: '1', role: 'key' as const, picture: picture.digest };
    steps.push({
      type: 'addLevel',
      shotId,
      index: index + 1,
      level: {
        id: `l${index}`,
        name: `L${index}`,
        kind: 'animated',
        visible: true,
        locked: false,
        opacityPercent,
        blend,
        drawings: [drawing],
        exposures: [{ drawing: drawing.id, frames: 1 }],
        charts: [],
        media: null,
      },
    });
  }
  form.set('sending', JSON.stringify({ baseRevision: 0, batchId: 'blend', steps }));
  expect((await fetch(`${app.url}/api/projects/${id}/steps`, { method: 'POST', body: form })).status).toBe(200);

  const data = await leavingPixels(page, app.url, id);
  const expected = layers.reduce<number[]>((backdrop, layer) => over(layer, backdrop), [255, 255, 255]);
  for (const pixel of [0, 700, SIZE.width * SIZE.height - 1]) {
    for (let channel = 0; channel < 3; channel++)
      expect(Math.abs((data[pixel * 3 + channel] ?? 0) - (expected[channel] ?? 0))).toBeLessThanOrEqual(4);
  }
});

test('colours are held in what leaves when that is set, every other pixel as it was, and the receipt says so', async ({ page, app }) => {
  const film = { title: 'Held', rate: { num: 24, den: 1 }, size: { width: 160, height: 90 }, frames: 4 };
  const id = await makeProject(app.url, film, { drawings: 2, hold: 2 });
  const before = await leavingPixels(page, app.url, id);
  await sendSteps(app.url, id, [
    {
      type: 'setEffect',
      effectId: 'held',
      effect: { id: 'held', kind: 'holdColours', range: { from: 40, to: 200 }, inPreview: true, inHandover: true },
      index: 0,
    },
  ]);
  const held = await leavingPixels(page, app.url, id);
  expect(before.some((value) => value < 40)).toBe(true);
  expect(before.some((value) => value > 200)).toBe(true);
  expect([...held]).toEqual([...before].map((value) => Math.max(40, Math.min(200, value))));
  const receipt = page.getByRole('article').first();
  await expect(receipt.getByTestId('verdict')).toHaveText('agrees');
  await expect(receipt).toContainText('colours held within 40–200');
});
