import { and, eq, sql } from 'drizzle-orm';
import { CHANNEL } from '@/server/db/listening';
import { shotsInHand } from '@/server/db/schema';
import type { DatabaseOrTransaction } from '@/server/store/database';

/** Tells every process on this database something, with the transaction it is told in. */
export const notify = (tx: DatabaseOrTransaction, payload: string): Promise<unknown> =>
  tx.execute(sql`select pg_notify(${CHANNEL}, ${payload})`);

/** Who has a shot in hand, and since when. */
export type HandRow = {
  readonly shotId: string;
  readonly personId: string;
  readonly name: string;
  readonly colour: string;
  readonly takenAt: Date;
};

/** The shots of a project that somebody has in hand. */
export const loadHands = (database: DatabaseOrTransaction, projectId: string): Promise<HandRow[]> =>
  database
    .select({
      shotId: shotsInHand.shotId,
      personId: shotsInHand.personId,
      name: shotsInHand.name,
      colour: shotsInHand.colour,
      takenAt: shotsInHand.takenAt,
    })
    .from(shotsInHand)
    .where(eq(shotsInHand.projectId, projectId));

/** Puts a shot into somebody's hand, unless another has it; `isTakenOver` takes it from them. False when another has it. */
export async function takeInHand(
  tx: DatabaseOrTransaction,
  projectId: string,
  row: Omit<HandRow, 'takenAt'>,
  isTakenOver: boolean,
): Promise<boolean> {
  const { shotId, ...person } = row;
  const rows = await tx
    .insert(shotsInHand)
    .values({ projectId, ...row })
    .onConflictDoUpdate({
      target: [shotsInHand.projectId, shotsInHand.shotId],
      set: { ...person, takenAt: new Date() },
      ...(isTakenOver ? {} : { setWhere: eq(shotsInHand.personId, row.personId) }),
    })
    .returning({ shotId: shotsInHand.shotId });
  return rows.length > 0;
}

/** Takes a shot out of somebody's hand, if it is in theirs. */
export const giveBack = (tx: DatabaseOrTransaction, projectId: string, shotId: string, personId: string): Promise<unknown> =>
  tx
    .delete(shotsInHand)
    .where(and(eq(shotsInHand.projectId, projectId), eq(shotsInHand.shotId, shotId), eq(shotsInHand.personId, personId)));
