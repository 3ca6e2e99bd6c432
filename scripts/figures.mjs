// `npm run bench [name …]` and `npm run trust [name …]`: print one JSON line a figure. Names are those of the files in the folder.
import { spawn } from 'node:child_process';
import { readdirSync } from 'node:fs';
import { BROWSER_PROGRAMS, ensurePackages, ensurePrograms } from './dependencies.mjs';

function run(command, args, stdio = 'inherit') {
  return new Promise((resolve) => {
    const child = spawn(command, args, { stdio, env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1' } });
    child.on('exit', (code) => resolve(code ?? 1));
  });
}

ensurePackages();
ensurePrograms(BROWSER_PROGRAMS);
if ((await run(process.execPath, ['scripts/build.mjs'], ['ignore', 'ignore', 'inherit'])) !== 0) process.exit(1);
const [kind, ...wanted] = process.argv.slice(2);
for (const file of readdirSync(kind).filter((name) => name.endsWith(`.${kind}.ts`))) {
  if (wanted.length > 0 && !wanted.some((name) => file.startsWith(name))) continue;
  process.exitCode = (await run('node_modules/.bin/tsx', [`${kind}/${file}`])) || process.exitCode;
}
