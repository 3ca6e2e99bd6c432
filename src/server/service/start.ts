import { log } from '@/server/log';
import { listeningHost, readAccess, settleAccess } from '@/server/service/access';
import { finishInHand } from '@/server/service/inHand';
import {
  closeDatabase,
  FolderBroken,
  FolderInUse,
  FolderUnwritable,
  getDatabase,
  isAway,
  NoCopy,
  NoFileLocks,
  NotLetIn,
  TablesForbidden,
} from '@/server/store/database';
import { upgradeDocuments } from '@/server/store/loadDocument';

/** How long what is in hand has to end once the server is told to stop: a picture that is being stored, a file that is being given. */
const GRACE_MILLISECONDS = 10_000;

/**
 * Told to stop, the server finishes what is in hand, closes its database and ends. It doesn't wait for connections: a browser
 * may hold one open for minutes without asking for anything. Told twice, it ends at once.
 */
export function endWhenTold(): void {
  const end = async () => {
    const left = await finishInHand(GRACE_MILLISECONDS);
    if (left > 0) log.warn({ left }, 'the server ended while something was still under way');
    await closeDatabase();
  };
  for (const signal of ['SIGTERM', 'SIGINT'] as const)
    process.once(signal, () => {
      process.once(signal, () => process.exit(1));
      void end()
        .catch((error: unknown) => log.error({ err: error }, 'the database could not be closed'))
        .finally(() => process.exit(0));
    });
}

/** Settles how this server may be reached; where it may not run so, says why and ends the process. */
export function settleAccessAtStart(): void {
  // While it is written, the program is served on this machine alone.
  const host = process.env.NODE_ENV === 'production' ? listeningHost(process.argv) : '127.0.0.1';
  const access = readAccess(process.env, host);
  if (!access.ok) {
    console.error(access.reason);
    process.exit(1);
  }
  settleAccess(access.value);
}

/** Failures whose message says all a person needs. */
const TOLD = [FolderInUse, FolderUnwritable, FolderBroken, NoFileLocks, NoCopy, TablesForbidden, NotLetIn];
const isTold = (error: unknown): error is Error => TOLD.some((kind) => error instanceof kind);

/** Opens the database and brings what is stored in it to today's form; when it can't be opened, says why and ends the process, since nothing could be kept. */
export async function openAtStart(): Promise<void> {
  try {
    const database = await getDatabase();
    for (const project of await upgradeDocuments(database))
      console.error(`A project could not be brought to today’s form and stays as it is: ${project}.`);
  } catch (error) {
    if (isTold(error)) console.error(error.message);
    else if (isAway(error)) console.error('The PostgreSQL server of DATABASE_URL does not answer, so Lime Tick stops: start that first.');
    else console.error('The database could not be opened, so the server stops.', error);
    process.exit(1);
  }
}
