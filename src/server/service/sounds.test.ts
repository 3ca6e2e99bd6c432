import { createHash } from 'node:crypto';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Sending } from '@/contracts/project';
import type { Project } from '@/core/document/model';
import type { Step } from '@/core/edit/step';
import { writeWav } from '@/core/format/wav/writeWav';
import { pictureOf, soundOf } from '@/core/testing/sheets';
import { originalFile } from '@/server/service/bringIn/sources';
import { takeRecording } from '@/server/service/bringIn/takeOriginal';
import { createProject } from '@/server/service/projects';
import { acceptSteps } from '@/server/service/steps';
import { getDatabase } from '@/server/store/database';
import { loadDocument } from '@/server/store/loadDocument';
import { bytesOf, flatPicture, received, useOwnDataFolder } from '@/testing/server';

const SIZE = { width: 64, height: 36 };

beforeAll(async () => {
  await useOwnDataFolder();
});

/** The project as its rows say, past every cache. */
async function stored(id: string) {
  const document = await loadDocument(await getDatabase(), id);
  if (!document) throw new Error('The project is gone.');
  return document;
}

async function newProject() {
  const { id } = await createProject({ title: 'Test', rate: { num: 24, den: 1 }, size: SIZE, firstFrameNumber: 1, frames: 48 });
  const opened = await stored(id);
  return { ...opened, shotId: opened.project.shots[0]?.id ?? '' };
}

const sending = (baseRevision: number, ...steps: Step[]): Sending => ({
  baseRevision,
  batchId: crypto.randomUUID(),
  madeBy: null,
  steps,
  stepIds: [],
});
const take = (id: string, name: string, bytes: Uint8Array) => received(name, bytes, 'recording', (file) => takeRecording(id, file));
const send = (project: Project, what: Sending) => acceptSteps(project.id, what, []);

describe('sounds on the server', () => {
  it('are kept and loaded with their shot, and only when their recording was brought in', async () => {
    const { project, revision, shotId } = await newProject();
    const wav = writeWav([new Float32Array(9_000).fill(0.1)], 48_000, 'int16');
    const sound = (original: string) => {
      const made = soundOf('Plop', 3, 9_000);
      return { ...made, recording: { ...made.recording, original } };
    };
    const add = (original: string): Step => ({ type: 'addSound', shotId, sound: sound(original), index: 0 });
    const unknown = await send(project, sending(revision, add(pictureOf('7'))));
    expect(unknown).toMatchObject({ ok: false, status: 422, error: expect.stringMatching(/was never brought in/) });
    expect((await stored(project.id)).project).toEqual(project);

    const taken = await take(project.id, 'plop.wav', wav);
    const original = taken.ok ? taken.value.original : '';
    expect(original).toBe(createHash('sha256').update(wav).digest('hex'));
    expect(await send(project, sending(revision, add(original)))).toMatchObject({ ok: true });
    const muted: Step = { type: 'changeSound', shotId, soundId: 'Plop', change: { muted: true, startFrame: 7 } };
    expect(await send(project, sending(revision + 1, muted))).toMatchObject({ ok: true });
    expect((await stored(project.id)).project.shots[0]?.sounds).toEqual([{ ...sound(original), muted: true, startFrame: 7 }]);
    expect(Buffer.from(await bytesOf(await originalFile(original))).equals(wav)).toBe(true);
  });

  it('of files that hold none are refused in a sentence, and nothing is kept', async () => {
    const { project } = await newProject();
    const png = await flatPicture('#ff0000', SIZE);
    for (const bytes of [new Uint8Array(0), new Uint8Array([1, 2, 3]), png.png]) {
      expect(await take(project.id, 'odd.wav', bytes)).toMatchObject({
        ok: false,
        status: 422,
        error: expect.stringMatching(/odd\.wav is not a recording/),
      });
      expect(await originalFile(createHash('sha256').update(bytes).digest('hex'))).toBeNull();
    }
    expect(await take('nowhere', 'odd.wav', new Uint8Array(3))).toMatchObject({ ok: false, status: 404 });
  });
});
