import { mustBeDone } from '../src/core/outcome';
import { startFilmOptions } from '../src/core/output/film';
import { START_LOOP } from '../src/core/output/loop';
import { startPictureOptions } from '../src/core/output/pictures';
import { renderPlanOf } from '../src/core/render/renderPlan';
import type { HandoverEnd } from '../src/workers/protocol';
import { expect, openStage, test } from './fixtures';
import { ownWorker } from './ownWorker';
import { makeProject, projectOnServer } from './projects';

/* Machines on which something goes wrong in the middle: a sentence is said, and nothing half done is left. */

const FRAMES = 24;
const FILM = { title: 'Spoiled', rate: { num: 24, den: 1 }, size: { width: 128, height: 72 }, frames: FRAMES };
const NAMES = Array.from({ length: FRAMES }, (_, frame) => `frame.${String(frame + 1).padStart(4, '0')}.png`);

const OPTIONS = {
  mp4: () => startFilmOptions('mp4'),
  png: (intoFolder: boolean) => ({ ...startPictureOptions('png'), within: intoFolder ? 'folder' : 'zip' }),
  gif: () => START_LOOP,
};

const CASES = [
  { spoil: 'disk', formatId: 'mp4', says: /^There is no room left on this disk/ },
  { spoil: 'disk', formatId: 'png', says: /^There is no room left on this disk/ },
  { spoil: 'encoder', formatId: 'mp4', says: /encoder/ },
  { spoil: 'picture', formatId: 'mp4', says: /picture/i },
  { spoil: 'folderGone', formatId: 'png', intoFolder: true, says: /^The folder .* is gone/ },
  { spoil: 'folderReadOnly', formatId: 'png', intoFolder: true, says: /^The folder .* can’t be written to/ },
] as const;

test('no room, a dying encoder, a missing picture, a folder that goes or can’t be written to: each says a sentence and leaves nothing, as a stop does in any phase', async ({
  page,
  app,
}) => {
  const projectId = await makeProject(app.url, FILM, { drawings: 12, hold: 2 });
  const project = await projectOnServer(app.url, projectId);
  const plan = mustBeDone(renderPlanOf(project, { shotId: null, fromFrame: 0, toFrame: FRAMES - 1, withBackground: true }));
  const run = await ownWorker<{ end: HandoverEnd | { kind: 'failed'; reason: string }; left: string[] }>(page, 'e2e/spoiled/worker.ts');
  await openStage(page, app.url, projectId, 'hand-over');
  const orderFor = (formatId: keyof typeof OPTIONS, intoFolder: boolean) => ({
    ...{ plan, formatId, baseName: 'spoiled', ground: 'paper', owner: 'test', decodeWhileWriting: false, jobId: 'job', wasBegun: false },
    options: OPTIONS[formatId](intoFolder),
    names: formatId === 'png' ? NAMES : [],
    lists: [],
  });
  for (const each of CASES) {
    const { spoil, formatId, says } = each;
    const intoFolder = 'intoFolder' in each;
    const { end, left } = await run({ order: orderFor(formatId, intoFolder), spoil, intoFolder });
    const what = `${spoil}, ${formatId}: ${JSON.stringify(end)}`;
    expect(end.kind, what).not.toBe('written');
    expect('reason' in end ? end.reason : '', what).toMatch(says);
    expect(left, what).toEqual([]);
  }
  // Stopped in any phase, nothing is left either.
  for (const formatId of ['mp4', 'png', 'gif'] as const)
    for (const stopIn of formatId === 'gif' ? ['looking', 'writing', 'counting'] : ['writing', 'counting']) {
      const { end, left } = await run({ order: orderFor(formatId, false), spoil: 'none', intoFolder: false, stopIn });
      expect(end, `${formatId}, stopped while ${stopIn}`).toEqual({ kind: 'stopped' });
      expect(left, `${formatId}, stopped while ${stopIn}`).toEqual([]);
    }
  // Where nothing goes wrong the same orders are written.
  for (const formatId of ['mp4', 'png', 'gif'] as const)
    expect((await run({ order: orderFor(formatId, false), spoil: 'none', intoFolder: false })).end.kind).toBe('written');
});
