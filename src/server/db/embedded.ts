import path from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { drizzle } from 'drizzle-orm/pglite';
import { migrate } from 'drizzle-orm/pglite/migrator';
import { makeCopy, restoreNewest, restoreWords } from '@/server/db/copies';
import type { OpenDatabase } from '@/server/db/database';
import { FolderLost, type HeldFolder, holdFolder } from '@/server/db/folderLock';
import * as schema from '@/server/db/schema';
import { log } from '@/server/log';

const BYTEA = 17;
const COPY_EVERY_MILLISECONDS = 6 * 60 * 60 * 1000;

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
const copyBeforeOpening = (folder: string): Promise<void> =>
  new Promise((resolve) => {
    if (!makesCopies()) resolve();
    else void makeCopy(folder, false, resolve).catch(noCopy).finally(resolve);
  });

/** Makes a copy every few hours, between two queries. */
function copyNowAndThen(client: PGlite, folder: string): NodeJS.Timeout {
  const copy = async () => {
    await client.exec('checkpoint');
    let proving: Promise<unknown> = Promise.resolve();
    await client.runExclusive(
      () =>
        new Promise<void>((resolve) => {
          proving = makeCopy(folder, true, resolve).catch(noCopy).finally(resolve);
        }),
    );
    await proving;
  };
  return setInterval(() => void (makesCopies() && copy().catch(noCopy)), COPY_EVERY_MILLISECONDS).unref();
}

/**
 * Opens the embedded database in a folder, holding the folder's lock; copies it first when the last copy is
 * old, makes and migrates it when needed. Throws FolderInUse, or FolderBroken with a sentence when the
 * database can't be opened, which is then left as it is. With LIME_TICK_RESTORE=latest it begins with the
 * newest copy.
 */
export async function openEmbedded(folder: string, migrationsFolder: string): Promise<OpenDatabase> {
  const held = await holdFolder(folder);
  try {
    if (process.env.LIME_TICK_RESTORE === 'latest') {
      const copy = await restoreNewest(folder);
      console.log(`Going on from the copy of ${copy.madeAt}; what was there before is kept beside it.`);
    }
    await copyBeforeOpening(folder);
    let client: PGlite;
    try {
      client = await openClient(path.join(folder, 'database'));
    } catch (error) {
      throw new FolderBroken(await restoreWords(folder), { cause: error });
    }
    fence(client, held);
    const database = drizzle(client, { schema });
    await migrate(database, { migrationsFolder });
    const timer = copyNowAndThen(client, folder);
    return {
      database,
      close: async () => {
        clearInterval(timer);
        await client.close();
        await held.release();
      },
    };
  } catch (error) {
    await held.release();
    throw error;
  }
}
