import { execFileSync } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { newDataFolder, type Running, startServer } from '../e2e/server';
import { postgresPrograms, startPostgres } from '../src/testing/postgres';
import { promised, wholeFrom } from './figure';
import { Maker, type Sent } from './maker';

/*
 * What befalls a store: the disk is full, the folder can't be written to, the clock is set back, the database is killed and started
 * again under load. Nothing that was acknowledged is lost, and whoever makes something meanwhile is told in a sentence.
 */

const STEPS = wholeFrom('TRUST_STEPS', 200);
const KILLS = wholeFrom('TRUST_DATABASE_KILLS', 20);
const NOISE = { width: 640, height: 360 };
const PAUSE_MILLISECONDS = 100;

const pause = (milliseconds = PAUSE_MILLISECONDS) => new Promise((resolve) => setTimeout(resolve, milliseconds));

/** A file system of so many MiB in memory; null where none can be mounted, as without the rights. */
async function smallDisk(mebibytes: number): Promise<string | null> {
  const folder = await mkdtemp(path.join(tmpdir(), 'lime-tick-disk-'));
  try {
    execFileSync('mount', ['-t', 'tmpfs', '-o', `size=${mebibytes}m`, 'tmpfs', folder], { stdio: 'ignore' });
    return folder;
  } catch {
    return null;
  }
}

const remount = (folder: string, how: string) => execFileSync('mount', ['-o', `remount,${how}`, folder]);

/** How sendings ended: how many each way, how many were refused without a sentence or by a server that failed at them, and the first sentence. */
class Tally {
  accepted = 0;
  refused = 0;
  unanswered = 0;
  wordless = 0;
  failed = 0;
  said: string | null = null;

  take(sent: Sent): Sent['kind'] {
    if (sent.kind === 'accepted') this.accepted++;
    else if (sent.kind === 'unanswered') this.unanswered++;
    else {
      this.refused++;
      if (sent.hasFailed) this.failed++;
      if (sent.sentence === '') this.wordless++;
      else this.said ??= sent.sentence;
    }
    return sent.kind;
  }
}

/** Sends until one is accepted; false when that takes too long. */
async function goesOn(maker: Maker, url: string, tally: Tally): Promise<boolean> {
  for (let tries = 0; tries < 100; tries++) {
    if (tally.take(await maker.send(url)) === 'accepted') return true;
    await pause(300);
  }
  return false;
}

/** Held against what was acknowledged, and printed; `isWell` is whether work went on afterwards. */
async function tell(figure: string, maker: Maker, { url }: Running, tally: Tally, isWell: boolean): Promise<void> {
  const lost = await maker.lostOn(url);
  promised({
    figure,
    tried: maker.acknowledged.length,
    broken: lost.steps + lost.pictures + tally.wordless + tally.failed + (isWell ? 0 : 1),
    lostSteps: lost.steps,
    lostPictures: lost.pictures,
    refused: tally.refused,
    withoutSentence: tally.wordless,
    failed: tally.failed,
    unanswered: tally.unanswered,
    workGoesOn: isWell,
    said: tally.said,
  });
}

/** The disk fills up; then there is room again, and the same server goes on, and a new one. */
async function fullDisk(): Promise<void> {
  const folder = await smallDisk(160);
  if (!folder) return promised({ figure: 'harm.fullDisk', tried: 0, broken: 0, said: 'no disk of its own can be mounted here' });
  let server = await startServer(folder);
  const maker = await Maker.on(server.url, NOISE);
  const tally = new Tally();
  for (let sent = 0; sent < 4 * STEPS && tally.refused + tally.unanswered < 20; sent++) tally.take(await maker.send(server.url));
  remount(folder, 'size=400m');
  let isWell = await goesOn(maker, server.url, tally);
  await server.kill('SIGTERM');
  server = await startServer(folder);
  await maker.catchUp(server.url);
  isWell = (await goesOn(maker, server.url, tally)) && isWell && tally.refused > 0;
  await tell('harm.fullDisk', maker, server, tally, isWell);
  await server.kill('SIGTERM');
  execFileSync('umount', [folder]);
}

/** The folder can't be written to for a while. */
async function readOnly(): Promise<void> {
  const folder = await smallDisk(400);
  if (!folder) return promised({ figure: 'harm.readOnly', tried: 0, broken: 0, said: 'no disk of its own can be mounted here' });
  let server = await startServer(folder);
  const maker = await Maker.on(server.url);
  const tally = new Tally();
  for (let sent = 0; sent < STEPS; sent++) tally.take(await maker.send(server.url));
  await server.kill('SIGKILL');
  try {
    remount(folder, 'ro');
    const refusedToStart = await startServer(folder).then(
      (running) => running,
      (error: unknown) => String(error),
    );
    if (typeof refusedToStart !== 'string') {
      tally.take(await maker.send(refusedToStart.url));
      await refusedToStart.kill('SIGKILL');
    } else tally.said ??= refusedToStart.slice(0, 400);
  } finally {
    remount(folder, 'rw');
  }
  server = await startServer(folder);
  await maker.catchUp(server.url);
  await tell('harm.readOnly', maker, server, tally, (await goesOn(maker, server.url, tally)) && tally.said !== null);
  await server.kill('SIGTERM');
  execFileSync('umount', [folder]);
}

/** The clock is set back by a day in the middle of work. */
async function clockSetBack(): Promise<void> {
  const folder = await newDataFolder();
  const loaded = `--import ${path.resolve('trust/clockSetBack.mjs')}`;
  let server = await startServer(folder, undefined, { NODE_OPTIONS: loaded });
  const maker = await Maker.on(server.url);
  const tally = new Tally();
  const until = performance.now() + 16_000;
  while (performance.now() < until) tally.take(await maker.send(server.url));
  const past = await fetch(`${server.url}/api/projects/${maker.projectId}/past`);
  await server.kill('SIGTERM');
  server = await startServer(folder);
  await maker.catchUp(server.url);
  const isWell = (await goesOn(maker, server.url, tally)) && past.ok && tally.refused === 0;
  await tell('harm.clockSetBack', maker, server, tally, isWell);
  await server.kill('SIGTERM');
  await rm(folder, { recursive: true, force: true });
}

/** The database is killed and started again while somebody works. */
async function databaseKilled(): Promise<void> {
  const programs = postgresPrograms();
  if (!programs) return promised({ figure: 'harm.databaseKilled', tried: 0, broken: 0, said: 'PostgreSQL is not installed here' });
  const postgres = await startPostgres(programs);
  const server = await startServer(await newDataFolder(), undefined, { DATABASE_URL: postgres.url });
  const maker = await Maker.on(server.url);
  const tally = new Tally();
  let isOver = false;
  const work = (async () => {
    while (!isOver) if (tally.take(await maker.send(server.url)) !== 'accepted') await pause();
  })();
  for (let kill = 0; kill < KILLS; kill++) {
    await pause(500 + Math.random() * 1000);
    postgres.stop();
    await pause(300);
    postgres.start();
  }
  isOver = true;
  await work;
  await tell('harm.databaseKilled', maker, server, tally, await goesOn(maker, server.url, tally));
  await server.kill('SIGTERM');
  postgres.stop();
}

await fullDisk();
await readOnly();
await clockSetBack();
await databaseKilled();
process.exit();
