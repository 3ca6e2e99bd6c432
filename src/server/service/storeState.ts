import { readFileSync } from 'node:fs';
import { statfs } from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import { type BackupSettings, backupSettingsReader } from '@/contracts/backups';
import type { FreedStore, StoreBrief, StoreState } from '@/contracts/keep';
import { DOCUMENT_VERSION } from '@/core/document/model';
import { lastTroubles } from '@/server/log';
import { type Answer, answered, unprocessable } from '@/server/service/answer';
import { watchersOf } from '@/server/service/notices';
import { outsideEncoder } from '@/server/service/outsideFilms';
import { forcedSweep, forcedSweepWould } from '@/server/service/sweep';
import { getDatabase, getOpenDatabase, isOnServer, placeOfData } from '@/server/store/database';
import { bytesByProject, databaseFacts } from '@/server/store/keep';
import { projectTitles } from '@/server/store/shelf';

const PROGRAM_VERSION = (JSON.parse(readFileSync(path.join(process.cwd(), 'package.json'), 'utf8')) as { version: string }).version;
const STARTED_AT = new Date(Date.now() - process.uptime() * 1000);

async function diskOf(folder: string): Promise<StoreState['disk']> {
  const disk = await statfs(folder);
  return { freeBytes: disk.bavail * disk.bsize, totalBytes: disk.blocks * disk.bsize };
}

async function encoderWords(): Promise<string> {
  const encoder = await outsideEncoder();
  return encoder.found ? `ffmpeg ${encoder.version}` : encoder.reason;
}

/** How full the store is, and when it was backed up last. */
export async function storeBrief(): Promise<StoreBrief> {
  const { database, copies } = await getOpenDatabase();
  const [last] = (await copies?.copies()) ?? [];
  return {
    sizeBytes: (await databaseFacts(database)).sizeBytes,
    freeBytes: copies ? ((await diskOf(copies.dataFolder))?.freeBytes ?? null) : null,
    keepsBackups: copies !== null,
    lastBackupAt: last?.madeAt ?? null,
  };
}

/** How the store is, all of it, as the page of the store shows it and as it can be copied for a report. */
export async function storeState(): Promise<StoreState> {
  const { database, copies } = await getOpenDatabase();
  const facts = await databaseFacts(database);
  const bytes = await bytesByProject(database);
  return {
    place: placeOfData(),
    database: { kind: isOnServer() ? 'server' : 'embedded', ...facts },
    disk: copies ? await diskOf(copies.dataFolder) : null,
    versions: {
      program: PROGRAM_VERSION,
      document: DOCUMENT_VERSION,
      node: process.version,
      system: `${os.type()} ${os.release()} ${os.arch()}`,
    },
    startedAt: STARTED_AT.toISOString(),
    memoryBytes: process.memoryUsage().rss,
    projects: (await projectTitles(database)).map(({ id, title }) => ({ id, title, bytes: bytes.get(id) ?? 0, watchers: watchersOf(id) })),
    backups: copies && {
      settings: { version: 1, ...(await copies.settings()) },
      folder: (await copies.settings()).folder ?? path.join(copies.dataFolder, 'copies'),
      isMaking: copies.isMaking(),
      made: [...(await copies.copies())],
    },
    encoder: await encoderWords(),
    troubles: [...lastTroubles()],
  };
}

const SERVER_KEEPS = 'The PostgreSQL server keeps its own backups: see docs/team.md.';

/** Settles how backups are made. */
export async function settleBackups(settings: BackupSettings): Promise<Answer<BackupSettings>> {
  const { copies } = await getOpenDatabase();
  if (!copies) return unprocessable(SERVER_KEEPS);
  const { version: _version, ...wanted } = settings;
  if (wanted.folder !== null && !path.isAbsolute(wanted.folder))
    return unprocessable(`Write the whole path of the folder, from the root: “${wanted.folder}” could be anywhere.`);
  try {
    await copies.settle(wanted);
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    return unprocessable(`Nothing can be written to ${wanted.folder} (${code ?? String(error)}): backups are made as before.`);
  }
  const read = backupSettingsReader.read({ version: 1, ...(await copies.settings()) });
  return read.ok ? answered(read.value) : unprocessable(read.reason);
}

/** Makes a backup now, and reads it back. */
export async function backUpNow(): Promise<Answer<{ madeAt: string }>> {
  const { copies } = await getOpenDatabase();
  if (!copies) return unprocessable(SERVER_KEEPS);
  const made = await copies.now();
  return made
    ? answered({ madeAt: made.madeAt })
    : unprocessable('No backup could be made: the disk has too little room for it, or it could not be read back. The one before is kept.');
}

/** What could be freed at once. */
export const freeableNow = async (): Promise<FreedStore> => forcedSweepWould(await getDatabase(), new Date());

/** Frees it. */
export const freeNow = async (): Promise<FreedStore> => forcedSweep(await getDatabase(), new Date());
