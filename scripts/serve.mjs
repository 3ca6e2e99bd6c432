// `npm start` and `npm run dev`: Lime Tick on this machine's own address.
import { DEFAULT_PORT, exitOf, HOST, runNext } from './next.mjs';

const mode = process.argv[2] === 'dev' ? 'dev' : 'start';
const port = process.env.PORT ?? String(DEFAULT_PORT);
const child = runNext([mode, '-H', HOST, '-p', port]);
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child.kill(signal));
process.exitCode = await exitOf(child);
