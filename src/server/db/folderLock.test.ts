import { type ChildProcess, spawn, spawnSync } from 'node:child_process';
import { mkdir, mkdtemp, rm, utimes, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { FolderInUse, FolderLost, holdFolder } from '@/server/db/folderLock';

const newFolder = () => mkdtemp(path.join(tmpdir(), 'lime-tick-lock-'));

/** A program that takes the lock of a folder's lock file as a server does, and says whether it has it. */
const HOLDER = `
  const { tryLock } = require('fs-native-extensions');
  const fd = require('node:fs').openSync(process.argv[1] + '/folder.lock', 'a+');
  console.log(tryLock(fd) ? 'held' : 'refused');
  setInterval(() => {}, 1000);
`;

async function otherHolder(folder: string, command: readonly string[] = []): Promise<{ child: ChildProcess; said: string }> {
  const [program = process.execPath, ...args] = [...command, process.execPath, '-e', HOLDER, folder];
  const child = spawn(program, args, { stdio: ['ignore', 'pipe', 'inherit'] });
  const said = await new Promise<string>((resolve) => child.stdout?.once('data', (data: Buffer) => resolve(data.toString().trim())));
  return { child, said };
}

const ended = (child: ChildProcess) => new Promise((resolve) => child.once('exit', resolve));

/** Whether this machine lets a process have a pid namespace of its own, as a container has. */
const hasNamespaces = spawnSync('unshare', ['--pid', '--fork', 'true']).status === 0;

describe('holdFolder', () => {
  it('holds a folder for one and refuses the second with a sentence that names the first', async () => {
    const folder = await newFolder();
    const held = await holdFolder(folder);
    await expect(holdFolder(folder)).rejects.toThrow(FolderInUse);
    await expect(holdFolder(folder)).rejects.toThrow(`process ${process.pid} on`);
    await held.release();
    await (await holdFolder(folder)).release();
  });

  it('refuses while another process holds it, also one that is stopped, and takes over at once when that was killed', async () => {
    const folder = await newFolder();
    const { child, said } = await otherHolder(folder);
    expect(said).toBe('held');
    await expect(holdFolder(folder)).rejects.toThrow(FolderInUse);
    child.kill('SIGSTOP');
    await expect(holdFolder(folder)).rejects.toThrow(FolderInUse);
    const gone = ended(child);
    child.kill('SIGKILL');
    await gone;
    await (await holdFolder(folder)).release();
  });

  it.skipIf(!hasNamespaces)('is seen from another pid namespace, where the holder has no pid', async () => {
    const folder = await newFolder();
    const held = await holdFolder(folder);
    const { child, said } = await otherHolder(folder, ['unshare', '--pid', '--fork', '--kill-child']);
    expect(said).toBe('refused');
    child.kill('SIGKILL');
    await held.release();
  });

  it('is given to one of many that ask at the same moment', async () => {
    const folder = await newFolder();
    for (let round = 0; round < 20; round++) {
      const tries = await Promise.allSettled(Array.from({ length: 8 }, () => holdFolder(folder)));
      const holders = tries.flatMap((each) => (each.status === 'fulfilled' ? [each.value] : []));
      expect(holders).toHaveLength(1);
      await holders[0]?.release();
    }
  });

  it('cares about no pid: neither its own nor an unrelated one in a file left behind refuses', async () => {
    const folder = await newFolder();
    await writeFile(path.join(folder, 'holder.json'), JSON.stringify({ mark: 'old', pid: process.pid, host: 'here' }));
    await (await holdFolder(folder)).release();
  });

  it('tells a holder whose lock was lost, before it writes', async () => {
    const folder = await newFolder();
    const first = await holdFolder(folder);
    first.checkHeld();
    await rm(path.join(folder, 'folder.lock'));
    const second = await holdFolder(folder);
    expect(() => first.checkHeld()).toThrow(FolderLost);
    second.checkHeld();
    await first.release();
    await second.release();
  });

  it('leaves a folder alone that a server of the version before works on, and takes one it left behind', async () => {
    const folder = await newFolder();
    const lock = path.join(folder, 'holder.lock');
    await mkdir(lock);
    await writeFile(path.join(folder, 'holder.pid'), '1');
    await expect(holdFolder(folder)).rejects.toThrow('process 1');
    const long = new Date(Date.now() - 60_000);
    await utimes(lock, long, long);
    await (await holdFolder(folder)).release();
  });

  it('makes a folder that is not there, however deep', async () => {
    const held = await holdFolder(path.join(await newFolder(), 'a', 'b'));
    await held.release();
  });
});
