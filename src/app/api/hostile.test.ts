import { beforeAll, describe, expect, it } from 'vitest';
import { GET as getOriginal } from '@/app/api/originals/[digest]/route';
import { GET as getPictures } from '@/app/api/pictures/route';
import { POST as postReceipts } from '@/app/api/projects/[projectId]/receipts/route';
import { GET as getProject } from '@/app/api/projects/[projectId]/route';
import { POST as postSources } from '@/app/api/projects/[projectId]/sources/route';
import { GET as getSteps, POST as postSteps } from '@/app/api/projects/[projectId]/steps/route';
import { POST as postProjects } from '@/app/api/projects/route';
import { PUT as putKeys } from '@/app/api/settings/keys/route';
import { SENDING_VERSION } from '@/contracts/project';
import sampleReceipt from '@/contracts/samples/receipt.v1.json';
import { newLevel, type Project } from '@/core/document/model';
import { newSound } from '@/core/document/sound';
import type { Step } from '@/core/edit/step';
import { writeWav } from '@/core/format/wav/writeWav';
import { addShotOf, levelOf, pictureOf, shotOf } from '@/core/testing/sheets';
import { takeRecording } from '@/server/service/bringIn/takeOriginal';
import { createProject } from '@/server/service/projects';
import { received, useOwnDataFolder } from '@/testing/server';

/*
 * What no honest page sends: every request of these is answered with 4xx and a sentence, and the document is as
 * it was before.
 */

const BASE = 'http://127.0.0.1:4151';
const NUL = 'So\u0000ck';
const HALF = 'Sock \ud83e';
let project: Project;
let other: Project;
let recording = '';

const params = <T extends object>(value: T) => ({ params: Promise.resolve(value) });
const context = () => params({ projectId: project.id });

async function documentNow(id = project.id): Promise<{ project: Project; revision: number }> {
  const answer = await getProject(new Request(`${BASE}/api/projects/${id}`), params({ projectId: id }));
  return (await answer.json()) as { project: Project; revision: number };
}

async function sendRaw(sending: unknown): Promise<Response> {
  const form = new FormData();
  form.set('sending', typeof sending === 'string' ? sending : JSON.stringify(sending));
  return postSteps(new Request(`${BASE}/api/projects/${project.id}/steps`, { method: 'POST', body: form }), context());
}
async function send(...steps: unknown[]): Promise<Response> {
  const { revision } = await documentNow();
  return sendRaw({ version: SENDING_VERSION, baseRevision: revision, batchId: crypto.randomUUID(), madeBy: null, steps, stepIds: [] });
}

async function expectRefused(answer: Response): Promise<void> {
  const body = (await answer.json()) as { error?: unknown };
  expect([answer.status, body.error]).toEqual([answer.status, expect.stringMatching(/^.{8,}[.!?:]$/s)]);
  expect(answer.status).toBeGreaterThanOrEqual(400);
  expect(answer.status).toBeLessThan(500);
  expect(answer.headers.get('lime-tick')).toBe('1');
}

const shotId = () => project.shots[0]?.id ?? '';
const levelId = () => project.shots[0]?.levels[0]?.id ?? '';
const on = () => ({ shotId: shotId(), levelId: levelId() });
const sock = () => levelOf('Sock', '1*2 2*2');
const together = (step: unknown, depth: number): unknown =>
  depth === 0 ? step : { type: 'together', words: '', steps: [together(step, depth - 1)] };
const nestedText = (depth: number) => {
  const open = '{"type":"together","words":"","steps":['.repeat(depth);
  return `{"version":2,"baseRevision":0,"batchId":"b","steps":[${open}${']}'.repeat(depth)}]}`;
};
const sound = (id: string) =>
  newSound(id, id, { original: recording, fileName: 'a.wav', sampleRate: 48_000, samples: 9000, channels: 1 }, 0);

