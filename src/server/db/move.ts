import { createHash } from 'node:crypto';
import { getTableName, sql } from 'drizzle-orm';
import { getTableConfig, type PgTable } from 'drizzle-orm/pg-core';
import type { Database } from '@/server/db/database';
import * as schema from '@/server/db/schema';

/*
 * Everything of one database into another that is empty: each table row by row, as the JSON PostgreSQL itself makes of a row and
 * reads again, so that nothing is rounded on the way. Then all of it is read again from the new place and held against what was
 * sent. The old place is left as it is.
 */

/** Tables in an order in which what is named is there before what names it. */
const TABLES: readonly PgTable[] = [
  schema.pictures,
  schema.originals,
  schema.originalParts,
  schema.settings,
  schema.projects,
  schema.shots,
  schema.levels,
  schema.drawings,
  schema.exposures,
  schema.journal,
  schema.snapshots,
  schema.moments,
  schema.shotsInHand,
  schema.receipts,
  schema.sources,
];

/** Rows of these hold whole files. */
const LARGE = new Set<PgTable>([schema.pictures, schema.originals, schema.originalParts, schema.snapshots]);
const ROWS_AT_ONCE = { large: 16, small: 1000 };

/** The target holds something already; the message says so. */
export class NotEmpty extends Error {
  override readonly name = 'NotEmpty';
}

/** What was moved: rows by table, each with the digest of all its rows. */
export type Moved = readonly { readonly table: string; readonly rows: number; readonly digest: string }[];

function keyOf(table: PgTable): readonly string[] {
  const { primaryKeys, columns } = getTableConfig(table);
  const [key] = primaryKeys;
  return key ? key.columns.map(({ name }) => name) : columns.filter(({ primary }) => primary).map(({ name }) => name);
}

const identifiers = (names: readonly string[]) =>
  sql.join(
    names.map((name) => sql.identifier(name)),
    sql`, `,
  );

/** A table's rows in the order of their key, some at once, each as JSON in words. */
async function* rowsOf(database: Database, table: PgTable): AsyncGenerator<readonly string[]> {
  const key = keyOf(table);
  const name = sql.identifier(getTableName(table));
  const limit = LARGE.has(table) ? ROWS_AT_ONCE.large : ROWS_AT_ONCE.small;
  for (let last: string | null = null; ; ) {
    // The last row is named by its key as JSON, whatever types it has.
    const after =
      last === null
        ? sql``
        : sql`where (${identifiers(key)}) > (select ${identifiers(key)} from json_populate_record(null::${name}, ${last}::json))`;
    const { rows } = (await database.execute(
      sql`select row_to_json(each)::text as row from (select * from ${name} ${after} order by ${identifiers(key)} limit ${limit}) each`,
    )) as unknown as { rows: { row: string }[] };
    if (rows.length === 0) return;
    yield rows.map(({ row }) => row);
    if (rows.length < limit) return;
    const parsed = JSON.parse(rows.at(-1)?.row ?? '{}') as Record<string, unknown>;
    last = JSON.stringify(Object.fromEntries(key.map((column) => [column, parsed[column]])));
  }
}

async function countOf(database: Database, table: PgTable): Promise<number> {
  const { rows } = (await database.execute(sql`select count(*)::int as rows from ${sql.identifier(getTableName(table))}`)) as unknown as {
    rows: { rows: number }[];
  };
  return rows[0]?.rows ?? 0;
}

/** The rows of a table and the digest of them all. */
async function sumOf(
  database: Database,
  table: PgTable,
  take?: (rows: readonly string[]) => Promise<void>,
): Promise<{ rows: number; digest: string }> {
  const hash = createHash('sha256');
  let count = 0;
  for await (const rows of rowsOf(database, table)) {
    for (const row of rows) hash.update(row).update('\n');
    count += rows.length;
    await take?.(rows);
  }
  return { rows: count, digest: hash.digest('hex') };
}

/** Everything a database holds: each table's rows, and the digest of them all. */
export async function digestsOf(database: Database): Promise<Moved> {
  await database.execute(sql`set timezone = 'UTC'`);
  const found: { table: string; rows: number; digest: string }[] = [];
  for (const table of TABLES) found.push({ table: getTableName(table), ...(await sumOf(database, table)) });
  return found;
}

/**
 * Moves everything from one database into another, and reads it again there. Throws NotEmpty when there is something already,
 * and when what was read again is not what was sent; then the new place is no use, and the old one is as it was.
 */
export async function moveDatabase(from: Database, to: Database, told: (words: string) => void): Promise<Moved> {
  for (const table of TABLES)
    if ((await countOf(to, table)) > 0)
      throw new NotEmpty(
        `There is something in the new place already (${getTableName(table)}): nothing was moved. Move into an empty one.`,
      );
  // Times are written alike on both sides.
  for (const database of [from, to]) await database.execute(sql`set timezone = 'UTC'`);
  const moved: { table: string; rows: number; digest: string }[] = [];
  for (const table of TABLES) {
    const name = getTableName(table);
    const insert = async (rows: readonly string[]) => {
      await to.execute(
        sql`insert into ${sql.identifier(name)} select * from json_populate_recordset(null::${sql.identifier(name)}, ${`[${rows.join(',')}]`}::json)`,
      );
    };
    const sent = await sumOf(from, table, insert);
    const read = await sumOf(to, table);
    if (read.digest !== sent.digest || read.rows !== sent.rows)
      throw new Error(`What was read again of ${name} is not what was sent: stay with the old place, which is as it was.`);
    told(`${name}: ${sent.rows} rows, read again and the same`);
    moved.push({ table: name, ...sent });
  }
  return moved;
}
