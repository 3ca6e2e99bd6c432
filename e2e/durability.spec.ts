import type { Project } from '../src/core/sheet/document';
import { expect, goToFrame, openStage, stroke, test } from './fixtures';
import { makeProject } from './projects';
import { freePort, newDataFolder, startServer } from './server';

const FILM = { title: 'Lasting', rate: { num: 24, den: 1 }, size: { width: 640, height: 360 }, frames: 24 };

test('a killed server loses nothing that was kept, and what waited arrives afterwards', async ({ page }) => {
  const folder = await newDataFolder();
  const port = await freePort();
  const first = await startServer(folder, port);
  const projectId = await makeProject(first.url, FILM, { drawings: 2, hold: 2 });
  await openStage(page, first.url, projectId, 'draw');
  const kept = page.getByTestId('kept');

  let keptDrawings = 0;
  for (let drawing = 0; drawing < 6; drawing++) {
    await goToFrame(page, 1 + drawing * 2);
    await stroke(page, [
      [0.1 + drawing * 0.1, 0.2],
      [0.2 + drawing * 0.1, 0.6],
    ]);
    if (drawing === 3) {
      await expect(kept).toHaveAttribute('data-state', 'kept');
      keptDrawings = drawing + 1;
      await first.kill('SIGKILL');
    }
  }
  await expect(kept).toHaveAttribute('data-state', 'waiting');
  await expect(kept).toContainText('safe in this browser');
  const pictures = async (url: string) => {
    const opened = (await (await fetch(`${url}/api/projects/${projectId}`)).json()) as { project: Project; revision: number };
    return new Set(opened.project.shots[0]?.levels[0]?.drawings.map((drawing) => drawing.picture)).size;
  };

  const second = await startServer(folder, port);
  expect(await pictures(second.url)).toBeGreaterThanOrEqual(keptDrawings > 2 ? 2 : 1);
  await expect(kept).toHaveAttribute('data-state', 'kept', { timeout: 30_000 });
  const opened = (await (await fetch(`${second.url}/api/projects/${projectId}`)).json()) as { project: Project; revision: number };
  await page.reload();
  await expect(page.getByRole('grid')).toBeVisible();
  const again = (await (await fetch(`${second.url}/api/projects/${projectId}`)).json()) as { project: Project; revision: number };
  expect(again.revision).toBe(opened.revision);
  await second.kill('SIGTERM');
});

test('a tab that is closed before the server answers keeps its strokes', async ({ page, context }) => {
  const folder = await newDataFolder();
  const port = await freePort();
  const first = await startServer(folder, port);
  const projectId = await makeProject(first.url, FILM, { drawings: 2, hold: 12 });
  await openStage(page, first.url, projectId, 'draw');
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
  const before = (await (await fetch(`${second.url}/api/projects/${projectId}`)).json()) as { project: Project; revision: number };
  const later = await context.newPage();
  await openStage(later, second.url, projectId, 'draw');
  await expect(later.getByTestId('kept')).toHaveAttribute('data-state', 'kept');
  const after = (await (await fetch(`${second.url}/api/projects/${projectId}`)).json()) as { project: Project; revision: number };
  expect(after.revision).toBe(before.revision + 2);
  const picturesOf = (project: Project) => project.shots[0]?.levels[0]?.drawings.map((drawing) => drawing.picture);
  expect(picturesOf(after.project)?.every((picture, index) => picture !== picturesOf(before.project)?.[index])).toBe(true);
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

test('two windows on one project never overwrite each other silently', async ({ page, context, app }) => {
  const projectId = await makeProject(app.url, FILM, { drawings: 4, hold: 2 });
  await openStage(page, app.url, projectId, 'plan');
  const other = await context.newPage();
  await openStage(other, app.url, projectId, 'plan');
  await page.getByLabel(/^Length, as/).fill('36');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('kept')).toHaveAttribute('data-state', 'kept');
  await expect(page.getByText('36 fr · 4 dr')).toBeVisible();
  await expect(other.getByText('24 fr · 4 dr')).toBeVisible();
  await other.getByRole('textbox', { name: 'Name', exact: true }).first().fill('The fall');
  await other.keyboard.press('Enter');
  await expect(other.getByText(/Another window made 1 change: Shot length 36 frames/)).toBeVisible();
  await expect(other.getByText('36 fr · 4 dr')).toBeVisible();
  await expect(other.getByTestId('kept')).toHaveAttribute('data-state', 'kept');
  const opened = (await (await fetch(`${app.url}/api/projects/${projectId}`)).json()) as { project: Project };
  expect(opened.project.shots[0]).toMatchObject({ frames: 36, name: 'The fall' });
});
