// `npm run screenshots`: pictures of the main views for the README, from a new demo, at 1280 × 800.
import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { BROWSER_PROGRAMS, ensurePackages, ensurePrograms } from './dependencies.mjs';

ensurePackages();
ensurePrograms(BROWSER_PROGRAMS);
const { chromium } = await import('@playwright/test');
const { exitOf, HOST, runNext, untilReady } = await import('./next.mjs');

const PORT = '4159';
const OUT = 'docs/screenshots';
const url = `http://${HOST}:${PORT}`;

if ((await exitOf(runNext(['build'], { stdio: ['ignore', 'ignore', 'inherit'] }))) !== 0) process.exit(1);
mkdirSync(OUT, { recursive: true });
const folder = mkdtempSync(path.join(tmpdir(), 'lime-tick-screenshots-'));
const server = runNext(['start', '-H', HOST, '-p', PORT], { stdio: ['ignore', 'ignore', 'inherit'], env: { LIME_TICK_DATA: folder } });
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
});

try {
  await untilReady(url, server);
  await fetch(`${url}/api/demo`, { method: 'POST' });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const settle = async () => {
    await page.waitForLoadState('networkidle');
    await page.evaluate(() => document.fonts.ready);
    // Pictures are asked for once stepping has come to rest, and then decoded.
    await page.waitForTimeout(2500);
  };
  const take = async (name) => {
    await settle();
    await page.screenshot({ path: `${OUT}/${name}.png` });
    console.log(`${OUT}/${name}.png`);
  };
  await page.goto(url);
  await page.getByRole('heading', { name: 'Washday' }).waitFor();
  await take('shelf');
  const open = async (stage) => {
    await page.goto(`${url}/projects/washday/${stage}`);
    await page
      .getByRole('banner')
      .getByRole('button', { name: /^Shot / })
      .click();
    await page.getByRole('listbox', { name: 'Shots' }).getByRole('option', { name: /^020/ }).click();
    for (let frame = 1; frame < 31; frame++) await page.keyboard.press('ArrowDown');
  };
  for (const stage of ['plan', 'draw', 'check', 'assemble']) {
    await open(stage);
    if (stage === 'check') await page.getByText(/pictures checked$/).waitFor();
    await take(stage);
  }
  await page.getByRole('tab', { name: 'Finish' }).click();
  await take('finish');
  await open('draw');
  // Drawings of the demo itself, as files that are brought in.
  const { project } = await (await fetch(`${url}/api/projects/washday`)).json();
  const digests = project.shots[1].levels.find((level) => level.name === 'Sock').drawings.flatMap((drawing) => drawing.picture ?? []);
  const files = [];
  for (const [index, digest] of digests.slice(8, 20).entries()) {
    const answer = Buffer.from(await (await fetch(`${url}/api/pictures?digests=${digest}`)).arrayBuffer());
    files.push({ name: `sock_${index + (index > 5 ? 2 : 1)}.png`, mimeType: 'image/png', buffer: answer.subarray(4) });
  }
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'New level' }).click();
  await page.getByRole('menuitem', { name: /^Bring in pictures/ }).click();
  await (await chooser).setFiles(files);
  await page.getByText('Missing in the row').waitFor();
  await take('bring');
  await page.getByRole('button', { name: 'Cancel' }).click();
  await open('plan');
  await page.getByRole('radio', { name: 'Cards', exact: true }).click();
  await page.getByRole('tab', { name: 'Shots' }).click();
  await take('plan-shots');
  await page.keyboard.press('Alt+r');
  await page.getByRole('dialog').waitFor();
  await take('rate');
  await open('hand-over');
  const handed = page.waitForEvent('download', { timeout: 120_000 });
  await page.getByRole('button', { name: /^Hand over \d/ }).click();
  await page.getByTestId('verdict').first().waitFor({ timeout: 120_000 });
  await take('hand-over');
  // The film that was handed over comes back from editing with a frame there twice.
  const film = path.join(folder, 'reel.mp4');
  await (await handed).saveAs(film);
  const edited = path.join(folder, 'yard_edit_v3.mov');
  const cut =
    '[0:v]split=2[a][b];[a]trim=end_frame=112,setpts=PTS-STARTPTS[x];[b]trim=start_frame=111,setpts=PTS-STARTPTS[y];[x][y]concat=n=2:v=1[v]';
  const coding = ['-map', '[v]', '-map', '0:a', '-r', '24', '-c:v', 'libx264', '-crf', '18', '-c:a', 'copy'];
  execFileSync('ffmpeg', ['-v', 'error', '-i', film, '-filter_complex', cut, ...coding, edited]);
  await page.getByRole('radio', { name: 'Counting desk' }).click();
  await page.getByTestId('desk-files').setInputFiles([edited, film]);
  await page.getByTestId('desk-verdict').nth(1).waitFor({ timeout: 120_000 });
  await take('counting-desk');
  await page.getByRole('radio', { name: 'Hand over' }).click();
  await page.getByRole('radio', { name: /^Shot .* alone/ }).click();
  await page.getByRole('radio', { name: 'GIF', exact: true }).click();
  await page.getByText(/ bytes\)/).waitFor({ timeout: 120_000 });
  await page.getByRole('img', { name: 'Result' }).waitFor();
  await take('loop');
  // A morning's work on the sock, named, and what came of it.
  await open('plan');
  await page.keyboard.press('3');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Alt+7');
  await page.getByLabel('Name of this moment').fill('before the retake');
  await page.getByLabel('Name of this moment').press('Enter');
  await page.getByRole('slider', { name: 'Frame' }).focus();
  for (let frame = 1; frame < 40; frame++) await page.keyboard.press('ArrowRight');
  await take('past');
  await page.goto(`${url}/store`);
  await page.getByRole('button', { name: 'Make one now' }).click();
  await page.getByText('it was opened and read back').waitFor({ timeout: 60_000 });
  await take('store');
} finally {
  await browser.close();
  server.kill('SIGTERM');
  await exitOf(server);
  rmSync(folder, { recursive: true, force: true });
}
