import { randomUUID } from 'node:crypto';
import { mkdtemp, readdir, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Step } from '../src/core/edit/step';
import { percentile, promised, wholeFrom } from './figure';

/* A month of work on one film, a million steps of it: how large the folder is, how long it takes to open, and whether a step is as quick as at first. */

const STEPS = wholeFrom('TRUST_STEPS', 1_000_000);
const AT_ONCE = 2000;
const TRIED = 60;
const MEBIBYTE = 1024 * 1024;
const folder = await mkdtemp(path.join(tmpdir(), 'lime-tick-trust-'));
process.env.LIME_TICK_DATA = folder;
process.env.LIME_TICK_LOG = 'silent';
process.env.LIME_TICK_COPIES = 'off';

const { createProject, openProject } = await import('../src/server/service/projects');
const { acceptSteps } = await import('../src/server/service/steps');
const { documentAtRevision } = await import('../src/server/service/past');
const { forgetDocuments } = await import('../src/server/service/documents');

const { id } = await createProject({
  title: 'A month',
  rate: { num: 24, den: 1 },
  size: { width: 1280, height: 720 },
  firstFrameNumber: 1,
  frames: 240,
});
const opened = await openProject(id);
if (!opened.ok) throw new Error(opened.error);
const shot = opened.value.project.shots[0];
const on = { shotId: shot?.id ?? '', levelId: shot?.levels[0]?.id ?? '' };

let revision = 0;
async function send(steps: Step[]): Promise<number> {
  const began = performance.now();
  const made = await acceptSteps(id, { baseRevision: revision, batchId: randomUUID(), madeBy: null, steps, stepIds: [] }, []);
  if (!made.ok) throw new Error(made.error);
  revision = made.value.revision;
  return performance.now() - began;
}

/** A step like those of a day: a length, a note, a number. */
const stepOf = (index: number): Step =>
  index % 3 === 0
    ? { type: 'setLength', ...on, atFrame: index % 100, frames: 1 + (index % 4), following: 'overwrite' }
    : index % 3 === 1
      ? { type: 'describeShot', shotId: on.shotId, note: `note ${index}` }
      : { type: 'describeDrawing', ...on, drawingId: `d${index % 60}`, role: index % 2 === 0 ? 'key' : 'inbetween' };

const drawings: Step[] = Array.from({ length: 60 }, (_, index) => ({
  type: 'addDrawing',
  ...on,
  drawing: { id: `d${index}`, number: String(index + 1), role: 'inbetween', picture: null },
  index,
}));
const exposures: Step[] = drawings.map((_, index) => ({ type: 'expose', ...on, drawingId: `d${index}`, startFrame: index * 2, frames: 2 }));
await send([...drawings, ...exposures]);

async function times(): Promise<readonly number[]> {
  const each: number[] = [];
  for (let index = 0; index < TRIED; index++) each.push(await send([stepOf(index)]));
  return each;
}
async function bytesOf(place: string): Promise<number> {
  const entries = await readdir(place, { recursive: true, withFileTypes: true });
  const sizes = await Promise.all(entries.filter((entry) => entry.isFile()).map((entry) => stat(path.join(entry.parentPath, entry.name))));
  return sizes.reduce((sum, { size }) => sum + size, 0);
}
async function opening(): Promise<number> {
  forgetDocuments();
  const began = performance.now();
  await openProject(id);
  return performance.now() - began;
}

const atFirst = { step: await times(), opening: await opening(), bytes: await bytesOf(folder) };
for (let made = 0; made < STEPS; made += AT_ONCE) await send(Array.from({ length: AT_ONCE }, (_, index) => stepOf(made + index)));
const after = { step: await times(), opening: await opening(), bytes: await bytesOf(folder) };

const past: number[] = [];
for (let tried = 0; tried < 20; tried++) {
  const began = performance.now();
  const wanted = Math.floor((revision * (tried + 0.5)) / 20);
  const answer = await documentAtRevision(id, wanted);
  if (!answer.ok) throw new Error(answer.error);
  past.push(performance.now() - began);
}
const ratio = percentile(after.step, 0.5) / percentile(atFirst.step, 0.5);
promised({
  figure: 'month',
  tried: STEPS,
  broken: 0,
  stepP50AtFirst: Number(percentile(atFirst.step, 0.5).toFixed(1)),
  stepP50: Number(percentile(after.step, 0.5).toFixed(1)),
  ratio: Number(ratio.toFixed(2)),
  ratioGoal: 2,
  openingAtFirst: Math.round(atFirst.opening),
  opening: Math.round(after.opening),
  folderMibAtFirst: Math.round(atFirst.bytes / MEBIBYTE),
  folderMib: Math.round(after.bytes / MEBIBYTE),
  pastP50: Math.round(percentile(past, 0.5)),
  pastMost: Math.round(Math.max(...past)),
  pastGoal: 1000,
});
process.exit();
