// `npm run build`: the production build.
import { exitOf, runNext } from './next.mjs';

process.exitCode = await exitOf(runNext(['build']));
