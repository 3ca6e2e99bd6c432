import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { PGlite } from '@electric-sql/pglite';

const MIGRATIONS = 'src/server/db/migrations';
const TABLES_IN_ORDER = ['projects', 'shots', 'levels', 'pictures', 'drawings', 'exposures', 'originals', 'journal', 'receipts'] as const;

/** Rows of the tables of a data folder, as they were read from it. */
export type StoredTables = { readonly [Table in (typeof TABLES_IN_ORDER)[number]]: readonly object[] };

/** Writes a data folder as an earlier version left it: with the first `migrations` migrations, and the rows of its tables. */
export async function writeStoredFolder(folder: string, migrations: number, tables: StoredTables): Promise<void> {
  const client = await PGlite.create({ dataDir: path.join(folder, 'database') });
  const journal = JSON.parse(await readFile(`${MIGRATIONS}/meta/_journal.json`, 'utf8')) as { entries: { tag: string; when: number }[] };
  await client.exec(
    'create schema if not exists drizzle; create table drizzle.__drizzle_migrations (id serial primary key, hash text not null, created_at bigint)',
  );
  for (const { tag, when } of journal.entries.slice(0, migrations)) {
    await client.exec(await readFile(`${MIGRATIONS}/${tag}.sql`, 'utf8'));
    await client.query('insert into drizzle.__drizzle_migrations (hash, created_at) values ($1, $2)', [tag, when]);
  }
  for (const table of TABLES_IN_ORDER)
    await client.query(`insert into "${table}" select * from json_populate_recordset(null::"${table}", $1)`, [
      JSON.stringify(tables[table]),
    ]);
  await client.close();
}
