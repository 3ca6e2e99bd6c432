/*
 * How long others wait while large files are brought in: a page asks for what has changed, again and again, first
 * with nobody else there and then beside a twenty-minute recording and pictures of 64 million pixels.
 */
import { readFileSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import sharp from 'sharp';
import { emptyProject } from '../e2e/projects';
import { newDataFolder, type Running, startServer } from '../e2e/server';
import { print, quantile } from './figure';

const FILM = { title: 'Others', rate: { num: 24, den: 1 }, size: { width: 1280, height: 720 }, frames: 24 };
const RECORDING_BYTES = 230_000_000;

/** A WAV of twenty minutes of stereo at 48,000 a second, 16 bit: its header and silence. */
function recording(): Uint8Array {
  const file = Buffer.alloc(RECORDING_BYTES);
  file.write('RIFF', 0, 'latin1');
  file.writeUInt32LE(RECORDING_BYTES - 8, 4);
  file.write('WAVEfmt ', 8, 'latin1');
  file.writeUInt32LE(16, 16);
  file.writeUInt16LE(1, 20);
  file.writeUInt16LE(2, 22);
  file.writeUInt32LE(48_000, 24);
  file.writeUInt32LE(192_000, 28);
  file.writeUInt16LE(4, 32);
  file.writeUInt16LE(16, 34);
  file.write('data', 36, 'latin1');
  file.writeUInt32LE(RECORDING_BYTES - 44, 40);
  return file;
}

/** Milliseconds each answer took while work went on; or for two seconds without any. */
async function waits(server: Running, projectId: string, work: Promise<unknown> | null): Promise<number[]> {
  let going = true;
  void (work ?? new Promise((resolve) => setTimeout(resolve, 2000))).finally(() => {
    going = false;
  });
  const milliseconds: number[] = [];
  while (going) {
    const started = performance.now();
    await (await fetch(`${server.url}/api/projects/${projectId}/steps?since=0`)).text();
    milliseconds.push(performance.now() - started);
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
  return milliseconds;
}

const residentMebibytes = (server: Running) => {
  const pages = Number(readFileSync(`/proc/${server.process.pid}/statm`, 'utf8').split(' ')[1]);
  return (pages * 4096) / 1024 / 1024;
};

const folder = await newDataFolder();
const server = await startServer(folder);
try {
  const id = await emptyProject(server.url, FILM);
  const bring = async (kind: string, name: string, body: Uint8Array) => {
    const answer = await fetch(`${server.url}/api/projects/${id}/${kind}?name=${name}`, {
      method: 'POST',
      body: body as Uint8Array<ArrayBuffer>,
    });
    if (!answer.ok) throw new Error(`${name} was refused: ${await answer.text()}`);
  };
  const alone = await waits(server, id, null);
  const resting = residentMebibytes(server);
  const aloneP95 = quantile(alone, 0.95);
  const beside = (name: string, milliseconds: readonly number[]) => {
    const p95 = quantile(milliseconds, 0.95);
    print({ name: `${name}.p95`, value: p95, unit: 'ms', against: aloneP95, ratio: p95 / aloneP95 });
    print({ name: `${name}.most`, value: Math.max(...milliseconds), unit: 'ms' });
  };
  const besideRecording = await waits(server, id, bring('recordings', 'long.wav', recording()));
  beside('others.recording', besideRecording);
  const colours = ['#ff0000', '#00ff00', '#0000ff'];
  const large = await Promise.all(
    colours.map((background) =>
      sharp({ create: { width: 8000, height: 8000, channels: 4, background } })
        .png()
        .toBuffer(),
    ),
  );
  let most = 0;
  const watch = setInterval(() => {
    most = Math.max(most, residentMebibytes(server));
  }, 100);
  const besidePictures = await waits(server, id, Promise.all(large.map((png, index) => bring('bring-in', `large${index}.png`, png))));
  clearInterval(watch);
  beside('others.pictures', besidePictures);
  print({ name: 'bring.memory', value: most - resting, unit: 'MiB beside the resting server' });
} finally {
  await server.kill('SIGTERM');
  await rm(folder, { recursive: true, force: true });
}
