import { createServer } from 'node:http';
import { expect, test } from './fixtures';
import { startServer } from './server';
import { copiedDataFolder } from './templates';

test('a page says what it may load, stands in no frame, and its data is kept nowhere on the way', async ({ app, page }) => {
  const response = await page.goto(`${app.url}/projects/washday/plan`);
  const headers = response?.headers() ?? {};
  const policy = headers['content-security-policy'] ?? '';
  const scripts = /script-src ([^;]*)/.exec(policy)?.[1] ?? '';
  expect(scripts).toMatch(/'nonce-[A-Za-z0-9+/=]{20,}'/);
  expect(scripts).not.toContain("'unsafe-inline'");
  expect(scripts).not.toContain("'unsafe-eval'");
  expect(policy).toContain("frame-ancestors 'none'");
  expect(headers['permissions-policy']).toContain('camera=()');
  const again = await page.request.get(`${app.url}/projects/washday/plan`);
  expect(/'nonce-([^']*)'/.exec(again.headers()['content-security-policy'] ?? '')?.[1]).not.toBe(/'nonce-([^']*)'/.exec(scripts)?.[1]);
  const data = await page.request.get(`${app.url}/api/projects/washday`);
  expect(data.headers()['cache-control']).toBe('no-store');
  expect(data.headers()['lime-tick-request']).toMatch(/^[0-9a-f-]{36}$/);
  const digest = /"picture":"([0-9a-f]{64})"/.exec(await data.text())?.[1];
  const picture = await page.request.get(`${app.url}/api/pictures?digests=${digest}`);
  expect(picture.headers()['cache-control']).toContain('immutable');
});

test('a program that was written into a page doesn’t run', async ({ app, browser }) => {
  // A page of its own: the refusal is told in its console, as it should be.
  const page = await browser.newPage();
  await page.goto(app.url);
  const ran = await page.evaluate(() => {
    const script = document.createElement('script');
    script.textContent = 'window.wasRun = true';
    document.body.append(script);
    return 'wasRun' in window;
  });
  expect(ran).toBe(false);
  await page.close();
});

test('a foreign page can’t put the program into a frame', async ({ app, browser }) => {
  const foreign = createServer((_request, response) => {
    response.setHeader('Content-Type', 'text/html');
    response.end(`<iframe src="${app.url}/" title="framed"></iframe>`);
  });
  await new Promise<void>((resolve) => foreign.listen(0, '127.0.0.1', resolve));
  const address = foreign.address();
  const page = await browser.newPage();
  const refused = page.waitForEvent('console', (message) => /frame-ancestors|X-Frame-Options/.test(message.text()));
  await page.goto(`http://127.0.0.1:${typeof address === 'object' && address ? address.port : 0}/`);
  await refused;
  const shown = await page.frames()[1]?.evaluate(() => document.body?.textContent ?? '');
  expect(shown).not.toContain('Washday');
  await page.close();
  await new Promise((resolve) => foreign.close(resolve));
});

test('reached from other machines it asks for the passphrase before anything else', async () => {
  const folder = await copiedDataFolder();
  await expect(startServer(folder, undefined, { LIME_TICK_PASSPHRASE: 'four leaning ticks' })).rejects.toThrow('name the https address');
  const settings = { LIME_TICK_PASSPHRASE: 'four leaning ticks', LIME_TICK_ORIGIN: 'https://film.example' };
  const app = await startServer(folder, undefined, settings);
  const ask = (path: string, options: RequestInit = {}) => fetch(`${app.url}${path}`, { redirect: 'manual', ...options });
  const shelf = await ask('/');
  expect([shelf.status, new URL(shelf.headers.get('location') ?? '', app.url).pathname]).toEqual([303, '/sign-in']);
  expect((await ask('/api/projects')).status).toBe(401);
  expect((await ask('/api/projects/x/clips', { method: 'POST', body: 'x' })).status).toBe(401);
  const page = await ask('/sign-in');
  expect([page.status, await page.text()]).toEqual([200, expect.stringContaining('Passphrase')]);
  const say = (passphrase: string) => ask('/api/session', { method: 'POST', body: JSON.stringify({ passphrase }) });
  expect((await say('a guess at it')).status).toBe(403);
  const cookie = (await say('four leaning ticks')).headers.get('set-cookie')?.split(';')[0] ?? '';
  expect((await ask('/api/projects', { headers: { cookie } })).status).toBe(200);
  expect((await ask('/', { headers: { cookie } })).status).toBe(200);
  expect((await ask('/api/session', { method: 'DELETE', headers: { cookie } })).status).toBe(200);
  expect((await ask('/api/projects', { headers: { cookie } })).status).toBe(401);
  await app.kill('SIGTERM');
});
