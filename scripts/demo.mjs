// `npm run demo`: installs, builds, makes the demo projects and serves them.
import { ensurePackages } from './dependencies.mjs';

ensurePackages();
const { DEFAULT_PORT, exitOf, HOST, runNext, untilReady } = await import('./next.mjs');

console.log('Building …');
const built = await exitOf(runNext(['build']));
if (built !== 0) process.exit(built);

const port = process.env.PORT ?? String(DEFAULT_PORT);
const url = `http://${HOST}:${port}`;
const server = runNext(['start', '-H', HOST, '-p', port]);
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
try {
  console.log('Opening the data folder (a new one takes some seconds) …');
  await untilReady(url, server);
  console.log('Drawing Washday, unless it is there already …');
  const made = await fetch(`${url}/api/demo`, { method: 'POST' });
  if (!made.ok) throw new Error(`The demo could not be made: the server answered ${made.status}.`);
  console.log(`\nLime Tick is at ${url}  (Ctrl C stops it)\n`);
} catch (error) {
  console.error(error instanceof Error ? error.message : error);
  server.kill('SIGTERM');
  process.exitCode = 1;
}
process.exitCode = (await exitOf(server)) || process.exitCode;
