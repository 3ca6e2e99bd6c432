import { createHash } from 'node:crypto';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Project } from '@/core/document/model';
import type { Step } from '@/core/edit/step';
import { writeWav } from '@/core/format/wav/writeWav';
import { clipItem, clipOf, pictureOf } from '@/core/testing/sheets';
import { DUSK_CLIP } from '@/demo/duskClip';
import { receiveFile } from '@/server/service/bringIn/receive';
import { originalFile } from '@/server/service/bringIn/sources';
import { takeClip } from '@/server/service/bringIn/takeOriginal';
import { createProject } from '@/server/service/projects';
import { acceptSteps } from '@/server/service/steps';
import { sweep } from '@/server/service/sweep';
import { getDatabase } from '@/server/store/database';
import { loadDocument } from '@/server/store/loadDocument';
import { insertOriginal, wholeFile } from '@/server/store/originals';
import { received, useOwnDataFolder } from '@/testing/server';

const CLIP = Uint8Array.from(Buffer.from(DUSK_CLIP, 'base64'));
const YEARS = new Date(Date.now() + 9e10);

beforeAll(async () => {
  await useOwnDataFolder();
});

async function newProject(): Promise<Project> {
  const { id } = await createProject({
    title: 'Test',
    rate: { num: 24, den: 1 },
    size: { width: 64, height: 36 },
    firstFrameNumber: 1,
    frames: 48,
  });
  return stored(id);
}

/** The project as its rows say, past every cache. */
async function stored(id: string): Promise<Project> {
  const document = await loadDocument(await getDatabase(), id);
  if (!document) throw new Error('The project is gone.');
  return document.project;
}

const take = (id: string, name: string, bytes: Uint8Array) => received(name, bytes, 'clip', (file) => takeClip(id, file));
const send = (project: Project, step: Step) =>
  acceptSteps(project.id, { baseRevision: 0, batchId: crypto.randomUUID(), madeBy: null, steps: [step], stepIds: [] }, []);
const laid = (original: string): Step => ({ type: 'addItems', items: [{ item: clipItem('c', { ...clipOf(50), original }), index: 1 }] });

describe('clips on the server', () => {
  it('are kept as they are, laid only when they were brought in, and kept as long as the reel names them', async () => {
    const project = await newProject();
    expect(await send(project, laid(pictureOf('7')))).toMatchObject({
      ok: false,
      status: 422,
      error: expect.stringMatching(/was never brought in/),
    });
    const taken = await take(project.id, 'evening.webm', CLIP);
    const original = taken.ok ? taken.value.original : '';
    expect(original).toBe(createHash('sha256').update(CLIP).digest('hex'));
    expect(await send(project, laid(original))).toMatchObject({ ok: true });
    expect((await stored(project.id)).reel.items[1]).toEqual(clipItem('c', { ...clipOf(50), original }));
    await sweep(YEARS);
    expect((await originalFile(original))?.sizeBytes).toBe(CLIP.byteLength);
  });

  it.each<readonly [string, Uint8Array]>([
    ['a recording', writeWav([new Float32Array(900)], 48_000, 'int16')],
    ['words', new TextEncoder().encode('This is no clip.')],
    ['nothing', new Uint8Array(0)],
  ])('are refused when the file holds %s', async (_what, bytes) => {
    const { id } = await newProject();
    expect(await take(id, 'a.mp4', bytes)).toMatchObject({
      ok: false,
      status: 422,
      error: 'a.mp4 is not a clip that can be read: MP4, MOV, WebM, Matroska or the like.',
    });
  });

  it('are refused when they don’t arrive whole', async () => {
    const { id } = await newProject();
    const answer = await receiveFile('a.webm', new Blob([CLIP]).stream(), 'clip', (file) => takeClip(id, file), CLIP.byteLength + 1);
    expect(answer).toMatchObject({ ok: false, status: 400, error: expect.stringContaining('a.webm didn’t arrive whole') });
  });

  it('are read in parts, across the parts they are kept in', async () => {
    const bytes = Uint8Array.from({ length: 3 * 1024 * 1024 + 77 }, (_, at) => (at * 2_654_435_761) >>> 24);
    const digest = createHash('sha256').update(bytes).digest('hex');
    await insertOriginal(await getDatabase(), digest, bytes.byteLength, wholeFile(bytes));
    const file = await originalFile(digest);
    for (const [from, to] of [
      [0, bytes.byteLength],
      [0, 1],
      [1024 * 1024 - 1, 1024 * 1024 + 1],
      [1024 * 1024, 2 * 1024 * 1024],
      [2_000_000, 3 * 1024 * 1024 + 77],
      [bytes.byteLength - 1, bytes.byteLength],
    ] as const) {
      const parts: Uint8Array[] = [];
      for await (const part of file?.bytes(from, to) ?? []) parts.push(part);
      expect(Buffer.concat(parts).equals(bytes.subarray(from, to))).toBe(true);
    }
  });
});
