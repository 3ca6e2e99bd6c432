import { execFileSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Browser, type BrowserContext, chromium, type Page } from '@playwright/test';
import playwright from '../playwright.config';
import { print } from './figure';

/** The browser as people have it, with the settings of the tests. */
const whole = { ...playwright.use?.launchOptions, executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium' };

export const openBrowser = (): Promise<Browser> => chromium.launch(whole);

/** The same with a folder of its own, as people have it: without one, every write to the browser's private files is a message to another process. */
export const openKeptBrowser = async (): Promise<BrowserContext> =>
  chromium.launchPersistentContext(await mkdtemp(join(tmpdir(), 'lime-tick-browser-')), whole);

/** How a handover went: until the file was written, until it was counted, what its receipt says, and where it was saved. */
export type Handed = {
  readonly writtenSeconds: number;
  readonly countedSeconds: number;
  readonly pictures: number;
  readonly verdict: string;
  readonly file: string;
};

const CALM_MILLISECONDS = 3000;

/** Hands a project's whole reel over as one kind, through the screen a person uses, once what is chosen is `ready` to be. */
export async function handOver(
  page: Page,
  url: string,
  projectId: string,
  kind: string,
  ground = 'With background',
  ready: (page: Page) => Promise<void> = async () => undefined,
): Promise<Handed> {
  await page.goto(`${url}/projects/${projectId}/hand-over`);
  await page.getByRole('radio', { name: ground }).click();
  await page.getByRole('radio', { name: kind, exact: true }).first().click();
  const before = await page.getByRole('article').count();
  await page.evaluate(() => {
    const state = window as Window & { writtenAt?: number };
    delete state.writtenAt;
    new MutationObserver(() => {
      if (document.body.textContent?.includes('opening the file again')) state.writtenAt ??= performance.now();
    }).observe(document.body, { subtree: true, childList: true, characterData: true });
  });
  await ready(page);
  // What is measured begins with the press, on a stage that has come to rest: while it opens, pictures are measured for the path.
  await page.waitForTimeout(CALM_MILLISECONDS);
  const download = page.waitForEvent('download', { timeout: 600_000 });
  // Where the press fails, that is what is told, and not that nobody waits for the file any more.
  download.catch(() => undefined);
  const started = await page.evaluate(() => performance.now());
  await page.getByRole('button', { name: /^Hand over \d/ }).click();
  const file = await (await download).path();
  await page.waitForFunction((count) => document.querySelectorAll('article').length > count, before, { timeout: 60_000 });
  const ended = await page.evaluate(() => performance.now());
  const writtenAt = await page.evaluate(() => (window as Window & { writtenAt?: number }).writtenAt ?? Number.NaN);
  const receipt = page.getByRole('article').first();
  const pictures = Number(/(\d+) pictures made/.exec((await receipt.textContent()) ?? '')?.[1] ?? Number.NaN);
  return {
    writtenSeconds: (writtenAt - started) / 1000,
    countedSeconds: (ended - started) / 1000,
    pictures,
    verdict: (await receipt.getByTestId('verdict').textContent()) ?? '',
    file,
  };
}

/** MiB a process holds as told by a line of its status: all of it, or what is in it of files, which is the browser's own program and shared by all its processes. */
function heldMebibytes(pid: string, line: 'VmRSS' | 'RssFile'): number {
  const [, kibibytes] = new RegExp(`^${line}:\\s+(\\d+)`, 'm').exec(readFileSync(`/proc/${pid}/status`, 'utf8')) ?? [];
  return Number(kibibytes ?? 0) / 1024;
}

/** Watches the memory of the browser's page processes; `print` tells the most seen of the largest, in MiB: what is its own, and all that it has. */
export function watchPageMemory(): { print: (name: string, against?: number) => number; rest: () => void; goOn: () => void } {
  let [all, own] = [0, 0];
  let rests = false;
  const look = () => {
    if (rests) return;
    const rows = execFileSync('ps', ['-eo', 'pid=,args='], { encoding: 'utf8', maxBuffer: 16 * 1024 * 1024 }).split('\n');
    for (const row of rows) {
      const pid = /^\s*(\d+) .*--type=renderer/.exec(row)?.[1];
      if (pid === undefined || !existsSync(`/proc/${pid}/status`)) continue;
      const [held, ofFiles] = [heldMebibytes(pid, 'VmRSS'), heldMebibytes(pid, 'RssFile')];
      all = Math.max(all, held);
      own = Math.max(own, held - ofFiles);
    }
  };
  const timer = setInterval(look, 300);
  return {
    rest: () => {
      rests = true;
    },
    goOn: () => {
      rests = false;
    },
    print: (name, against) => {
      clearInterval(timer);
      look();
      print({ name, value: own, unit: 'MiB', against });
      print({ name: `${name}.withProgram`, value: all, unit: 'MiB' });
      return own;
    },
  };
}

/**
 * Milliseconds from a key press to the painted page, for each press: from the event's own time to the
 * task after the next animation frame, when its painting has been handed on.
 */
export async function paintTimes(page: Page, keys: readonly string[], presses = 120): Promise<number[]> {
  await page.evaluate(() => {
    const state = window as Window & { painted?: number[]; listening?: AbortController };
    // One listener at a time, and a held modifier is no press: else a press is taken for painted that is not.
    state.listening?.abort();
    state.listening = new AbortController();
    const painted: number[] = [];
    state.painted = painted;
    window.addEventListener(
      'keydown',
      ({ key, timeStamp }) => {
        if (['Shift', 'Alt', 'Control', 'Meta'].includes(key)) return;
        requestAnimationFrame(() => {
          const channel = new MessageChannel();
          channel.port1.onmessage = () => painted.push(performance.now() - timeStamp);
          channel.port2.postMessage(null);
        });
      },
      { capture: true, signal: state.listening.signal },
    );
  });
  for (let press = 0; press < presses; press++) {
    await page.keyboard.press(keys[press % keys.length] ?? 'ArrowDown');
    await page.waitForFunction((count) => ((window as Window & { painted?: number[] }).painted?.length ?? 0) >= count, press + 1, {
      polling: 4,
    });
  }
  return page.evaluate(() => (window as Window & { painted?: number[] }).painted ?? []);
}
