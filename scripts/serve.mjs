// `npm start` and `npm run dev`: Lime Tick on this machine's own address.
import { DEFAULT_PORT, exitOf, HOST, runNext } from './next.mjs';

const mode = process.argv[2] === 'dev' ? 'dev' : 'start';
const port = process.env.PORT ?? String(DEFAULT_PORT);
// Anywhere but on this machine the program refuses to run without a passphrase and a proxy; see docs/team.md.
const child = runNext([mode, '-H', process.env.LIME_TICK_HOST ?? HOST, '-p', port]);
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child.kill(signal));
process.exitCode = await exitOf(child);
