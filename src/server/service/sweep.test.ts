import { beforeAll, describe, expect, it } from 'vitest';
import type { Step } from '@/core/edit/step';
import { originalFile } from '@/server/service/bringIn/sources';
import { takeFile } from '@/server/service/bringIn/takeFile';
import { createProject, openProject, picturePngs } from '@/server/service/projects';
import { storePictures } from '@/server/service/sentPictures';
import { acceptSteps } from '@/server/service/steps';
import { sweep } from '@/server/service/sweep';
import { flatPicture, received, useOwnDataFolder } from '@/testing/server';

const SIZE = { width: 64, height: 36 };
const LATER = new Date(Date.now() + 31 * 24 * 60 * 60 * 1000);

beforeAll(async () => {
  await useOwnDataFolder();
});

describe('what nothing names', () => {
  it('is swept away after its time; what a drawing, a step or its undoing names stays', async () => {
    const { id } = await createProject({ title: 'Sweep', rate: { num: 24, den: 1 }, size: SIZE, firstFrameNumber: 1, frames: 48 });
    const opened = await openProject(id);
    const shot = opened.ok ? opened.value.project.shots[0] : undefined;
    const on = { shotId: shot?.id ?? '', levelId: shot?.levels[0]?.id ?? '' };
    const [first, second, never] = await Promise.all(['#ff0000', '#00ff00', '#0000ff'].map((colour) => flatPicture(colour, SIZE)));
    if (!first || !second || !never) throw new Error('Three pictures were made.');
    const steps: Step[] = [
      { type: 'addDrawing', ...on, drawing: { id: 'd', number: '1', role: 'key', picture: first.digest }, index: 0 },
      { type: 'setPicture', ...on, drawingId: 'd', picture: second.digest },
    ];
    const sending = { baseRevision: 0, batchId: 'b', madeBy: null, steps, stepIds: [] };
    expect(await acceptSteps(id, sending, [first, second])).toMatchObject({ ok: true });
    await storePictures([never]);
    const brought = await received('a.png', never.png, 'picture', (file) => takeFile(id, file, 'straight'));
    const original = brought.ok ? brought.value.original : '';

    expect(await sweep(new Date())).toEqual({ pictures: 0, originals: 0, bytes: 0 });
    expect(await sweep(LATER)).toMatchObject({ pictures: 1, originals: 1 });
    const found = await picturePngs([first.digest, second.digest, never.digest]);
    expect(found.map((png) => png !== null)).toEqual([true, true, false]);
    expect(await originalFile(original)).toBeNull();
  });
});
