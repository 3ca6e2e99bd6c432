import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { type FileHandle, mkdir, open, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import { hostname } from 'node:os';
import path from 'node:path';

/*
 * Two processes on one data folder lose rows and break it, since the embedded database keeps no lock of its
 * own. So one process holds an advisory lock of the operating system on a file of the folder, for as long as
 * it lives. The kernel takes it atomically, shows it to every process on that file whatever namespace it is
 * in, and frees it with the process, however that ends. Time alone never frees it: a process that was stopped
 * for an hour still holds it.
 *
 * Should the lock be lost all the same — its file was deleted under a running server, or lies on a network
 * drive that knows no locks — the holder's own mark in `holder.json` is replaced by the next holder's. Every
 * write looks there first, so that one who lost the folder writes nothing more.
 */

const LOCK_FILE = 'folder.lock';
const HOLDER_FILE = 'holder.json';

/** The data folder is in use by another running server; the message says so in a sentence. */
export class FolderInUse extends Error {
  override readonly name = 'FolderInUse';
}

/** The operating system’s file locks can’t be used here; the message says what to do. */
export class NoFileLocks extends Error {
  override readonly name = 'NoFileLocks';
}

/** This process no longer holds the data folder it opened: nothing more may be written. */
export class FolderLost extends Error {
  override readonly name = 'FolderLost';
}

/** A data folder held by this process. */
export type HeldFolder = {
  /** Throws FolderLost when another process has taken the folder over. */
  readonly checkHeld: () => void;
  /** Lets go of the folder. */
  readonly release: () => Promise<void>;
};

type Holder = { readonly mark: string; readonly pid: number; readonly host: string };

async function holderOf(folder: string): Promise<Holder | null> {
  try {
    return JSON.parse(await readFile(path.join(/* turbopackIgnore: true */ folder, HOLDER_FILE), 'utf8')) as Holder;
  } catch {
    return null;
  }
}

const inUse = (folder: string, holder: Pick<Holder, 'pid' | 'host'> | null) =>
  new FolderInUse(
    `The data folder ${folder} is in use by another Lime Tick${holder ? ` (process ${holder.pid} on ${holder.host})` : ''}: stop that one first, or set LIME_TICK_DATA to another folder.`,
  );

/** How often a server of the version before touched its lock, with room for one that is slow. */
const OLD_LOCK_MILLISECONDS = 20_000;

/** Refuses a folder that a server of the version before, which locked in another way, is working on. */
async function checkOldLock(folder: string): Promise<void> {
  const lock = await stat(path.join(/* turbopackIgnore: true */ folder, 'holder.lock')).catch(() => null);
  if (!lock?.isDirectory() || Date.now() - lock.mtimeMs > OLD_LOCK_MILLISECONDS) return;
  const pid = Number.parseInt(await readFile(path.join(/* turbopackIgnore: true */ folder, 'holder.pid'), 'utf8').catch(() => ''), 10);
  const runs = () => {
    try {
      process.kill(pid, 0);
      return true;
    } catch (error) {
      return (error as NodeJS.ErrnoException).code === 'EPERM';
    }
  };
  if (Number.isInteger(pid) && pid > 0 && pid !== process.pid && runs()) throw inUse(folder, { pid, host: hostname() });
}

/** Whether the file that is open is still the one of that name. */
async function isStillThere(file: FileHandle, name: string): Promise<boolean> {
  const [held, named] = await Promise.all([file.stat(), stat(name).catch(() => null)]);
  return named !== null && held.ino === named.ino && held.dev === named.dev;
}

/** The operating system's file locks. Throws NoFileLocks on a system the package has no build for. */
async function fileLocks(): Promise<typeof import('fs-native-extensions')> {
  try {
    return await import('fs-native-extensions');
  } catch (error) {
    throw new NoFileLocks(
      `This system (${process.platform}, ${process.arch}) has no file locks that Lime Tick can use, so it can’t keep data in a folder safely: set DATABASE_URL to a PostgreSQL server.`,
      { cause: error },
    );
  }
}

/** The data folder can't be written to; the message says why and what to do. */
export class FolderUnwritable extends Error {
  override readonly name = 'FolderUnwritable';
}

const WHY_UNWRITABLE: Readonly<Record<string, string>> = {
  EACCES: 'whoever runs Lime Tick may not write there',
  EPERM: 'whoever runs Lime Tick may not write there',
  EROFS: 'its disk can only be read',
  ENOSPC: 'its disk is full',
  EDQUOT: 'its share of the disk is full',
};

/** Takes the lock of a data folder for this process. Throws FolderInUse when another process holds it, FolderUnwritable when nothing can be written there. */
export async function holdFolder(folder: string): Promise<HeldFolder> {
  try {
    return await takeLock(folder);
  } catch (error) {
    const why = WHY_UNWRITABLE[(error as NodeJS.ErrnoException).code ?? ''];
    if (why === undefined) throw error;
    throw new FolderUnwritable(
      `The data folder ${folder} can’t be written to: ${why}. Nothing in it was changed. See to that, or name another folder with LIME_TICK_DATA, and start again.`,
      { cause: error },
    );
  }
}

async function takeLock(folder: string): Promise<HeldFolder> {
  await mkdir(folder, { recursive: true });
  await checkOldLock(folder);
  const { tryLock } = await fileLocks();
  const lockFile = path.join(/* turbopackIgnore: true */ folder, LOCK_FILE);
  const file = await open(lockFile, 'a+');
  // A file that was replaced between opening and locking locks nothing.
  if (!tryLock(file.fd) || !(await isStillThere(file, lockFile))) {
    await file.close();
    throw inUse(folder, await holderOf(folder));
  }
  const holder: Holder = { mark: randomUUID(), pid: process.pid, host: hostname() };
  const holderFile = path.join(/* turbopackIgnore: true */ folder, HOLDER_FILE);
  await writeFile(`${holderFile}.new`, JSON.stringify(holder));
  await rename(`${holderFile}.new`, holderFile);
  await rm(path.join(/* turbopackIgnore: true */ folder, 'holder.lock'), { recursive: true, force: true });
  await rm(path.join(/* turbopackIgnore: true */ folder, 'holder.pid'), { force: true });
  return {
    checkHeld() {
      let mark: unknown;
      try {
        mark = (JSON.parse(readFileSync(holderFile, 'utf8')) as Partial<Holder>).mark;
      } catch {
        mark = null;
      }
      if (mark !== holder.mark)
        throw new FolderLost(`The data folder ${folder} was taken over by another Lime Tick: this one writes nothing more to it.`);
    },
    release: () => file.close(),
  };
}
