import { spawn } from 'node:child_process';
import { mkdir, mkdtemp, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { FolderInUse, holdFolder } from '@/server/db/folderLock';

const newFolder = () => mkdtemp(path.join(tmpdir(), 'lime-tick-lock-'));

/** A pid that was a process a moment ago and is none now. */
async function endedPid(): Promise<number> {
  const child = spawn(process.execPath, ['-e', '']);
  await new Promise((resolve) => child.on('exit', resolve));
  return child.pid ?? 0;
}

describe('holdFolder', () => {
  it('holds a folder for one process and refuses the second with a sentence', async () => {
    const folder = await newFolder();
    const release = await holdFolder(folder);
    await expect(holdFolder(folder)).rejects.toThrow(FolderInUse);
    await expect(holdFolder(folder)).rejects.toThrow(`process ${process.pid}`);
    await release();
    await (await holdFolder(folder))();
  });

  it('takes over at once from a process that was killed', async () => {
    const folder = await newFolder();
    await mkdir(path.join(folder, 'holder.lock'));
    await writeFile(path.join(folder, 'holder.pid'), String(await endedPid()));
    await (await holdFolder(folder))();
  });

  it('does not take over from a process that runs', async () => {
    const folder = await newFolder();
    await mkdir(path.join(folder, 'holder.lock'));
    await writeFile(path.join(folder, 'holder.pid'), '1');
    await expect(holdFolder(folder)).rejects.toThrow('in use by another Lime Tick (process 1)');
  });

  it('makes a folder that is not there, however deep', async () => {
    const release = await holdFolder(path.join(await newFolder(), 'a', 'b'));
    await release();
  });
});