beforeAll(async () => {
  await useOwnDataFolder();
  const wanted = { title: 'Hostile', rate: { num: 24, den: 1 }, size: { width: 64, height: 36 }, firstFrameNumber: 1, frames: 48 };
  const { id } = await createProject(wanted);
  other = (await documentNow((await createProject(wanted)).id)).project;
  project = { ...(await documentNow(id)).project };
  const wav = writeWav([new Float32Array(9000).fill(0.1)], 48_000, 'int16');
  const taken = await received('a.wav', wav, 'recording', (file) => takeRecording(id, file));
  recording = taken.ok ? taken.value.original : '';
  const ready: Step[] = [
    { type: 'addDrawing', ...on(), drawing: { id: 'd1', number: '1', role: 'key', picture: null }, index: 0 },
    { type: 'expose', ...on(), drawingId: 'd1', startFrame: 0, frames: 2 },
    { type: 'addLevel', shotId: shotId(), level: { ...newLevel('still', 'Still', 'still') }, index: 1 },
    { type: 'addSound', shotId: shotId(), sound: sound('plop'), index: 0 },
  ];
  expect((await send(...ready)).status).toBe(200);
  project = (await documentNow()).project;
});

type Case = readonly [what: string, step: () => unknown];
const onReel = (id: string, shown: string) => [{ item: { id, kind: 'shot', finished: true, shotId: shown }, index: 0 }];

