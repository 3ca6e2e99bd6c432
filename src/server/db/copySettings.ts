import { mkdir, readFile, rename, rm, writeFile } from 'node:fs/promises';
import path from 'node:path';

/*
 * How copies of the embedded database are made. It lies in a file beside the database, not in it: before the database is opened
 * a copy may be due.
 */

export type CopySettings = {
  readonly isOn: boolean;
  readonly everyHours: number;
  /** How many are kept. */
  readonly kept: number;
  /** Where they lie; null for `copies` in the data folder. */
  readonly folder: string | null;
};

const FILE = 'copies.json';
export const FIRST_COPY_SETTINGS: CopySettings = { isOn: true, everyHours: 6, kept: 3, folder: null };

const isSettings = (value: Partial<CopySettings>): value is CopySettings =>
  typeof value.isOn === 'boolean' &&
  Number.isInteger(value.everyHours) &&
  Number.isInteger(value.kept) &&
  (value.folder === null || typeof value.folder === 'string');

/** How copies of a data folder are made: as it was settled, or as it is at first where nothing that can be read was. */
export async function readCopySettings(dataFolder: string): Promise<CopySettings> {
  try {
    const stored = JSON.parse(await readFile(path.join(/* turbopackIgnore: true */ dataFolder, FILE), 'utf8')) as Partial<CopySettings>;
    return isSettings(stored) ? stored : FIRST_COPY_SETTINGS;
  } catch {
    return FIRST_COPY_SETTINGS;
  }
}

/** Makes a folder whose parent is there, and writes to it. Throws when that can't be done. */
async function tryFolder(folder: string): Promise<void> {
  await mkdir(folder).catch((error: NodeJS.ErrnoException) => {
    if (error.code !== 'EEXIST') throw error;
  });
  const tried = path.join(/* turbopackIgnore: true */ folder, '.lime-tick');
  await writeFile(tried, '');
  await rm(tried);
}

/** Settles how copies are made. Throws when the folder can't be written to. */
export async function writeCopySettings(dataFolder: string, settings: CopySettings): Promise<void> {
  if (settings.folder !== null) await tryFolder(settings.folder);
  const file = path.join(/* turbopackIgnore: true */ dataFolder, FILE);
  await writeFile(`${file}.new`, JSON.stringify({ version: 1, ...settings }));
  await rename(`${file}.new`, file);
}

/** Where copies of a data folder lie. */
export const copiesFolderOf = (dataFolder: string, { folder }: CopySettings): string =>
  folder ?? path.join(/* turbopackIgnore: true */ dataFolder, 'copies');
