import { randomUUID } from 'node:crypto';
import { rm } from 'node:fs/promises';
import { pictureFile, pictureSvg, projectOnServer } from '../e2e/projects';
import { freePort, newDataFolder, startServer } from '../e2e/server';
import type { Step } from '../src/core/edit/step';
import { promised, wholeFrom } from './figure';

/* The server is killed in the middle of what it does, again and again. Whatever it acknowledged is there afterwards, step and picture. */

const KILLS = wholeFrom('TRUST_KILLS', 100);
const SIZE = { width: 160, height: 90 };
const FILM = { title: 'Killed', rate: { num: 24, den: 1 }, size: SIZE, frames: 24 };
const PICTURES = 24;
/** How long one server lives, at most. */
const LONGEST_LIFE_MILLISECONDS = 700;

const folder = await newDataFolder();
const port = await freePort();
const pictures = await Promise.all(Array.from({ length: PICTURES }, (_, index) => pictureFile(pictureSvg(index, 0, SIZE), SIZE)));

let server = await startServer(folder, port);
const { id } = (await (
  await fetch(`${server.url}/api/projects`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ ...FILM, firstFrameNumber: 1 }),
  })
).json()) as { id: string };
const first = (await projectOnServer(server.url, id)).shots[0];
const on = { shotId: first?.id ?? '', levelId: first?.levels[0]?.id ?? '' };

let acknowledged = { revision: 0, drawings: 0, last: '' };
let made = 0;
let lost = 0;
let sent = 0;

/** Adds drawings one after another until the server is gone. */
async function work(url: string): Promise<void> {
  for (;;) {
    const picture = pictures[made % PICTURES];
    if (!picture) return;
    const drawing = { id: `d${made}`, number: String(made + 1), role: 'inbetween' as const, picture: picture.digest };
    const steps: Step[] = [{ type: 'addDrawing', ...on, drawing, index: acknowledged.drawings }];
    const form = new FormData();
    form.set('sending', JSON.stringify({ baseRevision: acknowledged.revision, batchId: randomUUID(), steps }));
    form.set(`picture-${picture.digest}`, new Blob([new Uint8Array(picture.png)]), 'p.png');
    made++;
    sent++;
    try {
      const answer = await fetch(`${url}/api/projects/${id}/steps`, { method: 'POST', body: form });
      if (!answer.ok) return;
      const { revision } = (await answer.json()) as { revision: number };
      acknowledged = { revision, drawings: acknowledged.drawings + 1, last: drawing.id };
    } catch {
      // Nobody answers: it was killed.
      return;
    }
  }
}

for (let kill = 0; kill < KILLS; kill++) {
  const working = work(server.url);
  await new Promise((resolve) => setTimeout(resolve, 50 + Math.random() * LONGEST_LIFE_MILLISECONDS));
  await server.kill('SIGKILL');
  await working;
  server = await startServer(folder, port);
  const opened = (await (await fetch(`${server.url}/api/projects/${id}`)).json()) as {
    revision: number;
    project: Awaited<ReturnType<typeof projectOnServer>>;
  };
  const drawings = opened.project.shots[0]?.levels[0]?.drawings ?? [];
  const names = new Set(drawings.map((drawing) => drawing.id));
  if (opened.revision < acknowledged.revision || (acknowledged.last !== '' && !names.has(acknowledged.last))) lost++;
  // One more may have been taken without its answer coming back.
  acknowledged = { revision: opened.revision, drawings: drawings.length, last: drawings.at(-1)?.id ?? '' };
}
const shown = (await projectOnServer(server.url, id)).shots[0]?.levels[0]?.drawings ?? [];
const digests = [...new Set(shown.flatMap(({ picture }) => picture ?? []))];
let missing = 0;
for (const digest of digests) {
  const answer = await fetch(`${server.url}/api/pictures?digests=${digest}`);
  if (new DataView(await answer.arrayBuffer()).getUint32(0) === 0) missing++;
}
await server.kill('SIGTERM');
await rm(folder, { recursive: true, force: true });
promised({
  figure: 'kills.server',
  tried: KILLS,
  broken: lost + missing,
  stepsSent: sent,
  stepsThere: shown.length,
  picturesMissing: missing,
});
