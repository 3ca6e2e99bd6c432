import { gzipSync } from 'node:zlib';
import type { Page } from '@playwright/test';

/** How long it took until a page could be used; and what the programs weigh that were asked for until then, packed with gzip, in KiB. */
export type FirstLoad = { readonly milliseconds: number; readonly scriptKib: () => Promise<number> };

/** Opens an address and weighs every script that came until `usable` ends. */
export async function firstLoad(page: Page, address: string, usable: (page: Page) => Promise<void>): Promise<FirstLoad> {
  const devtools = await page.context().newCDPSession(page);
  await devtools.send('Network.enable');
  const scripts = new Map<string, Promise<boolean>>();
  const settled = new Map<string, (came: boolean) => void>();
  devtools.on('Network.requestWillBeSent', ({ requestId, type, initiator }) => {
    // Workers load theirs beside the page, when it is calm.
    if (type === 'Script' && initiator.type !== 'other') scripts.set(requestId, new Promise((resolve) => settled.set(requestId, resolve)));
  });
  devtools.on('Network.loadingFinished', ({ requestId }) => settled.get(requestId)?.(true));
  devtools.on('Network.loadingFailed', ({ requestId }) => settled.get(requestId)?.(false));
  // What comes once a page is calm is no part of it, however slow the machine: it is not begun while this is weighed.
  // As text: a compiler may name functions through a helper that a page does not have.
  await page.addInitScript(`{
    const { setTimeout } = window;
    window.setTimeout = (handler, milliseconds, ...given) => setTimeout(handler, milliseconds === 800 ? 3_600_000 : milliseconds, ...given);
  }`);
  const started = performance.now();
  await page.goto(address);
  await usable(page);
  const milliseconds = performance.now() - started;
  const asked = [...scripts];
  return {
    milliseconds,
    scriptKib: async () => {
      let bytes = 0;
      for (const [requestId, came] of asked) {
        if (!(await came)) continue;
        const { body, base64Encoded } = await devtools.send('Network.getResponseBody', { requestId });
        bytes += gzipSync(Buffer.from(body, base64Encoded ? 'base64' : 'utf8')).byteLength;
      }
      await devtools.detach();
      return bytes / 1024;
    },
  };
}

export const shelfUsable = (page: Page): Promise<void> => page.getByRole('heading', { name: 'Washday' }).waitFor();
/** Its panels are there, and what it says of saving. */
export async function stageUsable(page: Page): Promise<void> {
  await page.getByTestId('kept').waitFor();
  await page.locator('main .panel').first().waitFor();
}
