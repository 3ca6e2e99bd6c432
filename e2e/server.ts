import { type ChildProcess, spawn } from 'node:child_process';
import { rmSync } from 'node:fs';
import { mkdtemp } from 'node:fs/promises';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';

/** A running Lime Tick with a data folder of its own. */
export type Running = {
  readonly url: string;
  readonly folder: string;
  readonly kill: (signal: NodeJS.Signals) => Promise<void>;
  readonly output: () => string;
  readonly process: ChildProcess;
};

/** A port nothing listens on. */
export async function freePort(): Promise<number> {
  return new Promise((resolve, reject) => {
    const probe = createServer();
    probe.once('error', reject);
    probe.listen(0, '127.0.0.1', () => {
      const address = probe.address();
      probe.close(() => resolve(typeof address === 'object' && address ? address.port : 0));
    });
  });
}

const dataFolders: string[] = [];
process.once('exit', () => {
  for (const folder of dataFolders) rmSync(folder, { recursive: true, force: true, maxRetries: 3 });
});

/** A new empty data folder, gone again when this process ends: whoever tests every day would fill their disk. */
export async function newDataFolder(): Promise<string> {
  const folder = await mkdtemp(path.join(tmpdir(), 'lime-tick-e2e-'));
  dataFolders.push(folder);
  return folder;
}

/** Starts the built application; ends once its database is open. Throws with its output when it stops instead. */
export async function startServer(folder: string, port?: number, settings: Readonly<Record<string, string>> = {}): Promise<Running> {
  const usedPort = port ?? (await freePort());
  const child = spawn(process.execPath, ['node_modules/next/dist/bin/next', 'start', '-H', '127.0.0.1', '-p', String(usedPort)], {
    env: {
      ...process.env,
      NODE_ENV: 'production',
      NEXT_TELEMETRY_DISABLED: '1',
      LIME_TICK_DATA: folder,
      LIME_TICK_COPIES: 'off',
      ...settings,
    },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let output = '';
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk: Buffer) => (output += chunk.toString()));
  const ended = new Promise<void>((resolve) => child.once('exit', () => resolve()));
  const url = `http://127.0.0.1:${usedPort}`;
  const running: Running = {
    url,
    folder,
    process: child,
    output: () => output,
    kill: async (signal) => {
      child.kill(signal);
      await ended;
    },
  };
  for (const giveUp = Date.now() + 90_000; Date.now() < giveUp; ) {
    if (child.exitCode !== null) throw new Error(`The server stopped: ${output}`);
    const answer = await fetch(`${url}/api/health`).catch(() => null);
    if (answer?.ok) return running;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error(`The server was not ready in time: ${output}`);
}
