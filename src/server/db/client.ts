import path from 'node:path';
import { readMigrationFiles } from 'drizzle-orm/migrator';
import { drizzle as drizzleNode } from 'drizzle-orm/node-postgres';
import { migrate as migrateNode } from 'drizzle-orm/node-postgres/migrator';
import { Pool, type PoolClient } from 'pg';
import type { Database, OpenDatabase } from '@/server/db/database';
import { openEmbedded } from '@/server/db/embedded';
import { listenServer } from '@/server/db/listening';
import { notLetIn } from '@/server/db/notLetIn';
import * as schema from '@/server/db/schema';
import { log } from '@/server/log';

export const MIGRATIONS_FOLDER = path.join(process.cwd(), 'src/server/db/migrations');

/** Connections of one Lime Tick: a studio of twenty stays under what PostgreSQL allows by itself. */
const MOST_CONNECTIONS = 4;
/** How long a request waits for one. */
const PATIENCE_MILLISECONDS = 10_000;

/** Names the lock under which tables are brought up to date: any number, the same in every process. */
const MIGRATION_LOCK = 4_151_001;

/** The tables would have to be changed, and the role may not; the message says what to do. */
export class TablesForbidden extends Error {
  override readonly name = 'TablesForbidden';
}

/** How PostgreSQL tells that a role may not do something (appendix A). */
const FORBIDDEN = '42501';

function isForbidden(error: unknown): boolean {
  for (let each = error; each instanceof Error; each = each.cause) if ((each as NodeJS.ErrnoException).code === FORBIDDEN) return true;
  return false;
}

/** Whether every migration there is was made: a role that may change no table needs to know, and no more. */
async function isUpToDate(connection: PoolClient): Promise<boolean> {
  const { rows: there } = await connection.query(`select to_regclass('drizzle.__drizzle_migrations') as name`);
  if (there[0]?.name === null) return false;
  const { rows } = await connection.query<{ last: string | null }>('select max(created_at) as last from drizzle.__drizzle_migrations');
  const wanted = readMigrationFiles({ migrationsFolder: MIGRATIONS_FOLDER }).at(-1)?.folderMillis ?? 0;
  return Number(rows[0]?.last ?? 0) >= wanted;
}

/**
 * Opens a PostgreSQL server by its address and brings its tables up to date. Of several processes that start
 * together one does that, while the others wait and then find it done. Rejects with NotLetIn where the server answers and refuses.
 */
export async function openServer(databaseUrl: string, mostConnections = MOST_CONNECTIONS): Promise<OpenDatabase> {
  const pool = new Pool({
    connectionString: databaseUrl,
    max: mostConnections,
    connectionTimeoutMillis: PATIENCE_MILLISECONDS,
    keepAlive: true,
  });
  // A connection that breaks while nobody uses it is replaced by the pool; without a listener it would end the process.
  pool.on('error', (error) => log.warn({ err: error }, 'a connection to the database broke'));
  const connection = await pool.connect().catch((error: unknown) => {
    void pool.end().catch(() => undefined);
    throw notLetIn(error) ?? error;
  });
  try {
    await connection.query('select pg_advisory_lock($1)', [MIGRATION_LOCK]);
    try {
      if (!(await isUpToDate(connection))) await migrateNode(drizzleNode(connection, { schema }), { migrationsFolder: MIGRATIONS_FOLDER });
    } catch (error) {
      if (!isForbidden(error)) throw error;
      // It ends once this connection is given back.
      void pool.end().catch(() => undefined);
      throw new TablesForbidden(
        'The database’s tables are of an older version, and this role may not change them: start this version once with the role that owns them (see docs/team.md).',
        { cause: error },
      );
    } finally {
      await connection.query('select pg_advisory_unlock($1)', [MIGRATION_LOCK]);
    }
  } finally {
    connection.release();
  }
  return { database: drizzleNode(pool, { schema }), copies: null, listen: listenServer(databaseUrl), close: () => pool.end() };
}

/** Where data is kept, in words: a folder, or a server without its password. */
export function placeOfData(): string {
  const databaseUrl = process.env.DATABASE_URL;
  if (!databaseUrl) return dataFolder();
  try {
    const { hostname, port, pathname, username } = new URL(databaseUrl);
    return `PostgreSQL, ${username}@${hostname}${port ? `:${port}` : ''}${pathname}`;
  } catch {
    return 'PostgreSQL, as DATABASE_URL says';
  }
}

const dataFolder = (): string => path.resolve(/* turbopackIgnore: true */ process.env.LIME_TICK_DATA ?? 'data');

/** Whether data is kept on a PostgreSQL server, which other processes may write to as well. */
export const isOnServer = (): boolean => Boolean(process.env.DATABASE_URL);

/** Where data is kept: a server when DATABASE_URL is set, else the folder LIME_TICK_DATA, else `data`. */
function open(): Promise<OpenDatabase> {
  const databaseUrl = process.env.DATABASE_URL;
  return databaseUrl ? openServer(databaseUrl) : openEmbedded(dataFolder(), MIGRATIONS_FOLDER);
}

const shared = globalThis as typeof globalThis & { limeTickDatabase?: Promise<OpenDatabase> };

/** The one database of this process; opened at the first call, and again after a failed try. */
export const getDatabase = async (): Promise<Database> => (await getOpenDatabase()).database;

/** The same with what keeps its copies. */
export async function getOpenDatabase(): Promise<OpenDatabase> {
  shared.limeTickDatabase ??= open().catch((error: unknown) => {
    shared.limeTickDatabase = undefined;
    throw error;
  });
  return shared.limeTickDatabase;
}

/** Closes the database of this process, if it was opened. */
export async function closeDatabase(): Promise<void> {
  const opened = shared.limeTickDatabase;
  shared.limeTickDatabase = undefined;
  await (await opened)?.close();
}
