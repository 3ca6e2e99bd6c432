import { type NewReceipt, newReceiptSchema } from '../src/contracts/receipt';
import { judge } from '../src/core/count/verdict';
import { mustBeDone } from '../src/core/outcome';
import { startFilmOptions } from '../src/core/output/film';
import { formatChoices } from '../src/core/output/format';
import type { JobEvent } from '../src/core/output/jobState';
import { type RenderPlan, renderPlanOf } from '../src/core/render/renderPlan';
import { FORMATS } from '../src/workers/output/formats/list';
import type { HandoverEnd } from '../src/workers/protocol';
import { rawFrames } from './fifth/rawFrames';
import { expect, openStage, test } from './fixtures';
import { ownWorker } from './ownWorker';
import { makeProject, projectOnServer } from './projects';

/* A fifth format, made up in one file, goes through everything the four do. */

const FILM = { title: 'Fifth', rate: { num: 24, den: 1 }, size: { width: 63, height: 36 }, frames: 12 };

const requestOf = ({ frames, rate, size, firstNumber }: RenderPlan) => ({ frames, rate, ...size, firstNumber, sound: null, loop: null });

test('a fifth format is offered, written, counted and kept with its receipt', async ({ page, app }) => {
  expect(formatChoices([...FORMATS, rawFrames('raw-frames')])[0]?.options.map(({ label }) => label)).toEqual([
    'MP4',
    'MOV',
    'WebM',
    'MKV',
    'Raw frames',
  ]);

  const projectId = await makeProject(app.url, FILM, { drawings: 4, hold: 3 });
  const project = await projectOnServer(app.url, projectId);
  const plan = mustBeDone(renderPlanOf(project, { shotId: null, fromFrame: 0, toFrame: 11, withBackground: true }));
  const run = await ownWorker<{ end: HandoverEnd; events: JobEvent[] }>(page, 'e2e/fifth/worker.ts');
  await openStage(page, app.url, projectId, 'hand-over');
  const order = {
    plan,
    baseName: 'fifth',
    ground: 'none',
    owner: 'test',
    decodeWhileWriting: false,
    jobId: 'job',
    wasBegun: false,
    options: { ...startFilmOptions('mkv'), transparency: true },
    names: [],
    lists: [],
  };

  const { end, events } = await run({ ...order, formatId: 'raw-frames' });
  if (end.kind !== 'written') throw new Error(JSON.stringify(end));
  const { result } = end;
  expect(result).toMatchObject({ fileName: 'fifth.raw', fileBytes: 128 + 12 * 63 * 36 * 4, composited: 4 });
  expect(judge(requestOf(plan), result.count)).toMatchObject({ agrees: true });
  expect(result.count).toMatchObject({ frames: 12, rate: { num: 24, den: 1 }, width: 63, height: 36, comparison: { kind: 'exact' } });
  expect(result.frameDigests).toMatchObject({
    version: 1,
    of: 'file',
    runs: [
      [0, 3],
      [1, 3],
      [2, 3],
      [3, 3],
    ],
  });
  expect([...new Set(events.map(({ kind }) => kind))]).toEqual(['writing', 'counting']);

  const receipt: NewReceipt = newReceiptSchema.parse({
    ...result,
    id: 'fifth-receipt',
    formatId: 'raw-frames',
    shotId: null,
    whole: true,
    withBackground: true,
    pictures: result.composited,
    request: requestOf(plan),
  });
  const kept = await fetch(`${app.url}/api/projects/${projectId}/receipts`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(receipt),
  });
  expect(kept.status).toBe(200);
  await page.reload();
  const card = page.getByRole('article', { name: 'Receipt for fifth.raw' });
  await expect(card.getByTestId('verdict')).toHaveText('agrees');
  const download = page.waitForEvent('download');
  await card.getByRole('button', { name: 'Save receipt' }).click();
  expect((await download).suggestedFilename()).toBe('fifth.raw.receipt.json');

  // Its mistake from frame 6 on is counted as it would be in any other format.
  const late = await run({ ...order, formatId: 'raw-frames-late' });
  if (late.end.kind !== 'written') throw new Error(JSON.stringify(late.end));
  const verdict = judge(requestOf(plan), late.end.result.count);
  expect(verdict.agrees).toBe(false);
  expect(verdict.sentences).toContain('The picture before is repeated, with no hold on the sheet, on frames 7, 10.');

  // What is in no list is refused in a sentence.
  const unknown = await run({ ...order, formatId: 'sixth' });
  expect(unknown.end).toEqual({ kind: 'refused', reason: 'There is no format “sixth” here: choose another one.' });
});
