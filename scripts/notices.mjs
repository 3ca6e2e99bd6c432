// `npm run notices`: writes THIRD-PARTY.md from the lock file: every package that ships with the program, its licence, and the words of
// that licence. With --check it only says whether the file names what the lock file names.
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';

const FILE = 'THIRD-PARTY.md';
const LICENCE_FILE = /^(licen[cs]e|copying|notice)([.-].*)?$/i;

const lock = JSON.parse(readFileSync('package-lock.json', 'utf8'));

/** Packages that are installed to run the program, by where they lie. */
const shipped = Object.entries(lock.packages)
  .filter(([place, entry]) => place !== '' && !entry.dev && !entry.link)
  .map(([place, entry]) => ({
    place,
    name: place.slice(place.lastIndexOf('node_modules/') + 'node_modules/'.length),
    version: entry.version,
    licence: entry.license ?? 'see its own files',
    // Which of these are there depends on the machine.
    isOptional: entry.optional === true,
  }))
  .sort((a, b) => a.name.localeCompare(b.name, 'en') || a.version.localeCompare(b.version, 'en'));

const table = [
  '| package | version | licence |',
  '|---|---|---|',
  ...[...new Set(shipped.map(({ name, version, licence }) => `| ${name} | ${version} | ${licence} |`))],
].join('\n');

if (process.argv.includes('--check')) {
  const isCurrent = readFileSync(FILE, 'utf8').includes(table);
  if (!isCurrent) console.error(`${FILE} doesn’t name what package-lock.json names: run \`npm run notices\`.`);
  process.exit(isCurrent ? 0 : 1);
}

function wordsOf(place) {
  let names;
  try {
    names = readdirSync(place).filter((name) => LICENCE_FILE.test(name));
  } catch {
    return [];
  }
  return names.sort().map((name) => readFileSync(path.join(place, name), 'utf8').replaceAll('\r\n', '\n').trim());
}

/** The packages under each text, since many have the same. */
const byWords = new Map();
for (const { place, name, version, isOptional } of shipped) {
  if (isOptional) continue;
  for (const words of wordsOf(place)) byWords.set(words, [...(byWords.get(words) ?? []), `${name} ${version}`]);
}

const texts = [...byWords]
  .sort(([, [a = '']], [, [b = '']]) => a.localeCompare(b, 'en'))
  .map(([words, packages]) => `### ${[...new Set(packages)].join(', ')}\n\n\`\`\`text\n${words}\n\`\`\``);

writeFileSync(
  FILE,
  `# What others made that ships with Lime Tick\n\nMade from package-lock.json by \`npm run notices\`.\n\n${table}\n\n## Their licences\n\n${texts.join('\n\n')}\n`,
);
console.log(`${FILE}: ${shipped.length} packages, ${byWords.size} texts.`);
