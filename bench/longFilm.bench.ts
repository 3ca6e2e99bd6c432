import { rm } from 'node:fs/promises';
import { makeProject, projectOnServer, sendSteps } from '../e2e/projects';
import { newDataFolder, startServer } from '../e2e/server';
import { newSound } from '../src/core/document/sound';
import { writeWav } from '../src/core/format/wav/writeWav';
import { handOver, openKeptBrowser, watchPageMemory } from './browser';
import { print, quantile } from './figure';

/*
 * A film of 10,000 frames: the memory of its page while it is written and counted; and its sound, mixed and encoded, as the time
 * that a film with sound takes longer than one without, held against how long it plays.
 */

const SIZE = { width: 1280, height: 720 };
const RATE = { num: 24, den: 1 };
const FRAMES = 10_000;
const ROUNDS = Number(process.env.ROUNDS ?? 3);
const SAMPLE_RATE = 48_000;

// Made before the server is there: its connections would be given up meanwhile.
const seconds = (FRAMES * RATE.den) / RATE.num;
const samples = Math.round(seconds * SAMPLE_RATE);
const channel = Float32Array.from({ length: samples }, (_, sample) => 0.4 * Math.sin(sample / 20) * Math.sin(sample / 3000));
const body = new Uint8Array(writeWav([channel, channel], SAMPLE_RATE, 'int16'));

const folder = await newDataFolder();
const server = await startServer(folder);
const browser = await openKeptBrowser();
try {
  const page = await browser.newPage();
  // The compiler names functions through a helper that a page does not have.
  await page.addInitScript('globalThis.__name = (named) => named');

  const long = await makeProject(server.url, { title: 'Long', rate: RATE, size: SIZE, frames: FRAMES }, { drawings: 2500, hold: 4 });
  const memory = watchPageMemory();
  const handed = await handOver(page, server.url, long, 'MP4');
  memory.print('handover.memory.10000');
  if (handed.verdict !== 'agrees') throw new Error(`The receipt says ${handed.verdict}.`);

  const small = { title: 'Heard', rate: RATE, size: { width: 64, height: 36 }, frames: FRAMES };
  const [silent, heard] = [
    await makeProject(server.url, small, { drawings: 1, hold: FRAMES }),
    await makeProject(server.url, small, { drawings: 1, hold: FRAMES }),
  ];
  const kept = await fetch(`${server.url}/api/projects/${heard}/recordings?name=hum.wav`, { method: 'POST', body });
  const { original } = (await kept.json()) as { original: string };
  const recording = { original, fileName: 'hum.wav', sampleRate: SAMPLE_RATE, samples, channels: 2 };
  const shotId = (await projectOnServer(server.url, heard)).shots[0]?.id ?? '';
  await sendSteps(server.url, heard, [{ type: 'addSound', shotId, sound: newSound('hum', 'Hum', recording, 0), index: 0 }]);
  const [without, withSound]: [number[], number[]] = [[], []];
  for (let round = 0; round < ROUNDS; round++) {
    without.push((await handOver(page, server.url, silent, 'MP4')).writtenSeconds);
    withSound.push((await handOver(page, server.url, heard, 'MP4')).writtenSeconds);
  }
  const taken = quantile(withSound, 0.5) - quantile(without, 0.5);
  print({ name: 'handover.sound', value: taken, unit: 's', against: seconds, ratio: seconds / taken });
} finally {
  await browser.close();
  await server.kill('SIGTERM');
  await rm(folder, { recursive: true, force: true });
}
