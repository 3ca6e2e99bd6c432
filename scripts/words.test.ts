import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';

/*
 * What a person reads has one word for one thing. These are words that were there once and must not come back, each with
 * the word that took its place. They are looked for in everything that is read: texts in the code, README and docs.
 */
const GONE: readonly (readonly [was: RegExp, is: string])[] = [
  [/\bLeave it\b|\bNot now\b/, 'Cancel'],
  [/\bKept (\d|now|just)|\bKeeping …/, 'Saved, Saving'],
  [/\bmend(s|ed|ing)?\b/i, 'fix'],
  [/\bon purpose\b/i, 'as intended'],
  [/\brub(s|bed)? out\b/i, 'erase, Eraser'],
  [/\btakes? a colour\b/i, 'pick a colour'],
  [/\bpicks? up a part\b/i, 'select and move'],
  [/\bthere and back\b/i, 'ping-pong'],
  [/\blet go of the selection\b/i, 'deselect'],
  [/\bchoose all of\b|\bchoose the whole sheet\b|\bchoose one level\b/i, 'select all of, select the whole sheet, extend selection'],
  [/\b(nearer to|further from) the paper\b/i, 'zoom in, zoom out'],
  [/\bpaper, upright\b/i, 'fit the paper'],
  [/\bpaper mirrored\b/i, 'mirror the view'],
  [/\bown copy\b|\bdrawing of its own in this place\b/i, 'make independent here'],
  [/\b(frame|drawing|exposure) of now\b/i, 'current frame'],
  [/\btake it from there\b/i, 'reassign'],
  [/\bgoes by\b/i, 'no matching command'],
  [/\b(find|finds|every|an) acts?\b/i, 'command'],
  [/\bcall (this|the chosen|two) drawings?\b/i, 'make this drawing a key'],
  [/\bshow a drawing again\b/i, 'expose again'],
  [/\brest (moves|stays)\b/i, 'push the rest, cover the rest'],
  [/\b(drawings|time|counts) kept\b/i, 'every drawing, new length; same length, fewer drawings'],
  [/\btake away what is written\b|\bwrite a note …/i, 'remove the note, add a note'],
  [/\btake a sheet\b/i, 'bring in a sheet'],
  [/\bfor ever\b/i, 'loop'],
  [/\bloudness\b|\bleaves out\b/i, 'level (dB), trim start'],
  [/\bstands (\d|\$\{|one frame)/, 'held for 4 frames'],
  [/\bcan[’']t be had\b/i, 'is missing, could not be read'],
  [/(?<!there )\bis no (frame|picture|number|colour|drawing|guide|recording|clip)\b/i, 'is not a frame number'],
  [/\b(draw|remove|take) the way\b|\ba way you draw\b|\bway drawn\b/i, 'motion path'],
  [/\bsheet asks for\b/i, 'the sheet says'],
  [/\blook(ed|ing|s)? at (the )?pictures?\b|\bpictures are being looked at\b/i, 'checked, checking pictures'],
  [/\b(Done again|Taken back):/, 'Redid, Undid'],
  [/\bwhatever\b/i, 'say what'],
];

/** Words people search for that are not ours, so that a command is found by them all the same. */
const SYNONYMS = 'src/features/commands/search.ts';

/** The texts of a source file: string literals and what stands between tags, without comments and imports. */
function textsOf(source: string, isJsx: boolean): readonly string[] {
  const code = source
    .replace(/\/\*[\s\S]*?\*\//g, ' ')
    .replace(/(^|\s)\/\/.*$/gm, '$1')
    .replace(/^import [\s\S]*?;$/gm, '');
  const literals = [...code.matchAll(/'((?:[^'\\\n]|\\.)*)'|"((?:[^"\\\n]|\\.)*)"|`((?:[^`\\]|\\.)*)`/g)].map(
    ([, single, double, template]) => single ?? double ?? template ?? '',
  );
  const between = isJsx
    ? [...code.matchAll(/[>}]([^<>{}]*[A-Za-z][^<>{}]*)[<{]/g)].map(([, text]) => (text ?? '').replace(/\s+/g, ' '))
    : [];
  return [...literals, ...between];
}

const files = (folder: string, pattern: RegExp) =>
  readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((file) => pattern.test(file))
    .map((file) => path.join(folder, file));

const SOURCES = files('src', /^(?!.*\.test\.tsx?$).*\.tsx?$/).filter((file) => file !== SYNONYMS && !file.includes('testing'));
const PAGES = ['README.md', ...files('docs', /\.md$/)];

/** Everything that is read, with where it is written. */
const READ = [
  ...SOURCES.flatMap((file) => textsOf(readFileSync(file, 'utf8'), file.endsWith('x')).map((text) => ({ file, text }))),
  ...PAGES.flatMap((file) =>
    readFileSync(file, 'utf8')
      .split('\n')
      .map((text) => ({ file, text })),
  ),
];

describe('what a person reads', () => {
  it('is found whole', () => {
    expect(READ.length).toBeGreaterThan(3000);
    expect(READ.map(({ text }) => text)).toEqual(
      expect.arrayContaining(['Cancel', 'Fit the paper', 'Timing chart', 'Opening the project …']),
    );
  });

  it.each(GONE)('says nothing like %s, but “%s”', (was) => {
    expect(READ.filter(({ text }) => was.test(text)).map(({ file, text }) => `${file}: ${text.trim().slice(0, 120)}`)).toEqual([]);
  });

  it.each([
    ["const a = 'Mend all'; // a comment", 'Mend all'],
    ['<Button>Leave it</Button>', 'Leave it'],
    ['<p>\n  The frame of now\n</p>', ' The frame of now '],
    ['const b = `Sock stands 4 frames`;', 'Sock stands 4 frames'],
  ])('is read out of %s', (source, text) => expect(textsOf(source, true)).toContain(text));

  it('is not read out of comments and imports', () => {
    expect(textsOf("import { x } from '@/mend';\n/* Mend all */\n// Mend all\nconst a = 1;", true)).toEqual([]);
  });
});
