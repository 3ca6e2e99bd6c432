// `npm run lint`: Biome with the settings of biome.json and the borders between rooms, then unused files, exports and packages, and
// the notice of what others made.
import { spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { withBorders } from './borders.mjs';

const FOLDER = 'node_modules/.cache/lime-tick-lint';

/** Writes the whole settings where nobody edits them, and names the folder they lie in. */
export function lintSettings() {
  mkdirSync(FOLDER, { recursive: true });
  const settings = withBorders(JSON.parse(readFileSync('biome.json', 'utf8')));
  writeFileSync(path.join(FOLDER, 'biome.json'), JSON.stringify({ ...settings, $schema: undefined }));
  return FOLDER;
}

const run = (command, args) => spawnSync(`node_modules/.bin/${command}`, args, { stdio: 'inherit' }).status ?? 1;

/** Whether the notice of what others made names what the lock file does. */
const notices = () => spawnSync(process.execPath, ['scripts/notices.mjs', '--check'], { stdio: 'inherit' }).status ?? 1;

const extra = process.argv.slice(2);
process.exitCode =
  run('biome', ['check', '--error-on-warnings', `--config-path=${lintSettings()}`, ...extra, '.']) || run('knip', []) || notices();
