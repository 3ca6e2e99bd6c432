import { done, type Outcome, refused } from '@/core/outcome';
import { fileNamePart } from '@/core/output/sequenceNames';
import { utf8 } from '@/core/utf8';

/*
 * Names of files are built from parts. What comes from the project is made plain (small letters, digits and `-`); what somebody
 * types is taken as it is and refused where a system would not take it. A `/` between parts is a folder.
 */

export const SEPARATORS = ['_', '-', '.', ' ', '/'] as const;
export type Separator = (typeof SEPARATORS)[number];

export type NamePart =
  | { readonly part: 'project' | 'scope' | 'shot' | 'level' | 'rate' | 'date' }
  | { readonly part: 'drawing' | 'frame' | 'reelFrame' }
  | { readonly part: 'words'; readonly words: string }
  | { readonly part: 'separator'; readonly text: Separator };

export const PART_NAMES: Readonly<Record<NamePart['part'], string>> = {
  project: 'project',
  scope: 'reel or shot',
  shot: 'shot',
  level: 'level',
  drawing: 'drawing',
  frame: 'number',
  reelFrame: 'reel frame',
  rate: 'rate',
  date: 'date',
  words: 'words',
  separator: 'separator',
};

/** How files are numbered: from a number on (null: the frame’s own), in steps, with at least so many digits. */
export type Numbering = { readonly start: number | null; readonly step: number; readonly digits: number };
export const MOST_NUMBER = 9_999_999;
export const START_NUMBERING: Numbering = { start: null, step: 1, digits: 4 };

/** What one file is of. Numbers are as shown to people; null where there is none. */
export type Named = {
  /** What leaves: a shot by its code, or null for the whole reel. */
  readonly scope: string | null;
  readonly shot: string | null;
  readonly level: string | null;
  readonly drawing: string | null;
  /** Its frame, by its number in the shot or on the reel, whichever leaves; and its place among those that leave, from 0. */
  readonly frame: number;
  readonly place: number;
  readonly reelFrame: number | null;
};

/** What all files have in common: the project's title, the rate as text, and the day, as `2026-11-26`. */
export type NamedFrom = { readonly project: string; readonly rate: string; readonly date: string };

const padded = (number: number, digits: number): string => String(number).padStart(digits, '0');

/** A drawing’s number, filled up where it is a plain one. */
const drawingText = (number: string, digits: number): string =>
  /^\d+$/.test(number) ? number.padStart(digits, '0') : fileNamePart(number);

function textOf(part: NamePart, named: Named, from: NamedFrom, { start, step, digits }: Numbering): string {
  switch (part.part) {
    case 'project':
      return fileNamePart(from.project);
    case 'rate':
      return fileNamePart(from.rate);
    case 'date':
      return from.date;
    case 'scope':
      return named.scope === null ? 'reel' : fileNamePart(named.scope);
    case 'shot':
      return named.shot === null ? 'reel' : fileNamePart(named.shot);
    case 'level':
      return named.level === null ? 'all' : fileNamePart(named.level);
    case 'drawing':
      return named.drawing === null ? padded(named.place + 1, digits) : drawingText(named.drawing, digits);
    case 'frame':
      return padded(start === null ? named.frame : start + named.place * step, digits);
    case 'reelFrame':
      return padded(named.reelFrame ?? named.frame, digits);
    case 'words':
      return part.words;
    case 'separator':
      return part.text;
  }
}

/** The name of a file, without its extension. */
export const nameOf = (parts: readonly NamePart[], named: Named, from: NamedFrom, numbering: Numbering): string =>
  parts.map((part) => textOf(part, named, from, numbering)).join('');

/** Names no common system gives a file, whatever follows their first dot. */
const RESERVED = /^(con|prn|aux|nul|com[0-9¹²³]|lpt[0-9¹²³])$/i;
const FORBIDDEN = /[<>:"\\|?*\p{Cc}]/u;
const MOST_BYTES = 255;

const bytesOf = (text: string): number => utf8(text).length;

/** Why a part of a path is refused as the name of a file or folder; null when it isn't. */
function troubleWith(name: string): string | null {
  if (name === '') return 'a name or folder is empty';
  if (name === '.' || name === '..') return `“${name}” leads elsewhere`;
  const bad = FORBIDDEN.exec(name)?.[0];
  if (bad !== undefined) return `“${name}” holds ${/\p{Cc}/u.test(bad) ? 'a control character' : `“${bad}”`}, which some systems refuse`;
  if (/[. ]$/.test(name)) return `“${name}” ends with a ${name.endsWith('.') ? 'dot' : 'space'}, which some systems cut off`;
  if (/^ /.test(name)) return `“${name}” begins with a space`;
  if (RESERVED.test(name.split('.')[0] ?? '')) return `“${name}” is a name that some systems keep for themselves`;
  if (!isWellFormed(name)) return 'a name holds half of a character';
  if (bytesOf(name) > MOST_BYTES) return `“${name.slice(0, 40)}…” is ${bytesOf(name)} bytes long, and ${MOST_BYTES} is the most`;
  return null;
}

/** Whether a text holds no surrogate without its other half. */
const isWellFormed = (text: string): boolean => !/[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/.test(text);

/** A name as systems may tell names apart: some take capitals and small letters, and letters with composed marks, as one. */
export const sameName = (name: string): string => name.normalize('NFC').toLowerCase();

/** Names of files with their folders, in order; refused where two clash or a system would refuse one, naming them. */
export function checkNames(paths: readonly string[]): Outcome<readonly string[]> {
  const seen = new Map<string, string>();
  const folders = new Map<string, string>();
  for (const path of paths) {
    for (const name of path.split('/')) {
      const trouble = troubleWith(name);
      if (trouble) return refused(`${trouble[0]?.toUpperCase()}${trouble.slice(1)}.`);
    }
    const clash = seen.get(sameName(path));
    if (clash !== undefined)
      return refused(
        clash === path
          ? `Two files would be called “${path}”: let the names hold what tells them apart, as the number.`
          : `“${clash}” and “${path}” would be one file where capitals or accents are not told apart.`,
      );
    seen.set(sameName(path), path);
    const parts = path.split('/');
    for (let depth = 1; depth < parts.length; depth++)
      folders.set(sameName(parts.slice(0, depth).join('/')), parts.slice(0, depth).join('/'));
  }
  for (const [key, folder] of folders) {
    const file = seen.get(key);
    if (file !== undefined) return refused(`“${file}” would be a file and “${folder}” a folder.`);
  }
  return done(paths);
}

const words = (text: Separator): NamePart => ({ part: 'separator', text });

/** Names to begin with, by how files are laid out. */
export const LAYOUTS = {
  flat: [{ part: 'project' }, words('_'), { part: 'scope' }, words('.'), { part: 'frame' }],
  shot: [{ part: 'shot' }, words('/'), { part: 'project' }, words('_'), { part: 'shot' }, words('.'), { part: 'frame' }],
  level: [{ part: 'level' }, words('/'), { part: 'shot' }, words('_'), { part: 'level' }, words('.'), { part: 'frame' }],
  shotLevel: [
    { part: 'shot' },
    words('/'),
    { part: 'level' },
    words('/'),
    { part: 'shot' },
    words('_'),
    { part: 'level' },
    words('.'),
    { part: 'frame' },
  ],
} as const satisfies Readonly<Record<string, readonly NamePart[]>>;
export type Layout = keyof typeof LAYOUTS;
