import { request } from 'node:http';
import { connect } from 'node:net';
import { expect, test } from './fixtures';
import { startServer } from './server';
import { copiedDataFolder } from './templates';

const WANTED = { title: 'Bad', rate: { num: 24, den: 1 }, size: { width: 64, height: 36 }, firstFrameNumber: 1, frames: 24 };

test.describe('over HTTP', () => {
  for (const [what, part, status, sentence] of [
    ['a rate of 0', { rate: { num: 0, den: 1 } }, 400, 'A rate of 0/1 makes no sense'],
    ['a rate of 1/0', { rate: { num: 1, den: 0 } }, 400, 'A rate of 1/0 makes no sense'],
    ['a length of 0', { frames: 0 }, 400, 'A length of 0 frames'],
    ['a side too long', { size: { width: 20_000, height: 36 } }, 400, 'A picture width of 20000 px'],
    ['no title', { title: '' }, 400, 'A project needs a title.'],
  ] as const) {
    test(`${what} is refused with a sentence and makes nothing`, async ({ app }) => {
      const count = async () => ((await (await fetch(`${app.url}/api/projects`)).json()) as { projects: unknown[] }).projects.length;
      const before = await count();
      const response = await fetch(`${app.url}/api/projects`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ ...WANTED, ...part }),
      });
      expect(response.status).toBe(status);
      expect(((await response.json()) as { error: string }).error).toContain(sentence);
      expect(await count()).toBe(before);
    });
  }

  test('what is no JSON, no form and no step is refused', async ({ app }) => {
    const project = `${app.url}/api/projects/washday`;
    const noJson = await fetch(`${app.url}/api/projects`, { method: 'POST', body: '{' });
    expect([noJson.status, ((await noJson.json()) as { error: string }).error]).toEqual([400, 'The message is not JSON.']);
    expect((await fetch(`${project}/steps`, { method: 'POST', body: 'x' })).status).toBe(400);
    const form = new FormData();
    form.set(
      'sending',
      JSON.stringify({
        baseRevision: 0,
        batchId: 'b',
        steps: [{ type: 'setLength', shotId: 's', levelId: 'l', atFrame: -1, frames: 2, following: 'push' }],
      }),
    );
    expect((await fetch(`${project}/steps`, { method: 'POST', body: form })).status).toBe(400);
    form.set('sending', JSON.stringify({ baseRevision: 99_999, batchId: 'b', steps: [{ type: 'renameProject', title: 'x' }] }));
    const stale = await fetch(`${project}/steps`, { method: 'POST', body: form });
    expect(stale.status).toBe(409);
    form.set('picture-nothing', new Blob(['x']), 'x.png');
    expect((await fetch(`${project}/steps`, { method: 'POST', body: form })).status).toBe(400);
  });

  test('an unknown project and unknown pictures are said to be', async ({ app, page }) => {
    const missing = await fetch(`${app.url}/api/projects/nobody`);
    expect(missing.status).toBe(404);
    expect(((await missing.json()) as { error: string }).error).toContain('There is no project nobody here');
    expect((await fetch(`${app.url}/api/pictures?digests=blue`)).status).toBe(400);
    expect((await fetch(`${app.url}/api/pictures`)).status).toBe(400);
    await page.goto(`${app.url}/projects/nobody/draw`);
    await expect(page.getByRole('alert').filter({ hasText: 'nobody' })).toContainText('There is no project nobody here');
    await page.getByRole('link', { name: 'Back to the shelf' }).click();
    await expect(page.getByRole('heading', { name: 'Washday' })).toBeVisible();
  });

  test('a picture larger than Next’s own limit for bodies still arrives whole', async ({ app }) => {
    const form = new FormData();
    form.set('sending', JSON.stringify({ baseRevision: 99_999, batchId: 'big', steps: [{ type: 'renameProject', title: 'x' }] }));
    form.set(`picture-${'a'.repeat(64)}`, new Blob([new Uint8Array(20 * 1024 * 1024)]), 'x.png');
    expect((await fetch(`${app.url}/api/projects/washday/steps`, { method: 'POST', body: form })).status).toBe(409);
  });

  for (const [what, headers, status] of [
    ['a foreign Host', { Host: 'elsewhere.example' }, 421],
    ['a foreign Origin', { Origin: 'http://elsewhere.example' }, 403],
    ['no Origin at all', {}, 200],
  ] as const) {
    test(`${what} is answered with ${status}`, async ({ app }) => {
      const { hostname, port, host } = new URL(app.url);
      const answered = await new Promise<number>((resolve, reject) => {
        const asking = request({ hostname, port, path: '/api/projects', headers: { Host: host, ...headers } }, (response) => {
          response.resume();
          resolve(response.statusCode ?? 0);
        });
        asking.on('error', reject);
        asking.end();
      });
      expect(answered).toBe(status);
    });
  }
});

test('a server that is told to stop does, though a browser holds a connection open', async () => {
  const server = await startServer(await copiedDataFolder());
  const socket = connect(Number(new URL(server.url).port), '127.0.0.1');
  // The server cuts it off, at whichever moment.
  const cutOff = new Promise((resolve) => socket.once('error', resolve).once('close', resolve));
  await new Promise((resolve) => socket.once('connect', resolve));
  // Half a request: the server waits for the rest of it.
  socket.write('GET /api/health HTTP/1.1\r\nHost: 127.0.0.1\r\n');
  const started = performance.now();
  await server.kill('SIGTERM');
  expect(performance.now() - started).toBeLessThan(15_000);
  await cutOff;
});
