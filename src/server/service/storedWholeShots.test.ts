import { beforeAll, describe, expect, it } from 'vitest';
import { historyReader, waitingReader } from '@/contracts/local';
import { documentSchema } from '@/contracts/project';
import browser from '@/contracts/samples/browser.v4.json';
import database from '@/contracts/samples/database.v6.json';
import samples from '@/contracts/samples/opened.v2.json';
import { DOCUMENT_VERSION, type Project } from '@/core/document/model';
import { upgradeDocument } from '@/core/document/upgrade/upgrade';
import { applyStep } from '@/core/edit/table';
import { mustBeDone } from '@/core/outcome';
import { digestOfBytes } from '@/core/raster/digest';
import { placedShots } from '@/core/reel/reel';
import { soundsOfReel } from '@/core/reel/sounds';
import { planText, renderPlanOf } from '@/core/render/renderPlan';
import { documentAtRevision } from '@/server/service/past';
import { openProject } from '@/server/service/projects';
import { openAtStart } from '@/server/service/start';
import { changesSince } from '@/server/service/steps';
import { useEmptyDataFolder } from '@/testing/server';
import { writeStoredFolder } from '@/testing/storedFolder';

/*
 * A data folder, and what a browser kept that was without its server, of the version whose reel had whole shots only and
 * whose sounds had no fades; made by running it.
 */

const [before] = samples.opened;
const projectId = before?.project.id ?? '';

async function opened() {
  const answer = await openProject(projectId);
  if (!answer.ok) throw new Error(answer.error);
  return answer.value;
}

beforeAll(async () => {
  await writeStoredFolder(await useEmptyDataFolder(), 7, database);
  await openAtStart();
}, 60_000);

describe('a data folder of the version of whole shots', () => {
  it('opens as it was, its shots whole and its sounds without fades', async () => {
    const { project, revision } = await opened();
    expect(project).toEqual(upgradeDocument(before?.project ?? {}, 2));
    expect([project.version, revision]).toEqual([DOCUMENT_VERSION, before?.revision]);
    expect(project.reel.items.map((item) => item.kind === 'shot' && item.trim)).toEqual([null, null]);
    expect(project.reel.sounds).toEqual([]);
    expect(soundsOfReel(project).map(({ whole }) => [whole.name, whole.fadeInFrames, whole.fadeOutFrames])).toEqual([
      ['hum', 0, 0],
      ['s-bsnd', 0, 0],
    ]);
  });

  it('hands over the same plans', async () => {
    const { project } = await opened();
    for (const { planDigest, frames, firstNumber, projectId: _id, ...request } of samples.plans) {
      const plan = mustBeDone(renderPlanOf(project, request));
      expect([plan.frames, plan.firstNumber, await digestOfBytes(planText(plan))]).toEqual([frames, firstNumber, planDigest]);
    }
  });

  it('tells the steps of its journal as they are written now', async () => {
    const told = await changesSince(projectId, 0);
    if (!told.ok) throw new Error(told.error);
    expect(told.value.changes.map(({ step }) => step)).toMatchObject([
      { type: 'addShot', shot: { sounds: [{ fadeInFrames: 0 }] }, items: [{ item: { trim: null }, index: 1 }] },
      { type: 'addShot' },
      { type: 'addSound', sound: { fadeInFrames: 0, fadeOutFrames: 0 } },
      { type: 'together' },
      { type: 'setTiming', items: [], reelSounds: [] },
      { type: 'removeShot' },
      { type: 'changeSound' },
    ]);
  });

  it.each([
    [0, ['010'], 24],
    [2, ['030', '010', '020'], 48],
    [3, ['030', '010', '020'], 48],
    [4, ['010', '020', '030'], 46],
    [5, ['010', '020', '030'], 47],
    [6, ['010', '020'], 35],
  ])('goes back to revision %i', async (revision, codes, frames) => {
    const answer = await documentAtRevision(projectId, revision);
    if (!answer.ok) throw new Error(answer.error);
    const { project } = documentSchema.parse(answer.value);
    expect([placedShots(project).map(({ shot }) => shot.code), placedShots(project).at(-1)?.endFrame]).toEqual([codes, frames]);
  });
});

describe('what a browser kept without its server', () => {
  const readAll = <T>(read: { read: (entry: unknown) => { ok: boolean; value?: T; reason?: string } }, entries: readonly unknown[]) =>
    entries.map((entry) => {
      const { ok, value, reason } = read.read(entry);
      if (!ok || value === undefined) throw new Error(reason);
      return value;
    });
  it('is made on its document, and undone again', () => {
    const start = upgradeDocument(before?.project ?? {}, 2) as unknown as Project;
    const waiting = readAll(waitingReader, browser.waiting);
    const history = readAll(historyReader, browser.history);
    const after = waiting.reduce((project, { step }) => mustBeDone(applyStep(project, step)), start);
    expect(placedShots(after)).toHaveLength(4);
    const undone = history
      .filter(({ stack }) => stack === 'undo')
      .toReversed()
      .reduce((project, { step }) => mustBeDone(applyStep(project, step)), after);
    expect(undone).toEqual(start);
  });
});
