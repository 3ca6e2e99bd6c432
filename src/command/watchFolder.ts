import { watch } from 'node:fs';
import { readdir, stat } from 'node:fs/promises';
import path from 'node:path';
import type { Against } from '@/command/against';
import { countOne, plannedBy } from '@/command/count';
import { countablesAt } from '@/command/openPath';
import { type CountOptions, EXIT, type Output } from '@/command/options';

/** A file is whole when it has not grown for so long. */
const CALM_MILLISECONDS = 1500;

/** The sizes of all that lies in a folder, by name. */
async function sizesIn(folder: string): Promise<ReadonlyMap<string, string>> {
  const sizes = new Map<string, string>();
  for (const name of await readdir(folder)) {
    if (name.startsWith('.')) continue;
    const found = await stat(path.join(folder, name)).catch(() => null);
    if (found)
      sizes.set(name, `${found.size} ${found.mtimeMs} ${found.isDirectory() ? (await readdir(path.join(folder, name))).length : ''}`);
  }
  return sizes;
}

/**
 * Counts what arrives in a folder, each thing once it has stopped growing, until it is stopped; what lies there when it begins is
 * passed over. Resolves with the worst of how each ended.
 */
export async function watchFolder(folder: string, options: CountOptions, output: Output, stop?: AbortSignal): Promise<number> {
  let known: ReadonlyMap<string, string>;
  let against: Against | null;
  try {
    known = await sizesIn(folder);
    against = await plannedBy(options);
  } catch (error) {
    output.complain(error instanceof Error ? error.message : String(error));
    return EXIT.unreadable;
  }
  let status: number = EXIT.agrees;
  let before = known;
  let wake: () => void = () => undefined;
  const watcher = watch(folder, { recursive: false }, () => wake());
  stop?.addEventListener('abort', () => wake());
  const onSignal = () => {
    isStopped = true;
    wake();
  };
  let isStopped = false;
  process.once('SIGINT', onSignal);
  process.once('SIGTERM', onSignal);
  const isOver = () => isStopped || stop?.aborted === true;
  output.complain(`Watching ${folder}: what arrives is counted. Ctrl C stops it.`);
  try {
    while (!isOver()) {
      const now = await sizesIn(folder);
      const fresh = [...now].filter(([name, size]) => known.get(name) !== size);
      const calm = fresh.filter(([name, size]) => before.get(name) === size).map(([name]) => name);
      before = now;
      if (calm.length > 0) {
        known = new Map([...known, ...calm.map((name) => [name, now.get(name) as string] as const)]);
        for (const thing of await countablesAt(
          calm.map((name) => path.join(folder, name)),
          against?.byDigests,
        ))
          status = Math.max(status, await countOne(thing, against, options, output));
        continue;
      }
      await new Promise<void>((resolve) => {
        wake = resolve;
        // What has come is looked at again until it has stopped growing.
        if (fresh.length > 0) setTimeout(resolve, CALM_MILLISECONDS);
      });
    }
  } finally {
    watcher.close();
    process.off('SIGINT', onSignal);
    process.off('SIGTERM', onSignal);
  }
  return status;
}
