import { log } from '@/server/log';
import { type Database, getDatabase } from '@/server/store/database';
import { type Freed, freeable, sweepStore } from '@/server/store/sweep';

const DAY_MILLISECONDS = 24 * 60 * 60 * 1000;
/** How long something lies that nothing names: a bring-in may take its time, and a step may wait in a browser for weeks. */
const LIES_DAYS = 30;
/** A start is busy enough. */
const FIRST_MILLISECONDS = 5 * 60 * 1000;

/** Removes pictures and files that nothing names any more. */
export const sweep = async (now: Date): Promise<Freed> =>
  sweepStore(await getDatabase(), new Date(now.getTime() - LIES_DAYS * DAY_MILLISECONDS));

/** How long something lies before it is freed by hand: what a window sent a moment ago may be named by its next step. */
const HAND_DAYS = 1;
const byHand = (now: Date) => new Date(now.getTime() - HAND_DAYS * DAY_MILLISECONDS);

/** What a sweep by hand would free. */
export const forcedSweepWould = (database: Database, now: Date): Promise<Freed> => freeable(database, byHand(now));

/** Sweeps by hand. */
export const forcedSweep = (database: Database, now: Date): Promise<Freed> => sweepStore(database, byHand(now));

/** Sweeps some minutes after the start and every day from then on. */
export function sweepNowAndThen(): void {
  const run = () =>
    void sweep(new Date()).catch((error: unknown) => log.warn({ err: error }, 'what nothing names could not be swept away'));
  setTimeout(run, FIRST_MILLISECONDS).unref();
  setInterval(run, DAY_MILLISECONDS).unref();
}
