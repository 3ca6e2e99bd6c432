import { rm } from 'node:fs/promises';
import { firstLoad, shelfUsable, stageUsable } from '../e2e/firstLoad';
import { newDataFolder, startServer } from '../e2e/server';
import { openBrowser } from './browser';
import { print, quantile } from './figure';

/*
 * The programs that come with the first load of the shelf and of each stage, packed; and how long a stage takes until it can be used
 * in a browser that has them already. Medians of three runs.
 */
const ROUNDS = Number(process.env.ROUNDS ?? 3);
const folder = await newDataFolder();
const server = await startServer(folder);
const browser = await openBrowser();
try {
  await fetch(`${server.url}/api/demo`, { method: 'POST' });
  const weigh = async (path: string, usable: typeof shelfUsable) => {
    const rounds: number[] = [];
    for (let round = 0; round < ROUNDS; round++) {
      const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
      const { scriptKib } = await firstLoad(await context.newPage(), `${server.url}${path}`, usable);
      rounds.push(await scriptKib());
      await context.close();
    }
    return quantile(rounds, 0.5);
  };
  print({ name: 'load.shelf', value: await weigh('/', shelfUsable), unit: 'KiB' });
  for (const stage of ['plan', 'draw', 'check', 'assemble', 'hand-over'])
    print({ name: `load.stage.${stage}`, value: await weigh(`/projects/washday/${stage}`, stageUsable), unit: 'KiB' });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const usable: number[] = [];
  for (let round = 0; round <= ROUNDS; round++)
    usable.push((await firstLoad(page, `${server.url}/projects/washday/plan`, stageUsable)).milliseconds);
  print({ name: 'load.usable', value: quantile(usable.slice(1), 0.5), unit: 'ms' });
} finally {
  await browser.close();
  await server.kill('SIGTERM');
  await rm(folder, { recursive: true, force: true });
}
