import type { PgDatabase, PgQueryResultHKT } from 'drizzle-orm/pg-core';
import type * as schema from '@/server/db/schema';

/** The database as the store sees it: the embedded one or a server, alike. */
export type Database = PgDatabase<PgQueryResultHKT, typeof schema>;
/** A database, or a transaction on it. */
export type DatabaseOrTransaction = Pick<Database, 'select' | 'insert' | 'update' | 'delete'>;

/** An open database and how to close it. */
export type OpenDatabase = { readonly database: Database; readonly close: () => Promise<void> };
