import { spawnSync } from 'node:child_process';
import { promised, wholeFrom } from './figure';

/* Three windows, one server, a network that fails: the model of `src/features/sync/engine.model.test.ts`, with other runs each time. */

const RUNS = wholeFrom('TRUST_RUNS', 10_000);
const { status, stdout, stderr } = spawnSync(
  'node_modules/.bin/vitest',
  ['run', 'src/features/sync/engine.model.test.ts', '--testTimeout=1800000'],
  {
    encoding: 'utf8',
    env: { ...process.env, LIME_TICK_MODEL_RUNS: String(RUNS) },
  },
);
promised({
  figure: 'windows.model',
  tried: RUNS,
  broken: status === 0 ? 0 : 1,
  ...(status === 0 ? {} : { said: `${stdout}${stderr}`.slice(-2000) }),
});
