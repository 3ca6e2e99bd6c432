import { rm } from 'node:fs/promises';
import { makeProject } from '../e2e/projects';
import { newDataFolder, startServer } from '../e2e/server';
import { print, quantile } from './figure';

/* The shelf with 300 projects against one with 10, and a step that is sent meanwhile: it waits for no cover. */

const FEW = 10;
const MANY = Number(process.env.PROJECTS ?? 300);
const ROUNDS = Number(process.env.ROUNDS ?? 5);
const FILM = { title: 'On the shelf', rate: { num: 24, den: 1 }, size: { width: 320, height: 180 }, frames: 96 };

const folder = await newDataFolder();
const server = await startServer(folder);
const median = async (): Promise<number> => {
  const times: number[] = [];
  for (let round = 0; round < ROUNDS; round++) {
    const from = performance.now();
    const answer = (await (await fetch(`${server.url}/api/projects`)).json()) as { projects: unknown[] };
    times.push(performance.now() - from);
    if (answer.projects.length < FEW) throw new Error('The shelf has too few projects.');
  }
  return quantile(times, 0.5);
};
try {
  for (let project = 0; project < FEW; project++) await makeProject(server.url, FILM, { drawings: 24, hold: 4 });
  const few = await median();
  for (let project = FEW; project < MANY; project++) await makeProject(server.url, FILM, { drawings: 24, hold: 4 });
  const many = await median();
  print({ name: 'shelf.growth', value: many, unit: 'ms', against: few, ratio: many / few });
} finally {
  await server.kill('SIGTERM');
  await rm(folder, { recursive: true, force: true });
}
