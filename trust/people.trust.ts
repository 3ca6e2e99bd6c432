import { randomUUID } from 'node:crypto';
import { makeProject, projectOnServer, sendSteps } from '../e2e/projects';
import { newDataFolder, startServer } from '../e2e/server';
import { newLevel, type Shot } from '../src/core/document/model';
import type { Step } from '../src/core/edit/step';
import { postgresPrograms, startPostgres } from '../src/testing/postgres';
import { percentile, promised, wholeFrom } from './figure';

/*
 * Eight people on one film, each on a shot of their own, five steps a second each, on a PostgreSQL server and as many Lime Ticks as
 * there are cores for: how long a step takes to be accepted, and to be heard of by everybody else.
 */

const PEOPLE = 8;
const MINUTES = wholeFrom('TRUST_MINUTES', 10);
const PAUSE_MILLISECONDS = 200;
const SERVERS = 2;
const MEBIBYTE = 1024 * 1024;

const programs = postgresPrograms();
if (!programs) throw new Error('PostgreSQL is not installed here.');
const postgres = await startPostgres(programs);
const servers = await Promise.all(
  Array.from({ length: SERVERS }, async () => startServer(await newDataFolder(), undefined, { DATABASE_URL: postgres.url })),
);
const url = (person: number): string => servers[person % SERVERS]?.url ?? '';
const id = await makeProject(
  url(0),
  { title: 'Eight', rate: { num: 24, den: 1 }, size: { width: 64, height: 36 }, frames: 240 },
  { drawings: 8, hold: 2 },
);
const [first] = (await projectOnServer(url(0), id)).shots;
if (!first) throw new Error('A new project has a shot.');
const shotOf = (person: number): string => (person === 0 ? first.id : `shot${person}`);
await sendSteps(
  url(0),
  id,
  Array.from({ length: PEOPLE - 1 }, (_, index): Step => {
    const shot: Shot = { ...first, id: shotOf(index + 1), code: `0${index + 2}0`, levels: [newLevel(`level${index + 1}`, 'Figure')] };
    return { type: 'addShot', shot, index: index + 1, items: [] };
  }),
);

/** When each revision was accepted, and when each person heard of it. */
const acceptedAt = new Map<number, number>();
const accepted: number[] = [];
let refused = 0;
let tries = 0;
let isOver = false;
const left = new AbortController();

/** When each person heard of each revision first. */
const heardAt = Array.from({ length: PEOPLE }, () => new Map<number, number>());

async function hear(person: number): Promise<void> {
  const heard = heardAt[person];
  let last = 0;
  const stream = await fetch(`${url(person)}/api/projects/${id}/changes`, { signal: left.signal });
  const decoder = new TextDecoder();
  let rest = '';
  for await (const chunk of stream.body ?? []) {
    const lines = (rest + decoder.decode(chunk, { stream: true })).split('\n');
    rest = lines.pop() ?? '';
    for (const line of lines) {
      if (!line.startsWith('data: {"revision"')) continue;
      const { revision } = JSON.parse(line.slice(6)) as { revision: number };
      // A notice says all before it, too.
      for (let each = last + 1; each <= revision; each++) heard?.set(each, performance.now());
      last = Math.max(last, revision);
    }
  }
}

async function work(person: number): Promise<void> {
  let { revision } = (await (await fetch(`${url(person)}/api/projects/${id}`)).json()) as { revision: number };
  for (let step = 0; !isOver; step++) {
    const began = performance.now();
    const steps: Step[] = [{ type: 'describeShot', shotId: shotOf(person), note: `${person} ${step}` }];
    const madeBy = { windowId: `w${person}`, words: `person ${person}` };
    // Where a person must see what came between, it is taken and tried again, as a window does.
    for (;;) {
      const sending = { baseRevision: revision, batchId: randomUUID(), madeBy, steps, stepIds: [randomUUID()], mapsOver: true };
      const form = new FormData();
      form.set('sending', JSON.stringify(sending));
      tries++;
      const answer = await fetch(`${url(person)}/api/projects/${id}/steps`, { method: 'POST', body: form });
      const body = (await answer.json()) as { revision: number };
      revision = body.revision ?? revision;
      if (answer.ok) {
        acceptedAt.set(revision, performance.now());
        break;
      }
      if (answer.status !== 409) {
        refused++;
        break;
      }
    }
    accepted.push(performance.now() - began);
    await new Promise((resolve) => setTimeout(resolve, Math.max(0, PAUSE_MILLISECONDS - (performance.now() - began))));
  }
}

const memory = async (): Promise<number> =>
  ((await (await fetch(`${url(0)}/api/store`)).json()) as { memoryBytes: number }).memoryBytes / MEBIBYTE;

const listening = Array.from({ length: PEOPLE }, (_, person) => hear(person).catch(() => undefined));
const memoryAtFirst = await memory();
const working = Array.from({ length: PEOPLE }, (_, person) => work(person));
await new Promise((resolve) => setTimeout(resolve, MINUTES * 30_000));
const memoryInTheMiddle = await memory();
await new Promise((resolve) => setTimeout(resolve, MINUTES * 30_000));
isOver = true;
await Promise.all(working);
const memoryAtLast = await memory();
await new Promise((resolve) => setTimeout(resolve, 1500));
left.abort();
await Promise.all(listening);
for (const server of servers) await server.kill('SIGTERM');
postgres.stop();

/** Whoever heard of a step before its maker had the answer waited for nothing. */
const seen = heardAt.flatMap((heard) =>
  [...acceptedAt].flatMap(([revision, at]) => Math.max(0, (heard.get(revision) ?? Number.POSITIVE_INFINITY) - at)),
);
const unheard = seen.filter((wait) => !Number.isFinite(wait)).length;
const p95 = { accepted: percentile(accepted, 0.95), seen: percentile(seen, 0.95) };
promised({
  figure: 'people.eight',
  tried: accepted.length,
  broken: refused + unheard,
  minutes: MINUTES,
  tries,
  acceptedP50: Math.round(percentile(accepted, 0.5)),
  acceptedP95: Math.round(p95.accepted),
  acceptedGoal: 100,
  seenP95: Math.round(p95.seen),
  seenGoal: 1000,
  heard: seen.length - unheard,
  memoryMib: [memoryAtFirst, memoryInTheMiddle, memoryAtLast].map(Math.round),
});
process.exit();
