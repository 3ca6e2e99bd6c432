// `npm test`: installs what it needs, then types, lint with the room borders, unit tests, build and browser tests.
import { spawn } from 'node:child_process';
import { BROWSER_PROGRAMS, ensurePackages, ensurePrograms } from './dependencies.mjs';

function run(words, command, args) {
  console.log(`\n— ${words}`);
  const started = Date.now();
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, { stdio: 'inherit', env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1' } });
    child.on('exit', (code) => {
      const seconds = ((Date.now() - started) / 1000).toFixed(0);
      if (code === 0) resolve(console.log(`— ${words}: passed in ${seconds} s`));
      else reject(new Error(`${words}: failed after ${seconds} s.`));
    });
  });
}

const bin = (name) => `node_modules/.bin/${name}`;

try {
  ensurePackages();
  ensurePrograms(BROWSER_PROGRAMS);
  await run('Route types', bin('next'), ['typegen']);
  await run('Types of the core', bin('tsc'), ['-p', 'src/core']);
  await run('Types', bin('tsc'), ['-p', '.']);
  await run('Lint, room borders, unused files and packages', process.execPath, ['scripts/lint.mjs']);
  await run('Unit tests', bin('vitest'), ['run']);
  await run('Build', process.execPath, ['scripts/build.mjs']);
  await run('Browser tests', bin('playwright'), ['test']);
  console.log('\nAll passed.');
} catch (error) {
  console.error(`\n${error instanceof Error ? error.message : error}`);
  process.exitCode = 1;
}
