import { beforeAll, describe, expect, it } from 'vitest';
import { asideReader, historyReader, waitingReader } from '@/contracts/local';
import { documentSchema } from '@/contracts/project';
import { receiptReader } from '@/contracts/receipt';
import database from '@/contracts/samples/database.v7.json';
import samples from '@/contracts/samples/opened.v3.json';
import { DOCUMENT_VERSION, type Project } from '@/core/document/model';
import { upgradeDocument } from '@/core/document/upgrade/upgrade';
import { applyStep } from '@/core/edit/table';
import { mustBeDone } from '@/core/outcome';
import { placedItems } from '@/core/reel/reel';
import { planOfReel, planText } from '@/core/render/renderPlan';
import { documentAtRevision } from '@/server/service/past';
import { openProject } from '@/server/service/projects';
import { openAtStart } from '@/server/service/start';
import { changesSince } from '@/server/service/steps';
import { useEmptyDataFolder } from '@/testing/server';
import { writeStoredFolder } from '@/testing/storedFolder';

/*
 * A data folder of the version that held colours as one of the checks, and had neither clips nor a finish; made by running
 * it. What a browser of that version keeps is written out here as it wrote it.
 */

const [before] = samples.opened;
const projectId = before?.project.id ?? '';

async function opened() {
  const answer = await openProject(projectId);
  if (!answer.ok) throw new Error(answer.error);
  return answer.value;
}

beforeAll(async () => {
  await writeStoredFolder(await useEmptyDataFolder(), 8, database);
  await openAtStart();
}, 60_000);

describe('a data folder of the version without a finish', () => {
  it('opens as it was, its range for colours as an effect, every item under the finish', async () => {
    const { project, revision } = await opened();
    expect(project).toEqual(upgradeDocument(before?.project ?? {}, 3));
    expect([project.version, revision]).toEqual([DOCUMENT_VERSION, before?.revision]);
    expect(project.checks).toEqual({ destination: null, stillFrames: 60, nearPerMille: 10, kept: [] });
    expect(project.finish).toEqual([
      { id: 'held-colours', kind: 'holdColours', range: { from: 5, to: 246 }, inPreview: true, inHandover: true },
    ]);
    expect(placedItems(project).map(({ item, startFrame, endFrame }) => [item.kind, item.finished, startFrame, endFrame])).toEqual([
      ['shot', true, 0, 24],
      ['gap', true, 24, 36],
      ['shot', true, 36, 58],
      ['shot', true, 58, 82],
    ]);
  });

  it('leaves by the very plan it left by', async () => {
    const { project } = await opened();
    const plan = planOfReel(project);
    // A line that the version before wrote into the digest of its receipts.
    expect(plan && planText(plan)).toMatch(/^320x180 24\/1 ([0-9a-f]{64}@100\*2 ){12}\*12 \*22 .* held 5-246$/);
  });

  it('tells the steps of its journal as they are written now', async () => {
    const told = await changesSince(projectId, 4);
    if (!told.ok) throw new Error(told.error);
    expect(told.value.changes.map(({ step }) => step)).toMatchObject([
      { type: 'addShot', items: [{ item: { finished: true, trim: { fromFrame: 8 } } }] },
      { type: 'addItems', items: [{ item: { kind: 'gap', finished: true } }, { item: { kind: 'shot', finished: true } }] },
      {
        type: 'together',
        steps: [
          { type: 'setChecks', change: { stillFrames: 48 } },
          { type: 'setEffect', effect: { range: { from: 16 } } },
        ],
      },
      {
        type: 'together',
        steps: [
          { type: 'setChecks', change: { destination: null } },
          { type: 'setEffect', effect: { range: { from: 5 } } },
        ],
      },
      { type: 'trimItem' },
      { type: 'setChecks', change: { stillFrames: 60 } },
    ]);
  });

  it.each([
    [6, 0],
    [7, 1],
    [10, 1],
  ])('goes back to revision %i', async (revision, effects) => {
    const answer = await documentAtRevision(projectId, revision);
    if (!answer.ok) throw new Error(answer.error);
    expect(documentSchema.parse(answer.value).project.finish).toHaveLength(effects);
  });
});

describe('what a browser of that version kept', () => {
  const entry = { version: 4, order: 1, projectId, windowId: 'w' };
  const step = { type: 'setChecks', change: { holdColours: { from: 16, to: 235 } } };
  const back = { type: 'setChecks', change: { holdColours: { from: 5, to: 246 } } };
  it('is made on its document, and undone again', () => {
    const start = upgradeDocument(before?.project ?? {}, 3) as unknown as Project;
    const waiting = waitingReader.read({ ...entry, id: 'a', step, pictures: [], sizeBytes: 90, sending: null });
    const undo = historyReader.read({ ...entry, stack: 'undo', step: back, words: 'What is checked' });
    const after = mustBeDone(applyStep(start, mustBeDone(waiting).step));
    expect(after.finish).toMatchObject([{ range: { from: 16, to: 235 } }]);
    expect(mustBeDone(applyStep(after, mustBeDone(undo).step))).toEqual(start);
  });

  it('and set aside can be read', () => {
    const aside = {
      ...entry,
      version: 3,
      id: null,
      kind: 'refused',
      reason: 'r',
      words: 'w',
      step,
      stored: null,
      pictures: [],
      shot: null,
      asideAt: 'then',
    };
    expect(mustBeDone(asideReader.read(aside)).step).toMatchObject({ type: 'setEffect', effectId: 'held-colours' });
  });

  it.each([
    [null, []],
    [{ from: 5, to: 246 }, ['colours held within 5–246']],
  ])('a receipt that held %o', (holdColours, finish) => {
    const digest = 'a'.repeat(64);
    const receipt = {
      version: 4,
      id: 'r',
      fileName: 'a.mp4',
      formatId: 'mp4',
      fileBytes: 1,
      fileDigest: digest,
      shotId: null,
      whole: true,
      withBackground: true,
      planDigest: digest,
      holdColours,
      pictures: 1,
      request: { frames: 1, rate: { num: 24, den: 1 }, width: 2, height: 2, firstNumber: 1 },
      count: {
        frames: 1,
        hasTimes: true,
        rate: null,
        otherRates: [],
        durationMicroseconds: null,
        timeToleranceMicroseconds: 1,
        width: 2,
        height: 2,
        repeatFrames: [],
        wrongFrames: [],
        missingFrames: [],
        mistimedFrames: [],
        untellableChanges: 0,
        comparison: { kind: 'exact' },
      },
      frameDigests: null,
      madeAt: '2026-11-26T12:00:00.000Z',
    };
    expect(mustBeDone(receiptReader.read(receipt)).finish).toEqual(finish);
  });
});
