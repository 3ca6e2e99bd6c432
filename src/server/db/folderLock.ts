import { mkdir, readFile, rm, writeFile } from 'node:fs/promises';
import path from 'node:path';
import lockfile from 'proper-lockfile';

/*
 * Two processes on one data folder lose rows, since the embedded database keeps no lock of its own. So
 * one process holds a lock for as long as it lives, and writes its pid beside it: after a kill the lock
 * is taken over at once when that process is gone, instead of waiting for it to grow stale. Making a
 * new folder keeps the event loop busy for seconds, hence the patience before a lock counts as stale.
 */
const STALE_MILLISECONDS = 60_000;
const UPDATE_MILLISECONDS = 5_000;

/** The data folder is in use by another running server; the message says so in a sentence. */
export class FolderInUse extends Error {
  override readonly name = 'FolderInUse';
}

function isRunning(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
}

async function holderOf(holderFile: string): Promise<number | null> {
  const text = await readFile(holderFile, 'utf8').catch(() => '');
  const pid = Number.parseInt(text, 10);
  return Number.isInteger(pid) && pid > 0 ? pid : null;
}

/**
 * Takes the lock of a data folder for this process; the answer lets go of it.
 * Throws FolderInUse when another running process holds it.
 */
export async function holdFolder(folder: string): Promise<() => Promise<void>> {
  await mkdir(folder, { recursive: true });
  const holderFile = path.join(folder, 'holder.pid');
  const lockPath = path.join(folder, 'holder.lock');
  const take = () =>
    lockfile.lock(folder, {
      lockfilePath: lockPath,
      stale: STALE_MILLISECONDS,
      update: UPDATE_MILLISECONDS,
      onCompromised: (error) => {
        console.error(`The lock on ${folder} was lost (${error.message}): stopping, so that no two servers write to it.`);
        process.exit(1);
      },
    });
  let release: () => Promise<void>;
  try {
    release = await take();
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ELOCKED') throw error;
    const holder = await holderOf(holderFile);
    if (holder === null || holder === process.pid || isRunning(holder)) {
      throw new FolderInUse(
        `The data folder ${folder} is in use by another Lime Tick${holder ? ` (process ${holder})` : ''}: stop that one first, or set LIME_TICK_DATA to another folder.`,
      );
    }
    await rm(lockPath, { recursive: true, force: true });
    release = await take();
  }
  await writeFile(holderFile, String(process.pid));
  return release;
}
