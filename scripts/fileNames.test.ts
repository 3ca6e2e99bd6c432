import { readdirSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';

/** Folders with code, from the root of the project. */
const FOLDERS = ['src', 'e2e', 'bench', 'trust', 'scripts', 'bin'];

const filesIn = (folder: string): readonly string[] =>
  readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile())
    .map((entry) => path.join(entry.parentPath, entry.name));

/** A name as it is found where capital letters make no difference, and as it is imported: without its ending. */
const asFound = (file: string): string => file.replace(/\.(tsx?|mts|mjs)$/, '').toLowerCase();

/** Files of which one is taken for the other on a disk that knows no capital letters, as those of macOS and Windows. */
function takenForAnother(files: readonly string[]): readonly string[] {
  const seen = new Map<string, string>();
  return files.flatMap((file) => {
    const other = seen.get(asFound(file));
    seen.set(asFound(file), file);
    return other === undefined ? [] : [`${other}, ${file}`];
  });
}

describe('names of files', () => {
  it('are told apart without their capital letters', () => {
    expect(takenForAnother(['a/Tour.tsx', 'a/tour.ts', 'b/tour.ts'])).toEqual(['a/Tour.tsx, a/tour.ts']);
    expect(FOLDERS.flatMap((folder) => takenForAnother(filesIn(folder)))).toEqual([]);
  });
});
