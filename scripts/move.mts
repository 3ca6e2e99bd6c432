// `npm run move -- --to postgresql://…`: moves the data folder into an empty PostgreSQL database; `--from postgresql://…` moves that
// into an empty data folder. Everything is read again in its new place; the old one is left as it is.
import path from 'node:path';
import { MIGRATIONS_FOLDER, openServer } from '@/server/db/client';
import { openEmbedded } from '@/server/db/embedded';
import { FolderInUse } from '@/server/db/folderLock';
import { moveDatabase, NotEmpty } from '@/server/db/move';

const [way, address] = process.argv.slice(2);

if ((way !== '--to' && way !== '--from') || !address) {
  console.error('Say where to: npm run move -- --to postgresql://… , or --from postgresql://… into the data folder.');
  process.exit(2);
}

const folder = path.resolve(process.env.LIME_TICK_DATA ?? 'data');
try {
  const embedded = await openEmbedded(folder, MIGRATIONS_FOLDER);
  // One connection: what is settled for it holds for all of the move.
  const server = await openServer(address, 1);
  try {
    const [from, to] = way === '--to' ? [embedded, server] : [server, embedded];
    await moveDatabase(from.database, to.database, (words) => console.log(words));
    console.log(
      way === '--to' ? `Moved. Start Lime Tick with DATABASE_URL set to the server; ${folder} is left as it was.` : `Moved into ${folder}.`,
    );
  } finally {
    await server.close();
    await embedded.close();
  }
} catch (error) {
  if (!(error instanceof NotEmpty || error instanceof FolderInUse)) throw error;
  console.error(error.message);
  process.exitCode = 1;
}
