import { type SQL, sql } from 'drizzle-orm';
import { drawings, journal, projects, shots, sources } from '@/server/db/schema';
import type { DatabaseOrTransaction } from '@/server/store/database';

/** Whose names are gathered: everybody's, one project's, or everybody else's. */
export type Whose = { readonly of: string } | { readonly besides: string } | 'all';

const DIGEST = '[0-9a-f]{64}';

/** Digests of pictures and files that anything names: a drawing, a shot, the reel, a source, a step that was ever accepted, or what would undo it. */
export async function namedDigests(tx: DatabaseOrTransaction, whose: Whose = 'all'): Promise<ReadonlySet<string>> {
  const within = (projectId: SQL) => {
    if (whose === 'all') return sql`true`;
    return 'of' in whose ? sql`${projectId} = ${whose.of}` : sql`${projectId} <> ${whose.besides}`;
  };
  const named = new Set<string>();
  const gather = async (query: SQL) => {
    const { rows } = (await tx.execute(query)) as unknown as { rows: { digest: string }[] };
    for (const { digest } of rows) named.add(digest);
  };
  await gather(sql`select distinct picture as digest from ${drawings} where picture is not null and ${within(sql`project_id`)}`);
  await gather(sql`select distinct original as digest from ${sources} where ${within(sql`project_id`)}`);
  // Every digest that is written anywhere in a column of JSON.
  const written = (column: SQL, table: SQL, projectId: SQL) =>
    gather(
      sql`select distinct found[1] as digest from ${table}, regexp_matches(${column}::text, ${sql.raw(`'${DIGEST}'`)}, 'g') as found where ${within(projectId)}`,
    );
  await written(sql`${journal.step}`, sql`${journal}`, sql`${journal.projectId}`);
  await written(sql`${journal.inverse}`, sql`${journal}`, sql`${journal.projectId}`);
  await written(sql`${shots.sounds}`, sql`${shots}`, sql`${shots.projectId}`);
  await written(sql`${projects.reel}`, sql`${projects}`, sql`${projects.id}`);
  return named;
}
