import type { PGlite } from '@electric-sql/pglite';
import { Client } from 'pg';
import { log } from '@/server/log';

/*
 * What processes on one database tell each other goes through the database itself (LISTEN and NOTIFY), so that it comes with
 * the transaction it is about, and to every process alike. The embedded database has one process, and does the same.
 */

/** The one channel of Lime Tick. A payload has at most 8,000 bytes. */
export const CHANNEL = 'lime_tick';

export type Hearing = {
  readonly heard: (payload: string) => void;
  /** Something may have been missed: it is listened again after it was not for a while. */
  readonly mayHaveMissed: () => void;
};

/** Listens until what is returned is called. */
export type Listen = (hearing: Hearing) => Promise<() => Promise<void>>;

/** Listens on the embedded database. */
export const listenEmbedded =
  (client: PGlite): Listen =>
  async ({ heard }) =>
    client.listen(CHANNEL, heard);

const FIRST_PAUSE_MILLISECONDS = 250;
const LONGEST_PAUSE_MILLISECONDS = 5000;

/** Listens on a server by a connection of its own, and again whenever that breaks. */
export const listenServer =
  (databaseUrl: string): Listen =>
  async (hearing) => {
    let isOver = false;
    let current: Client | null = null;
    let pause = FIRST_PAUSE_MILLISECONDS;
    const connect = async (): Promise<void> => {
      const client = new Client({ connectionString: databaseUrl, keepAlive: true });
      client.on('notification', ({ payload }) => payload && hearing.heard(payload));
      // Whatever ends the connection, it is made again, once.
      let isBroken = false;
      const broken = (error?: Error) => {
        if (isBroken || isOver) return;
        isBroken = true;
        if (error) log.warn({ err: error }, 'the connection that hears of changes broke');
        void client.end().catch(() => undefined);
        setTimeout(() => void again(), pause).unref();
        pause = Math.min(LONGEST_PAUSE_MILLISECONDS, pause * 2);
      };
      client.on('error', broken);
      client.on('end', () => broken());
      try {
        await client.connect();
        await client.query(`listen ${CHANNEL}`);
      } catch (error) {
        broken(error instanceof Error ? error : new Error(String(error)));
        return;
      }
      current = client;
      pause = FIRST_PAUSE_MILLISECONDS;
    };
    const again = async (): Promise<void> => {
      if (isOver) return;
      await connect();
      hearing.mayHaveMissed();
    };
    await connect();
    return async () => {
      isOver = true;
      await current?.end().catch(() => undefined);
    };
  };
