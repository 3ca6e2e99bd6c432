import path from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { drizzle } from 'drizzle-orm/pglite';
import { migrate } from 'drizzle-orm/pglite/migrator';
import { type Copy, copiesOf, makeCopy, restoreCopy, restoreWords } from '@/server/db/copies';
import { readCopySettings, writeCopySettings } from '@/server/db/copySettings';
import type { CopyKeeper, OpenDatabase } from '@/server/db/database';
import { FolderLost, type HeldFolder, holdFolder } from '@/server/db/folderLock';
import { listenEmbedded } from '@/server/db/listening';
import * as schema from '@/server/db/schema';
import { log } from '@/server/log';

const BYTEA = 17;
const HOUR_MILLISECONDS = 60 * 60 * 1000;
/** How often it is looked whether a copy is due. */
const LOOK_EVERY_MILLISECONDS = 5 * 60 * 1000;

/** The embedded database could not be opened; the message says what is safe and what to do. */
export class FolderBroken extends Error {
  override readonly name = 'FolderBroken';
}

const openClient = (dataDir: string) =>
  PGlite.create({
    dataDir,
    serializers: {
      [BYTEA]: (value: string | Uint8Array) =>
        typeof value === 'string' ? value : `\\x${Buffer.from(value.buffer, value.byteOffset, value.byteLength).toString('hex')}`,
    },
    parsers: { [BYTEA]: (value: string) => new Uint8Array(Buffer.from(value.slice(2), 'hex')) },
  });

/** Ends the process when it no longer holds its folder: whatever it still did would be written beside another. */
function stopWhenLost(held: HeldFolder): void {
  try {
    held.checkHeld();
  } catch (error) {
    if (error instanceof FolderLost) {
      console.error(error.message);
      process.exit(1);
    }
    throw error;
  }
}

/** Has every statement, and every transaction before it is committed, look first whether the folder is still held. */
function fence(client: PGlite, held: HeldFolder): void {
  const { query, exec, transaction } = client;
  client.query = ((...args: Parameters<typeof query>) => {
    stopWhenLost(held);
    return query.apply(client, args);
  }) as typeof client.query;
  client.exec = (...args) => {
    stopWhenLost(held);
    return exec.apply(client, args);
  };
  client.transaction = ((callback: Parameters<typeof transaction>[0]) =>
    transaction.call(client, async (tx) => {
      const result = await callback(tx);
      stopWhenLost(held);
      return result;
    })) as typeof client.transaction;
}

const noCopy = (error: unknown) => log.warn({ err: error }, 'no copy of the database could be made');

/** Copies are made unless LIME_TICK_COPIES is off. */
const makesCopies = () => process.env.LIME_TICK_COPIES !== 'off';

/** Copies a database before it is opened, when the last copy is old; ends when it is copied, before that is proved. */
async function copyBeforeOpening(folder: string): Promise<void> {
  if (!makesCopies() || !(await readCopySettings(folder)).isOn) return;
  await new Promise<void>((resolve) => void makeCopy(folder, false, resolve).catch(noCopy).finally(resolve));
}

/** Makes copies between two queries: every few hours by itself, and when it is asked to. */
function copiesWhileOpen(client: PGlite, folder: string): CopyKeeper & { readonly stop: () => void } {
  let making: Promise<Copy | null> | null = null;
  const copy = async () => {
    await client.exec('checkpoint');
    let proving: Promise<Copy | null> = Promise.resolve(null);
    await client.runExclusive(
      () =>
        new Promise<void>((resolve) => {
          proving = makeCopy(folder, true, resolve).finally(resolve);
        }),
    );
    return proving;
  };
  const now = () => {
    making ??= copy().finally(() => {
      making = null;
    });
    return making;
  };
  const look = async () => {
    const { isOn, everyHours } = await readCopySettings(folder);
    const [newest] = await copiesOf(folder);
    const isDue = !newest || Date.now() - Date.parse(newest.madeAt) >= everyHours * HOUR_MILLISECONDS;
    if (isOn && isDue && makesCopies()) await now();
  };
  const timer = setInterval(() => void look().catch(noCopy), LOOK_EVERY_MILLISECONDS).unref();
  return {
    dataFolder: folder,
    now,
    isMaking: () => making !== null,
    copies: () => copiesOf(folder),
    settings: () => readCopySettings(folder),
    settle: (settings) => writeCopySettings(folder, settings),
    stop: () => clearInterval(timer),
  };
}

/**
 * Opens the embedded database in a folder, holding the folder's lock; copies it first when the last copy is
 * old, makes and migrates it when needed. Throws FolderInUse, or FolderBroken with a sentence when the
 * database can't be opened, which is then left as it is. With LIME_TICK_RESTORE=latest it begins with the
 * newest copy, with a folder in its place with the copy in that.
 */
export async function openEmbedded(folder: string, migrationsFolder: string): Promise<OpenDatabase> {
  const held = await holdFolder(folder);
  try {
    const wanted = process.env.LIME_TICK_RESTORE;
    if (wanted) {
      const copy = await restoreCopy(folder, wanted === 'latest' ? null : wanted);
      console.log(`Going on from the copy of ${copy.madeAt}; what was there before is kept beside it.`);
    }
    await copyBeforeOpening(folder);
    let client: PGlite;
    try {
      client = await openClient(path.join(/* turbopackIgnore: true */ folder, 'database'));
    } catch (error) {
      throw new FolderBroken(await restoreWords(folder), { cause: error });
    }
    fence(client, held);
    const database = drizzle(client, { schema });
    await migrate(database, { migrationsFolder });
    const copies = copiesWhileOpen(client, folder);
    return {
      database,
      copies,
      listen: listenEmbedded(client),
      close: async () => {
        copies.stop();
        await client.close();
        await held.release();
      },
    };
  } catch (error) {
    await held.release();
    throw error;
  }
}
