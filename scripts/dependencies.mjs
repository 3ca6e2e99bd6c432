// Installs what the commands need: npm packages, and for the browser tests Debian's Chromium, Firefox, PostgreSQL and readers of what was written.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';

const STAMP = 'node_modules/.lime-tick-lock';

/** Installs the npm packages of the lock file unless they are there. */
export function ensurePackages() {
  const digest = createHash('sha256').update(readFileSync('package-lock.json')).digest('hex');
  if (existsSync(STAMP) && readFileSync(STAMP, 'utf8') === digest) return;
  console.log('Installing packages …');
  const { status } = spawnSync('npm', ['ci', '--no-fund', '--no-audit'], { stdio: 'inherit' });
  if (status !== 0) throw new Error('npm ci failed: see above. Lime Tick needs Node 20 and the npm registry.');
  writeFileSync(STAMP, digest);
}

const has = (command) => spawnSync('sh', ['-c', `command -v ${command}`]).status === 0;

/** Makes sure programs are there; as root they are installed by apt-get, else a sentence says what is missing. */
export function ensurePrograms(programs) {
  const missing = programs.filter(({ command }) => !has(command));
  if (missing.length === 0) return;
  const packages = [...new Set(missing.map((program) => program.package))];
  if (process.getuid?.() !== 0 || !has('apt-get')) {
    throw new Error(
      `The tests need ${missing.map((program) => program.command).join(', ')}: install ${packages.join(' and ')} (on Debian: sudo apt-get install ${packages.join(' ')}), then run npm test again.`,
    );
  }
  console.log(`Installing ${packages.join(', ')} …`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  spawnSync('apt-get', ['update', '-qq'], { stdio: 'inherit', env });
  const { status } = spawnSync('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...packages], { stdio: 'inherit', env });
  if (status !== 0) throw new Error(`apt-get could not install ${packages.join(' ')}.`);
}

export const BROWSER_PROGRAMS = [
  { command: 'chromium', package: 'chromium' },
  { command: 'chromium-headless-shell', package: 'chromium-headless-shell' },
  { command: 'ffmpeg', package: 'ffmpeg' },
  { command: 'ffprobe', package: 'ffmpeg' },
  { command: 'pdftotext', package: 'poppler-utils' },
  { command: 'mediainfo', package: 'mediainfo' },
  { command: 'mkvinfo', package: 'mkvtoolnix' },
  { command: 'mkvextract', package: 'mkvtoolnix' },
  { command: 'sox', package: 'sox' },
  { command: 'flac', package: 'flac' },
  { command: 'pngcheck', package: 'pngcheck' },
  { command: 'gifsicle', package: 'gifsicle' },
  { command: 'unzip', package: 'unzip' },
  { command: 'webpinfo', package: 'webp' },
  { command: 'tiffinfo', package: 'libtiff-tools' },
  { command: 'firefox-esr', package: 'firefox-esr' },
  { command: 'pg_ctlcluster', package: 'postgresql' },
  { command: 'openssl', package: 'openssl' },
];
