import { spawnSync } from 'node:child_process';
import { chmodSync, chownSync, copyFileSync, existsSync, mkdtempSync, readdirSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';

/** A PostgreSQL server of the tests' own: its address, and how it is stopped and started. */
export type Postgres = { readonly url: string; readonly stop: () => void; readonly start: () => void };

const ROOT = '/usr/lib/postgresql';

/** A port nothing listens on. */
const freePort = (): Promise<number> =>
  new Promise((resolve, reject) => {
    const probe = createServer();
    probe.once('error', reject);
    probe.listen(0, '127.0.0.1', () => {
      const address = probe.address();
      probe.close(() => resolve(typeof address === 'object' && address ? address.port : 0));
    });
  });

/** Where Debian keeps PostgreSQL's programs; null when there are none. */
export function postgresPrograms(): string | null {
  const versions = existsSync(ROOT) ? readdirSync(ROOT).sort() : [];
  const newest = versions.at(-1);
  return newest ? path.join(ROOT, newest, 'bin') : null;
}

/** Runs a program as a user PostgreSQL lets start it: it refuses root. */
function run(program: string, args: readonly string[]): void {
  const isRoot = process.getuid?.() === 0;
  const [command, ...rest] = isRoot ? ['runuser', '-u', 'postgres', '--', program, ...args] : [program, ...args];
  const { status, stderr } = spawnSync(command as string, rest, { encoding: 'utf8', cwd: tmpdir(), stdio: ['ignore', 'ignore', 'pipe'] });
  if (status !== 0) throw new Error(`${program} failed: ${stderr}`);
}

/** Has files belong to the user the server runs as. */
function giveToServer(...files: readonly string[]): void {
  if (process.getuid?.() !== 0) return;
  const id = (flag: string) => Number(spawnSync('id', [flag, 'postgres'], { encoding: 'utf8' }).stdout.trim());
  for (const file of files) chownSync(file, id('-u'), id('-g'));
}

/** A certificate with its key, and which lines of pg_hba.conf say who may come. */
export type Guard = { readonly certificate: string; readonly key: string; readonly access: string };

/** Makes and starts a PostgreSQL server in a folder of its own; it lets everybody in from here, or as a guard says. */
export async function startPostgres(programs: string, guard: Guard | null = null): Promise<Postgres> {
  const folder = mkdtempSync(path.join(tmpdir(), 'lime-tick-postgres-'));
  giveToServer(folder);
  const data = path.join(folder, 'data');
  const port = await freePort();
  run(path.join(programs, 'initdb'), ['-D', data, '-U', 'postgres', '--auth=trust', '-N']);
  const [certificate, key, access] = ['server.crt', 'server.key', 'pg_hba.conf'].map((name) => path.join(data, name)) as [
    string,
    string,
    string,
  ];
  if (guard) {
    copyFileSync(guard.certificate, certificate);
    copyFileSync(guard.key, key);
    chmodSync(key, 0o600);
    giveToServer(certificate, key);
    writeFileSync(access, guard.access);
  }
  const options = `-p ${port} -k ${folder} -c listen_addresses=127.0.0.1 -c fsync=off ${guard ? '-c ssl=on' : ''}`;
  const control = (...args: readonly string[]) =>
    run(path.join(programs, 'pg_ctl'), ['-D', data, '-w', '-l', path.join(folder, 'log'), ...args]);
  const start = () => control('-o', options, 'start');
  start();
  return { url: `postgresql://postgres@127.0.0.1:${port}/postgres`, start, stop: () => control('-m', 'immediate', 'stop') };
}
