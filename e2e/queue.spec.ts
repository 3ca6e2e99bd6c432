import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { BlobReader, ZipReader } from '@zip.js/zip.js';
import { expect, openStage, test } from './fixtures';
import { makeProject } from './projects';

const LONG = { title: 'Queue', rate: { num: 24, den: 1 }, size: { width: 960, height: 540 }, frames: 480 };

const queueOf = (page: Page) => page.getByRole('region', { name: 'Handing over' });
const jobs = (page: Page) => queueOf(page).getByRole('listitem');

/** Asks for a range. */
async function ask(page: Page, from: number, to: number): Promise<void> {
  await page.getByLabel('From frame').fill(String(from));
  await page.getByLabel('To frame').fill(String(to));
  await page.getByRole('button', { name: `Hand over ${to - from + 1} frames` }).click();
}

test('handovers wait for one another, are moved, held, taken out and stopped, and go on elsewhere and after a reload', async ({
  page,
  app,
}) => {
  test.setTimeout(120_000);
  const projectId = await makeProject(app.url, LONG, { drawings: 40, hold: 1 });
  await openStage(page, app.url, projectId, 'hand-over');
  const saved: string[] = [];
  page.on('download', (download) => saved.push(download.suggestedFilename()));
  await ask(page, 1, 480);
  await ask(page, 1, 4);
  await ask(page, 1, 5);
  await ask(page, 1, 6);
  await expect(jobs(page)).toHaveCount(4);
  // Asked for twice while it waits, it is made once.
  await page.getByRole('button', { name: 'Hand over 6 frames' }).click();
  await expect(page.getByText('That is in the queue already.')).toBeVisible();
  await expect(jobs(page)).toHaveCount(4);
  await page.getByRole('button', { name: 'Move queue_reel_1-6_24.mp4 up' }).click();
  await page.getByRole('button', { name: 'Hold queue_reel_1-4_24.mp4' }).click();
  await page.getByRole('button', { name: 'Take queue_reel_1-5_24.mp4 out' }).click();
  await expect(jobs(page)).toHaveCount(3);
  await queueOf(page).getByRole('button', { name: 'Stop' }).click();
  await expect(queueOf(page).getByText('stopped')).toBeVisible();
  // The next is made while another stage is open.
  await page.getByRole('link', { name: /^Plan/ }).click();
  await expect.poll(() => saved).toEqual(['queue_reel_1-6_24.mp4']);
  // What is held is passed over, and is still there after a reload, as is what was stopped.
  await page.getByRole('link', { name: /^Hand over/ }).click();
  await expect(page.getByTestId('verdict')).toHaveText(['agrees']);
  await page.reload();
  await expect(jobs(page)).toHaveCount(2);
  await page.getByRole('button', { name: 'Let queue_reel_1-4_24.mp4 go' }).click();
  await expect.poll(() => saved).toEqual(['queue_reel_1-6_24.mp4', 'queue_reel_1-4_24.mp4']);
  // What was being made when the page was left begins anew, whichever stage opens.
  await page.getByRole('button', { name: 'Hand queue_reel_24.mp4 over again' }).click();
  await expect(page.getByRole('progressbar', { name: 'Handover' })).toBeVisible();
  page.once('dialog', (dialog) => void dialog.accept());
  await openStage(page, app.url, projectId, 'plan');
  await expect.poll(() => saved.length, { timeout: 90_000 }).toBe(3);
  expect(saved[2]).toBe('queue_reel_24.mp4');
});

test('pictures that were being written when the page was left go on where they were', async ({ page, app }) => {
  test.setTimeout(120_000);
  const projectId = await makeProject(app.url, { ...LONG, frames: 120, size: { width: 640, height: 360 } }, { drawings: 120, hold: 1 });
  await openStage(page, app.url, projectId, 'hand-over');
  await page.getByRole('radio', { name: 'Without' }).click();
  await page.getByRole('radio', { name: 'PNG', exact: true }).first().click();
  // A picture of 16 bits is packed anew: those of 8 leave as they are stored, and all would be finished before the page is left.
  await page.getByRole('radio', { name: '16 bit' }).click();
  await page.getByRole('button', { name: 'Hand over 120 frames' }).click();
  // Some dozen are finished.
  await expect(queueOf(page).getByText(/writing frames, ([2-9]\d|1\d\d) pictures made/)).toBeVisible({ timeout: 60_000 });
  page.once('dialog', (dialog) => void dialog.accept());
  const download = page.waitForEvent('download', { timeout: 90_000 });
  await openStage(page, app.url, projectId, 'hand-over');
  await expect(queueOf(page).getByText(/goes on where it was/)).toBeVisible();
  const file = await (await download).path();
  const receipt = page.getByRole('article').first();
  await expect(receipt.getByTestId('verdict')).toHaveText('agrees');
  const made = Number(/(\d+) pictures made/.exec((await receipt.textContent()) ?? '')?.[1]);
  expect(made).toBeGreaterThan(0);
  expect(made).toBeLessThanOrEqual(100);
  const entries = await new ZipReader(new BlobReader(new Blob([await readFile(file)]))).getEntries();
  expect(entries.filter(({ directory }) => !directory)).toHaveLength(120);
  // Nothing finished is kept once the job is over.
  const left = await page.evaluate(async () => {
    const folder = await (await navigator.storage.getDirectory()).getDirectoryHandle('handover-pictures', { create: true });
    const names: string[] = [];
    for await (const name of folder.keys()) names.push(name);
    return names;
  });
  expect(left).toEqual([]);
});

test('a handover that fails says why, and the queue goes on', async ({ page, app }) => {
  const projectId = await makeProject(app.url, { ...LONG, size: { width: 320, height: 180 }, frames: 24 }, { drawings: 12, hold: 2 });
  await openStage(page, app.url, projectId, 'hand-over');
  await page.addInitScript(() => {
    let calls = 0;
    Object.defineProperty(window, 'showDirectoryPicker', {
      value: async () => {
        const folder = await (await navigator.storage.getDirectory()).getDirectoryHandle(`chosen-${calls++}`, { create: true });
        if (calls === 1) await folder.getFileHandle('queue_reel.0003.png', { create: true });
        return folder;
      },
    });
  });
  await page.reload();
  await page.getByRole('radio', { name: 'PNG', exact: true }).click();
  await page.getByRole('radio', { name: 'Into a folder' }).click();
  await page.getByRole('button', { name: 'Hand over 24 frames' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'holds queue_reel.0003.png already. Nothing was written' })).toBeVisible();
  await page.getByRole('radio', { name: 'In one ZIP' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Hand over 24 frames' }).click();
  expect((await download).suggestedFilename()).toBe('queue_reel.zip');
  await expect(page.getByTestId('verdict')).toHaveText(['agrees']);
  // What failed is still there, and can be taken out.
  await page.getByRole('button', { name: 'Take queue_reel.####.png out' }).click();
  await expect(queueOf(page)).toHaveCount(0);
});
