import { randomUUID } from 'node:crypto';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Sending } from '@/contracts/project';
import type { Step } from '@/core/edit/step';
import { createProject, openProject } from '@/server/service/projects';
import { acceptSteps } from '@/server/service/steps';
import { getDatabase } from '@/server/store/database';
import { insertPicture } from '@/server/store/pictures';
import { flatPicture, useOwnDataFolder } from '@/testing/server';

const SIZE = { width: 16, height: 16 };

beforeAll(async () => {
  await useOwnDataFolder();
});

const sending = (baseRevision: number, steps: readonly Step[], mapsOver = true): Sending => ({
  ...{ baseRevision, batchId: randomUUID(), madeBy: { windowId: 'w', words: 'a window' } },
  ...{ steps: [...steps], stepIds: steps.map(() => randomUUID()), mapsOver },
});

/** A project with a level of four drawings on twos, and where to send steps. */
async function onTwos() {
  const { id } = await createProject({ title: 'Test', rate: { num: 24, den: 1 }, size: SIZE, firstFrameNumber: 1, frames: 48 });
  const opened = await openProject(id);
  if (!opened.ok) throw new Error(opened.error);
  const [shot] = opened.value.project.shots;
  const on = { shotId: shot?.id ?? '', levelId: shot?.levels[0]?.id ?? '' };
  const drawn = Array.from({ length: 4 }, (_, index): Step[] => [
    { type: 'addDrawing', ...on, drawing: { id: `d${index}`, number: `${index + 1}`, role: 'key', picture: null }, index },
    { type: 'expose', ...on, drawingId: `d${index}`, startFrame: index * 2, frames: 2 },
  ]).flat();
  const made = await acceptSteps(id, sending(opened.value.revision, drawn), []);
  if (!made.ok) throw new Error(made.error);
  return { id, on, revision: made.value.revision, send: (what: Sending) => acceptSteps(id, what, []) };
}

async function exposuresOf(id: string) {
  const opened = await openProject(id);
  return opened.ok ? opened.value.project.shots[0]?.levels[0]?.exposures.map(({ drawing, frames }) => `${drawing} ${frames}`) : [];
}

describe('a sending that others were faster than', () => {
  it('is taken where it belongs by then, and answered with all that was accepted since', async () => {
    const { id, on, revision, send } = await onTwos();
    const theirs = sending(revision, [{ type: 'setLength', ...on, atFrame: 0, frames: 6, following: 'push' }]);
    await send(theirs);
    // Drawing 3 lies on frames 5 and 6 for its maker, and on 9 and 10 by now.
    const late = sending(revision, [{ type: 'setLength', ...on, atFrame: 4, frames: 3, following: 'push' }]);
    const answer = await send(late);
    expect(answer).toEqual({
      ok: true,
      value: {
        revision: revision + 2,
        changes: [
          { revision: revision + 1, step: theirs.steps[0], stepId: theirs.stepIds[0], madeBy: theirs.madeBy },
          {
            revision: revision + 2,
            step: { type: 'setLength', ...on, atFrame: 8, frames: 3, following: 'push' },
            stepId: late.stepIds[0],
            madeBy: late.madeBy,
          },
        ],
      },
    });
    expect(await exposuresOf(id)).toEqual(['d0 6', 'd1 2', 'd2 3', 'd3 2']);
    // The answer was lost: whoever asks again is told the same, whatever came since, and nothing is made twice.
    await send(sending(revision + 2, [{ type: 'renameProject', title: 'Later' }]));
    expect(await send(late)).toEqual(answer);
    expect(await exposuresOf(id)).toEqual(['d0 6', 'd1 2', 'd2 3', 'd3 2']);
  });

  it('goes back where a person must see what became of it, and nothing of it is taken', async () => {
    const { id, on, revision, send } = await onTwos();
    await send(sending(revision, [{ type: 'deleteDrawing', ...on, drawingId: 'd2' }]));
    const late = sending(revision, [
      { type: 'renameProject', title: 'Half' },
      { type: 'setLength', ...on, atFrame: 4, frames: 3, following: 'push' },
    ]);
    expect(await send(late)).toMatchObject({ ok: false, status: 409, details: { kind: 'stale', revision: revision + 1 } });
    const opened = await openProject(id);
    expect(opened).toMatchObject({ ok: true, value: { revision: revision + 1, project: { title: 'Test' } } });
  });

  it('goes back where there is nothing left to do for it', async () => {
    const { revision, send } = await onTwos();
    await send(sending(revision, [{ type: 'renameProject', title: 'Same' }]));
    expect(await send(sending(revision, [{ type: 'renameProject', title: 'Same' }]))).toMatchObject({ ok: false, status: 409 });
  });

  it('goes back to a page that doesn’t ask for it', async () => {
    const { on, revision, send } = await onTwos();
    await send(sending(revision, [{ type: 'renameProject', title: 'First' }]));
    const late = sending(revision, [{ type: 'setLength', ...on, atFrame: 4, frames: 3, following: 'push' }], false);
    expect(await send(late)).toMatchObject({ ok: false, status: 409, details: { kind: 'stale' } });
  });

  it('is not taken once more when its own steps are among what came between', async () => {
    const { on, revision, send } = await onTwos();
    const first = sending(revision, [{ type: 'setLength', ...on, atFrame: 4, frames: 3, following: 'push' }]);
    await send(first);
    const again = { ...first, batchId: randomUUID() };
    expect(await send(again)).toMatchObject({ ok: false, status: 409, details: { changes: [{ stepId: first.stepIds[0] }] } });
  });

  it('goes back with its picture where the pictures have another size by then', async () => {
    const { on, revision, send } = await onTwos();
    const picture = await flatPicture('#aa3311', SIZE);
    await insertPicture(await getDatabase(), { ...picture, size: SIZE });
    await send(sending(revision, [{ type: 'setFormat', size: { width: 32, height: 16 } }]));
    const late = await send(sending(revision, [{ type: 'setPicture', ...on, drawingId: 'd0', picture: picture.digest }]));
    expect(late).toMatchObject({ ok: false, status: 409, details: { kind: 'stale', revision: revision + 1 } });
  });
});