describe('steps no honest page sends', () => {
  it.each<Case>([
    ['a NUL in a shot’s name', () => ({ type: 'describeShot', shotId: shotId(), name: NUL })],
    ['half an emoji in a shot’s name', () => ({ type: 'describeShot', shotId: shotId(), name: HALF })],
    ['a NUL in a shot’s code', () => ({ type: 'describeShot', shotId: shotId(), code: NUL })],
    ['a NUL in a title', () => ({ type: 'renameProject', title: NUL })],
    ['half an emoji in a note', () => ({ type: 'setNotes', shotId: shotId(), notes: [{ frame: 0, kind: 'note', words: HALF }] })],
    ['a NUL in an id', () => ({ type: 'removeShot', shotId: NUL })],
    ['half an emoji in a file’s name', () => ({ type: 'addSound', shotId: shotId(), sound: { ...sound('s2'), name: HALF }, index: 0 })],
    ['a NUL in a property’s name', () => ({ type: 'renameProject', title: 'x', [NUL]: 1 })],
    ['a shot of an id in use', () => addShotOf({ ...shotOf([sock()], 4, '070'), id: shotId() }, 0)],
    ['a level of an id in use', () => ({ type: 'addLevel', shotId: shotId(), level: newLevel(levelId(), 'Again'), index: 0 })],
    ['a shot whose level has an id in use', () => addShotOf(shotOf([newLevel(levelId(), 'Again')], 4, '070'), 0)],
    [
      'a drawing of an id in use',
      () => ({ type: 'addDrawing', ...on(), drawing: { id: 'd1', number: '9', role: 'key', picture: null }, index: 0 }),
    ],
    [
      'a drawing of an id in use on another level',
      () => ({
        type: 'addDrawing',
        shotId: shotId(),
        levelId: 'still',
        drawing: { id: 'd1', number: '9', role: 'key', picture: null },
        index: 0,
      }),
    ],
    [
      'a level with a drawing of an id in use',
      () => ({
        type: 'addLevel',
        shotId: shotId(),
        level: { ...newLevel('l9', 'Nine'), drawings: [{ id: 'd1', number: '1', role: 'key', picture: null }] },
        index: 0,
      }),
    ],
    ['a sound of an id in use', () => ({ type: 'addSound', shotId: shotId(), sound: sound('plop'), index: 0 })],
    ['two sounds of one id in a shot', () => addShotOf({ ...shotOf([sock()], 4, '070'), sounds: [sound('s5'), sound('s5')] }, 0)],
    ['two levels of one id in a shot', () => addShotOf(shotOf([newLevel('x', 'A'), newLevel('x', 'B')], 4, '070'), 0)],
    [
      'two drawings of one id on a level',
      () => ({
        type: 'addLevel',
        shotId: shotId(),
        level: { ...sock(), drawings: [sock().drawings[0], { ...sock().drawings[0], number: '7' }], exposures: [] },
        index: 0,
      }),
    ],
    [
      'two drawings of one number on a level',
      () => ({
        type: 'addLevel',
        shotId: shotId(),
        level: { ...sock(), drawings: sock().drawings.map((each) => ({ ...each, number: '1' })) },
        index: 0,
      }),
    ],
    [
      'a number that is not one',
      () => ({
        type: 'addLevel',
        shotId: shotId(),
        level: { ...sock(), drawings: sock().drawings.map((each, index) => ({ ...each, number: `#${index}` })) },
        index: 0,
      }),
    ],
    [
      'exposures of drawings that aren’t there',
      () => ({ type: 'addLevel', shotId: shotId(), level: { ...sock(), drawings: [] }, index: 0 }),
    ],
    [
      'a chart between drawings that aren’t there',
      () => ({
        type: 'addLevel',
        shotId: shotId(),
        level: { ...sock(), charts: [{ id: 'c', fromDrawing: 'ghost', toDrawing: 'Sock-1', shape: 'even', ticks: [], path: [] }] },
        index: 0,
      }),
    ],
    [
      'a level far longer than any shot',
      () => ({
        type: 'addLevel',
        shotId: shotId(),
        level: {
          ...sock(),
          exposures: [
            { drawing: 'Sock-1', frames: 1_000_000 },
            { drawing: 'Sock-2', frames: 1_000_000 },
          ],
        },
        index: 0,
      }),
    ],
    [
      'two notes of a kind on one frame',
      () => addShotOf({ ...shotOf([sock()], 4, '070'), notes: [1, 2].map((each) => ({ frame: 0, kind: 'note', words: String(each) })) }, 0),
    ],
    ['a picture nobody sent', () => ({ type: 'setPicture', ...on(), drawingId: 'd1', picture: pictureOf('a') })],
    [
      'a recording nobody brought in',
      () => ({
        type: 'addSound',
        shotId: shotId(),
        sound: { ...sound('s3'), recording: { ...sound('s3').recording, original: pictureOf('b') } },
        index: 0,
      }),
    ],
    ['a place past the end', () => ({ type: 'moveItem', itemId: shotId(), index: 2 ** 40 })],
    ['a shot that comes to the reel past its end', () => addShotOf(shotOf([sock()], 4, '070'), 0, 9)],
    [
      'a shot whose place on the reel has an id in use',
      () => ({ ...addShotOf(shotOf([sock()], 4, '070'), 0), items: onReel(shotId(), 'shot-070') }),
    ],
    [
      'a shot that brings another one to the reel',
      () => ({ ...addShotOf(shotOf([sock()], 4, '070'), 0), items: onReel('twice', shotId()) }),
    ],
    ['a frame past counting', () => ({ type: 'expose', ...on(), drawingId: 'd1', startFrame: 1e300, frames: 1 })],
    ['a first frame past counting', () => ({ type: 'setFormat', firstFrameNumber: 2 ** 33 })],
    ['a rate past counting', () => ({ type: 'setFormat', rate: { num: 2 ** 40, den: 2 ** 36 } })],
    ['a size past memory', () => ({ type: 'setFormat', size: { width: 16_384, height: 16_384 } })],
    ['an opacity of 10 to the 9', () => ({ type: 'describeLevel', ...on(), change: { opacityPercent: 1e9 } })],
    ['steps 60 deep in each other', () => together({ type: 'renameProject', title: 'deep' }, 60)],
    ['something that is no step', () => 'step'],
    ['nothing', () => null],
  ])('%s: 4xx, a sentence, nothing changed', async (_what, step) => {
    const before = await documentNow();
    await expectRefused(await send(step()));
    expect(await documentNow()).toEqual(before);
  });

  it.each([
    ['steps 1,000 deep', nestedText(1000)],
    ['steps 200,000 deep', nestedText(200_000)],
    ['no JSON', '{"baseRevision":'],
    ['a revision past 2³¹', JSON.stringify({ baseRevision: 2 ** 31, batchId: 'b', steps: [{ type: 'renameProject', title: 'x' }] })],
    ['a revision past any number', JSON.stringify({ baseRevision: 1e300, batchId: 'b', steps: [{ type: 'renameProject', title: 'x' }] })],
    ['a batch id with a NUL', JSON.stringify({ baseRevision: 0, batchId: 'b\u0000', steps: [{ type: 'renameProject', title: 'x' }] })],
    [
      'a window id with half an emoji',
      JSON.stringify({
        baseRevision: 0,
        batchId: 'b',
        madeBy: { windowId: 'w', words: '\ud83e' },
        steps: [{ type: 'renameProject', title: 'x' }],
      }),
    ],
    ['another version', JSON.stringify({ version: 99, baseRevision: 0, batchId: 'b', steps: [{ type: 'renameProject', title: 'x' }] })],
  ])('%s', async (_what, sending) => {
    const before = await documentNow();
    await expectRefused(await sendRaw(sending));
    expect(await documentNow()).toEqual(before);
  });
});

