import { rm } from 'node:fs/promises';
import { makeProject } from '../e2e/projects';
import { newDataFolder, startServer } from '../e2e/server';
import type { Size } from '../src/core/document/model';
import { openBrowser } from './browser';
import { print } from './figure';

const RATE = 24;

/** Plays a film of four levels on twos in Check, and prints how many of its frames were late. */
async function play(name: string, size: Size, seconds: number): Promise<void> {
  const folder = await newDataFolder();
  const server = await startServer(folder);
  const browser = await openBrowser();
  try {
    const film = { title: 'Played', rate: { num: RATE, den: 1 }, size, frames: (seconds + 2) * RATE };
    const projectId = await makeProject(server.url, film, { drawings: 48, hold: 2, levels: 4 });
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(`${server.url}/projects/${projectId}/check`);
    await page.getByRole('grid').waitFor();
    await page.keyboard.press('Space');
    await page.waitForFunction(
      (frame) => Number(document.querySelector('[data-testid="frame-now"]')?.textContent) >= frame,
      seconds * RATE,
      {
        timeout: 240_000,
      },
    );
    await page.keyboard.press('Space');
    const words = (await page.getByTestId('late').textContent()) ?? '';
    const [late = Number.NaN, ticks = Number.NaN] = (/^(\d+) of (\d+)/.exec(words) ?? []).slice(1).map(Number);
    print({ name, value: late, unit: 'frames', against: ticks });
  } finally {
    await browser.close();
    await server.kill('SIGTERM');
    await rm(folder, { recursive: true, force: true });
  }
}

await play('play.late', { width: 1280, height: 720 }, 20);
await play('play.late.1080', { width: 1920, height: 1080 }, 60);
