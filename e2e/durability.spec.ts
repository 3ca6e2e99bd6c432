import type { Project } from '../src/core/document/model';
import { expect, goToFrame, openStage, stroke, strokeNow, test, untilLaid } from './fixtures';
import { differing, pixelsOf } from './pixels';
import { makeProject } from './projects';
import { freePort, startServer } from './server';
import { copiedDataFolder } from './templates';

const FILM = { title: 'Lasting', rate: { num: 24, den: 1 }, size: { width: 640, height: 360 }, frames: 24 };

type Opened = { project: Project; revision: number };
const opened = async (url: string, projectId: string) => (await (await fetch(`${url}/api/projects/${projectId}`)).json()) as Opened;
const picturesOf = ({ project }: Opened) => project.shots[0]?.levels[0]?.drawings.map((drawing) => drawing.picture) ?? [];

test('a killed server loses nothing that was kept, and what waited arrives afterwards, once', async ({ page }) => {
  const folder = await copiedDataFolder();
  const port = await freePort();
  const first = await startServer(folder, port);
  const projectId = await makeProject(first.url, FILM, { drawings: 6, hold: 2 });
  const before = await opened(first.url, projectId);
  await openStage(page, first.url, projectId, 'draw');
  const kept = page.getByTestId('kept');
  // Each drawing is looked at once while there is a server to bring its picture.
  for (let drawing = 0; drawing < 6; drawing++) {
    await goToFrame(page, 1 + drawing * 2);
    await untilLaid(page);
  }

  let whenKept = before;
  for (let drawing = 0; drawing < 6; drawing++) {
    await goToFrame(page, 1 + drawing * 2);
    await stroke(page, [
      [0.1 + drawing * 0.1, 0.2],
      [0.2 + drawing * 0.1, 0.6],
    ]);
    if (drawing !== 3) continue;
    await expect(kept).toHaveAttribute('data-state', 'kept');
    whenKept = await opened(first.url, projectId);
    await first.kill('SIGKILL');
  }
  expect(whenKept.revision).toBe(before.revision + 4);
  await expect(kept).toContainText('2 changes safe in this browser');

  const second = await startServer(folder, port);
  const afterKill = await opened(second.url, projectId);
  expect(afterKill.revision).toBeGreaterThanOrEqual(whenKept.revision);
  expect(picturesOf(afterKill).slice(0, 4)).toEqual(picturesOf(whenKept).slice(0, 4));
  await expect(kept).toHaveAttribute('data-state', 'kept', { timeout: 30_000 });
  const arrived = await opened(second.url, projectId);
  expect(arrived.revision).toBe(before.revision + 6);
  for (const [index, picture] of picturesOf(arrived).entries()) expect(picture).not.toBe(picturesOf(before)[index]);
  await page.reload();
  await expect(page.getByRole('grid')).toBeVisible();
  await expect(kept).toHaveAttribute('data-state', 'kept');
  expect(await opened(second.url, projectId)).toEqual(arrived);
  await second.kill('SIGTERM');
});

test('a tab that is closed before the server answers keeps its strokes', async ({ page, context }) => {
  const folder = await copiedDataFolder();
  const port = await freePort();
  const first = await startServer(folder, port);
  const projectId = await makeProject(first.url, FILM, { drawings: 2, hold: 12 });
  await openStage(page, first.url, projectId, 'draw');
  await untilLaid(page);
  await page.keyboard.press('Shift+ArrowDown');
  await untilLaid(page);
  await page.keyboard.press('Shift+ArrowUp');
  await first.kill('SIGKILL');
  await stroke(page, [
    [0.1, 0.1],
    [0.9, 0.9],
  ]);
  await page.keyboard.press('Shift+ArrowDown');
  await stroke(page, [
    [0.9, 0.1],
    [0.1, 0.9],
  ]);
  await expect(page.getByTestId('kept')).toContainText('2 changes safe in this browser');
  await page.close();

  const second = await startServer(folder, port);
  const before = await opened(second.url, projectId);
  const later = await context.newPage();
  await openStage(later, second.url, projectId, 'draw');
  await expect(later.getByTestId('kept')).toHaveAttribute('data-state', 'kept');
  const after = await opened(second.url, projectId);
  expect(after.revision).toBe(before.revision + 2);
  for (const [index, picture] of picturesOf(after).entries()) expect(picture).not.toBe(picturesOf(before)[index]);
  await second.kill('SIGTERM');
});

