import path from 'node:path';
import type { Page } from '@playwright/test';
import { build } from 'esbuild';

/** What lets a page that is isolated load a script or a file of the tests' own. */
export const OWN_HEADERS = { 'Cross-Origin-Embedder-Policy': 'require-corp', 'Cross-Origin-Resource-Policy': 'same-origin' };

/**
 * Has a page run a worker of the tests' own, bundled with the program's code: what is sent to it is answered by its first
 * message, and then it is ended. Rejects with what a worker threw.
 */
export async function ownWorker<Answer>(page: Page, entry: string): Promise<(message: object) => Promise<Answer>> {
  const made = await build({ entryPoints: [path.resolve(entry)], bundle: true, format: 'esm', write: false, target: 'es2022' });
  const address = `/own/${path.basename(path.dirname(entry))}.js`;
  await page.route(`**${address}`, (route) =>
    route.fulfill({ body: made.outputFiles[0]?.text ?? '', contentType: 'text/javascript', headers: OWN_HEADERS }),
  );
  return (message) =>
    page.evaluate(
      ([sent, from]) =>
        new Promise<Answer>((resolve, reject) => {
          const worker = new Worker(from, { type: 'module' });
          worker.onmessage = ({ data }) => {
            worker.terminate();
            resolve(data);
          };
          worker.onerror = (event) => reject(new Error(event.message));
          worker.postMessage(sent);
        }),
      [message, address] as const,
    );
}
