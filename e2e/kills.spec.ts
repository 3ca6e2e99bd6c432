import type { Page } from '@playwright/test';
import sharp from 'sharp';
import { expect, openStage, stroke, test, untilKept, untilLaid } from './fixtures';
import { emptyProject, projectOnServer } from './projects';
import { freePort, startServer } from './server';
import { copiedDataFolder } from './templates';

/** How often the tab dies between two strokes, and every how many times the server dies with it: 100 and 1 take many minutes more. */
const KILLS = Number(process.env.LIME_TICK_KILLS ?? 4);
const SERVER_DIES_EVERY = Number(process.env.LIME_TICK_SERVER_DIES_EVERY ?? 2);
const ACROSS = 10;

/** Where the stroke of a number lies, in parts of the paper: its middle. Ten rows of ten have room. */
const placeOf = (number: number) => [0.06 + 0.098 * (number % ACROSS), 0.08 + 0.09 * Math.floor(number / ACROSS)] as const;

async function crash(page: Page): Promise<void> {
  const devtools = await page.context().newCDPSession(page);
  // The tab's process is gone before it can answer.
  void devtools.send('Page.crash').catch(() => undefined);
  await page.waitForEvent('crash');
  await page.close();
}

test(`a tab killed ${KILLS} times right after a stroke, and the server with it, loses none`, async ({ context }) => {
  test.setTimeout(600_000);
  const folder = await copiedDataFolder();
  const port = await freePort();
  let server = await startServer(folder, port);
  const size = { width: 640, height: 360 };
  const id = await emptyProject(server.url, { title: 'Killed', rate: { num: 24, den: 1 }, size, frames: 12 });
  for (let number = 0; number < KILLS; number++) {
    const page = await context.newPage();
    await openStage(page, server.url, id, 'draw');
    await untilLaid(page);
    // Ten pixels long: each lies in a place of its own, so that they can be counted.
    const [x, y] = placeOf(number);
    await stroke(page, [
      [x - 0.012, y],
      [x + 0.012, y],
    ]);
    if (number % SERVER_DIES_EVERY === SERVER_DIES_EVERY - 1) {
      await server.kill('SIGKILL');
      await crash(page);
      server = await startServer(folder, port);
    } else await crash(page);
  }
  const page = await context.newPage();
  await openStage(page, server.url, id, 'draw');
  await untilLaid(page);
  await untilKept(page);
  const project = await projectOnServer(server.url, id);
  const drawings = project.shots[0]?.levels[0]?.drawings ?? [];
  expect(drawings).toHaveLength(1);
  const answer = await fetch(`${server.url}/api/pictures?digests=${drawings[0]?.picture}`);
  const png = Buffer.from(await answer.arrayBuffer()).subarray(4);
  const { data } = await sharp(png).raw().toBuffer({ resolveWithObject: true });
  const lost = Array.from({ length: KILLS }, (_, number) => number).filter((number) => {
    const [x, y] = placeOf(number);
    return (data[(Math.round(y * size.height) * size.width + Math.round(x * size.width)) * 4 + 3] ?? 0) < 128;
  });
  expect(lost).toEqual([]);
  await server.kill('SIGTERM');
});