test('a drawing whose picture can’t be brought says so, and takes ink all the same, which lies on it when it comes', async ({ page }) => {
  const folder = await copiedDataFolder();
  const port = await freePort();
  const first = await startServer(folder, port);
  const projectId = await makeProject(first.url, FILM, { drawings: 24, hold: 1 });
  await openStage(page, first.url, projectId, 'draw');
  await untilLaid(page);
  const before = await opened(first.url, projectId);
  await first.kill('SIGKILL');
  await page.keyboard.press('End');
  const paper = page.getByTestId('paper');
  await expect(paper).toHaveAttribute('data-laid', 'away');
  await expect(page.getByText('is on the server, which does not answer')).toBeVisible();
  await strokeNow(page, [
    [0.2, 0.2],
    [0.8, 0.8],
  ]);
  await expect(page.getByTestId('kept')).toHaveAttribute('data-state', 'sending');

  const second = await startServer(folder, port);
  await expect(paper).toHaveAttribute('data-laid', 'ready', { timeout: 40_000 });
  await expect(page.getByText('is on the server')).toBeHidden();
  await expect(page.getByTestId('kept')).toHaveAttribute('data-state', 'kept', { timeout: 40_000 });
  const after = await opened(second.url, projectId);
  expect(after.revision).toBe(before.revision + 1);
  // The picture that was there is below the ink.
  const was = await pixelsOf(second.url, picturesOf(before)[23] ?? '');
  const is = await pixelsOf(second.url, picturesOf(after)[23] ?? '');
  const changed = differing(was, is);
  expect(changed).toBeGreaterThan(100);
  expect(changed).toBeLessThan(was.length / 4 / 4);
  await second.kill('SIGTERM');
});

test('a second server on the same data folder stops with a sentence', async ({ app }) => {
  const second = await startServer(app.folder).then(
    () => 'started',
    (error: unknown) => String(error),
  );
  expect(second).toContain('is in use by another Lime Tick');
  expect((await fetch(`${app.url}/api/health`)).ok).toBe(true);
});

test('two windows on one project follow each other and say who wrote', async ({ page, context, app }) => {
  const projectId = await makeProject(app.url, FILM, { drawings: 4, hold: 2 });
  await openStage(page, app.url, projectId, 'plan');
  const other = await context.newPage();
  await openStage(other, app.url, projectId, 'plan');
  for (const window of [page, other]) await window.getByRole('tab', { name: 'Shot and levels' }).click();
  await page.getByLabel(/^Length, as/).fill('36');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('kept')).toHaveAttribute('data-state', 'kept');
  await expect(page.getByText('36 fr · 4 drawings')).toBeVisible();
  await expect(other.getByText(/Another window of this browser made 1 change: Shot length 36 frames/)).toBeVisible();
  await expect(other.getByText('36 fr · 4 drawings')).toBeVisible();
  await other.getByRole('textbox', { name: 'Name', exact: true }).first().fill('The fall');
  await other.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Shot 010 · The fall/ })).toBeVisible();
  await expect(other.getByTestId('kept')).toHaveAttribute('data-state', 'kept');
  expect((await opened(app.url, projectId)).project.shots[0]).toMatchObject({ frames: 36, name: 'The fall' });
  // What was done before the other's change is undone, and the other's change stays.
  await page.getByRole('grid').focus();
  await page.keyboard.press('Control+z');
  await expect(page.getByText('24 fr · 4 drawings')).toBeVisible();
  await expect(other.getByText('24 fr · 4 drawings')).toBeVisible();
  expect((await opened(app.url, projectId)).project.shots[0]).toMatchObject({ frames: 24, name: 'The fall' });
});