describe('other requests no honest page sends', () => {
  const post = (body: unknown) =>
    new Request(BASE, {
      method: 'POST',
      body: typeof body === 'string' ? body : JSON.stringify(body),
      headers: { 'Content-Type': 'application/json' },
    });

  it.each(['no\u0000body', 'a/b', '..', 'x'.repeat(500), '\ud83e', ''])('a project called %j', async (id) => {
    await expectRefused(await getProject(new Request(BASE), params({ projectId: id })));
    await expectRefused(await getSteps(new Request(`${BASE}/?since=0`), params({ projectId: id })));
    await expectRefused(await postReceipts(post(sampleReceipt), params({ projectId: id })));
  });

  it.each(['-1', '1.5', 'x', '99999999999', '4294967296', ''])('a revision %j', async (revision) => {
    await expectRefused(await getProject(new Request(`${BASE}/?at=${revision}`), context()));
    await expectRefused(await getSteps(new Request(`${BASE}/?since=${revision}`), context()));
  });

  it.each([NUL, HALF])('a title %j', async (title) => {
    const wanted = { title, rate: { num: 24, den: 1 }, size: { width: 64, height: 36 }, firstFrameNumber: 1, frames: 48 };
    await expectRefused(await postProjects(post(wanted), undefined));
    await expectRefused(await postSources(post({ sources: [{ original: pictureOf('a'), fileName: title, levelId: 'l' }] }), context()));
    await expectRefused(await putKeys(new Request(BASE, { method: 'PUT', body: JSON.stringify({ undo: [title] }) }), undefined));
  });

  it('digests that are none', async () => {
    await expectRefused(await getOriginal(new Request(BASE), params({ digest: '../x' })));
    await expectRefused(await getPictures(new Request(`${BASE}/?digests=blue`), undefined));
    await expectRefused(await getPictures(new Request(`${BASE}/?digests=${Array(65).fill(pictureOf('a')).join('.')}`), undefined));
  });

  it('says that a picture is missing, in an answer nobody keeps', async () => {
    const answer = await getPictures(new Request(`${BASE}/?digests=${pictureOf('a')}`), undefined);
    expect(new Uint8Array(await answer.arrayBuffer())).toEqual(new Uint8Array(4));
    expect(answer.headers.get('cache-control')).toBe('no-store');
  });
});

describe('receipts', () => {
  const post = (receipt: object, id = project.id) =>
    postReceipts(new Request(BASE, { method: 'POST', body: JSON.stringify(receipt) }), params({ projectId: id }));

  it('sent twice are one; of another project’s id they are refused', async () => {
    const receipt = { ...sampleReceipt, id: crypto.randomUUID() };
    const [first, second] = [await post(receipt), await post(receipt)];
    expect([first.status, second.status]).toEqual([200, 200]);
    expect(await second.json()).toEqual(await first.json());
    await expectRefused(await post(receipt, other.id));
  });

  it('may name every frame of a long film', async () => {
    const wrongFrames = Array.from({ length: 1_000_000 }, (_, frame) => frame);
    const counted = { ...sampleReceipt.counted, wrongFrames };
    expect((await post({ ...sampleReceipt, id: crypto.randomUUID(), counted })).status).toBe(200);
    await expectRefused(await post({ ...sampleReceipt, id: crypto.randomUUID(), counted: { ...counted, wrongFrames: [-1] } }));
    await expectRefused(await post({ ...sampleReceipt, id: crypto.randomUUID(), counted: { ...counted, wrongFrames: [0.5] } }));
  });
});
