// Starts Next with the settings every command shares: this machine only, no telemetry.
import { spawn } from 'node:child_process';

export const HOST = '127.0.0.1';
export const DEFAULT_PORT = 4151;
const NEXT = 'node_modules/next/dist/bin/next';

/** Environment for a child: nothing is sent anywhere. */
export const childEnv = (extra = {}) => ({ ...process.env, NEXT_TELEMETRY_DISABLED: '1', ...extra });

/** Runs Next; the child's pid is the server's own. */
export function runNext(args, options = {}) {
  return spawn(process.execPath, [NEXT, ...args], { stdio: 'inherit', ...options, env: childEnv(options.env) });
}

/** Ends with the child's exit code. */
export function exitOf(child) {
  if (child.exitCode !== null) return Promise.resolve(child.exitCode);
  return new Promise((resolve) => child.on('exit', (code, signal) => resolve(code ?? (signal ? 1 : 0))));
}

/** Waits until a server answers that its database is open; throws when its process ends first. */
export async function untilReady(url, child, patienceSeconds = 120) {
  let ended = false;
  child.once('exit', () => {
    ended = true;
  });
  const giveUp = Date.now() + patienceSeconds * 1000;
  while (Date.now() < giveUp) {
    if (ended) throw new Error('The server stopped before it was ready; its last words are above.');
    const answer = await fetch(`${url}/api/health`).catch(() => null);
    if (answer?.ok) return;
    await new Promise((resolve) => setTimeout(resolve, 250));
  }
  throw new Error(`The server at ${url} was not ready after ${patienceSeconds} s.`);
}
