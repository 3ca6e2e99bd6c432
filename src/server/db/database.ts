import type { PgDatabase, PgQueryResultHKT } from 'drizzle-orm/pg-core';
import type { Copy } from '@/server/db/copies';
import type { CopySettings } from '@/server/db/copySettings';
import type { Listen } from '@/server/db/listening';
import type * as schema from '@/server/db/schema';

/** The database as the store sees it: the embedded one or a server, alike. */
export type Database = PgDatabase<PgQueryResultHKT, typeof schema>;
/** A database, or a transaction on it. */
export type DatabaseOrTransaction = Pick<Database, 'select' | 'insert' | 'update' | 'delete' | 'execute'>;

/** Keeps copies of the embedded database. */
export type CopyKeeper = {
  readonly dataFolder: string;
  /** Makes a copy, or waits for the one that is being made; null when there was no room, or it could not be opened. */
  readonly now: () => Promise<Copy | null>;
  readonly isMaking: () => boolean;
  /** Those that were proved, newest first. */
  readonly copies: () => Promise<readonly Copy[]>;
  readonly settings: () => Promise<CopySettings>;
  readonly settle: (settings: CopySettings) => Promise<void>;
};

/** An open database and how to close it; a server keeps its own copies (null). */
export type OpenDatabase = {
  readonly database: Database;
  readonly copies: CopyKeeper | null;
  readonly listen: Listen;
  readonly close: () => Promise<void>;
};
