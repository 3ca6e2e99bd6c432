import { beforeAll, describe, expect, it } from 'vitest';
import { documentSchema } from '@/contracts/project';
import database from '@/contracts/samples/database.v5.json';
import samples from '@/contracts/samples/opened.v1.json';
import { DOCUMENT_VERSION, type Project } from '@/core/document/model';
import { upgradeDocument } from '@/core/document/upgrade/upgrade';
import { digestOfBytes } from '@/core/raster/digest';
import { placedShots } from '@/core/reel/reel';
import { planText, renderPlanOf } from '@/core/render/renderPlan';
import { documentAtRevision } from '@/server/service/past';
import { openProject } from '@/server/service/projects';
import { shelf } from '@/server/service/shelf';
import { openAtStart } from '@/server/service/start';
import { changesSince } from '@/server/service/steps';
import { useEmptyDataFolder } from '@/testing/server';
import { writeStoredFolder } from '@/testing/storedFolder';

/*
 * A data folder of the version before the reel had items, made by running it: the demo with a shot moved and its
 * handovers, and a project of steps that add, move and remove shots. Only the bytes of pictures and files are left out.
 */

const codesOf = (project: Project) => placedShots(project).map(({ shot }) => shot.code);

async function opened(projectId: string) {
  const answer = await openProject(projectId);
  if (!answer.ok) throw new Error(answer.error);
  return answer.value;
}

beforeAll(async () => {
  await writeStoredFolder(await useEmptyDataFolder(), 6, database);
  await openAtStart();
}, 60_000);

describe('a data folder of the version before', () => {
  it.each(samples.opened.map((before) => [before.project.title, before] as const))('opens %s as it was', async (_title, before) => {
    const { project, revision, receipts, unreadable } = await opened(before.project.id);
    expect(project).toEqual(upgradeDocument(before.project, 1));
    expect(project.version).toBe(DOCUMENT_VERSION);
    expect(project.firstFrameNumber).toBe(before.project.startFrame);
    expect(codesOf(project)).toEqual(before.project.shots.map((shot) => shot.code));
    expect(revision).toBe(before.revision);
    expect(receipts).toMatchObject(
      before.receipts.map(({ id, planDigest, asked, counted }) => ({ id, planDigest, request: asked, count: counted })),
    );
    expect(unreadable).toEqual([]);
  });

  it('hands over the same plans', async () => {
    expect(samples.plans.length).toBeGreaterThan(20);
    for (const { projectId, planDigest, frames, firstNumber, ...request } of samples.plans) {
      const { project } = await opened(projectId);
      const plan = renderPlanOf(project, request);
      if (!plan.ok) throw new Error(plan.reason);
      expect([plan.value.frames, plan.value.firstNumber, await digestOfBytes(planText(plan.value))]).toEqual([
        frames,
        firstNumber,
        planDigest,
      ]);
    }
  });

  it('keeps receipts that still agree with what would leave now', async () => {
    const { project, receipts } = await opened('washday');
    for (const { shotId, request, withBackground, planDigest } of receipts) {
      const plan = renderPlanOf(project, { shotId, fromFrame: 0, toFrame: request.frames - 1, withBackground });
      expect(plan.ok && (await digestOfBytes(planText(plan.value)))).toBe(planDigest);
    }
    expect(receipts.map((receipt) => receipt.formatId).toSorted()).toEqual(['mp4', 'png-zip', 'webm']);
  });

  it('stands on the shelf with its counts', async () => {
    const entries = await shelf();
    expect(entries.map(({ title, shots, frames }) => [title, shots, frames]).toSorted()).toEqual(
      samples.opened
        .map(({ project }) => [project.title, project.shots.length, project.shots.reduce((sum, shot) => sum + shot.frames, 0)])
        .toSorted(),
    );
  });

  it('tells the steps of its journal as they are written now', async () => {
    const pegs = samples.opened.find(({ project }) => project.title === 'Pegs')?.project.id ?? '';
    const told = await changesSince(pegs, 0);
    if (!told.ok) throw new Error(told.error);
    expect(told.value.changes.map(({ step }) => step)).toMatchObject([
      { type: 'addShot', index: 1, items: [{ item: { id: 's-b', kind: 'shot', finished: true, shotId: 's-b' }, index: 1 }] },
      { type: 'addShot', index: 0, items: [{ item: { id: 's-c' }, index: 0 }] },
      { type: 'moveItem', itemId: 's-c', index: 2 },
      { type: 'setFormat', firstFrameNumber: 101 },
      { type: 'together', steps: [{ type: 'setShotLength' }, { type: 'moveItem', itemId: 's-b', index: 0 }] },
      { type: 'removeShot' },
      { type: 'setFormat', rate: { num: 25, den: 1 }, firstFrameNumber: 1 },
    ]);
  });

  it.each([
    [0, ['010'], 1001, 24],
    [1, ['010', '020'], 1001, 36],
    [2, ['030', '010', '020'], 1001, 44],
    [3, ['010', '020', '030'], 1001, 44],
    [4, ['010', '020', '030'], 101, 44],
    [5, ['020', '010', '030'], 101, 42],
    [6, ['020', '030'], 101, 18],
    [7, ['020', '030'], 1, 18],
  ])('goes back to revision %i', async (revision, codes, firstFrameNumber, frames) => {
    const pegs = samples.opened.find(({ project }) => project.title === 'Pegs')?.project.id ?? '';
    const answer = await documentAtRevision(pegs, revision);
    if (!answer.ok) throw new Error(answer.error);
    const { project } = documentSchema.parse(answer.value);
    expect([codesOf(project), project.firstFrameNumber, placedShots(project).at(-1)?.endFrame]).toEqual([codes, firstFrameNumber, frames]);
  });
});
