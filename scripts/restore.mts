// `npm run restore -- FOLDER`: goes on from a backup, on this machine or a new one. What was in the data folder before is kept beside it.
import path from 'node:path';
import { NoCopy, restoreCopy } from '@/server/db/copies';
import { FolderInUse, holdFolder } from '@/server/db/folderLock';

const dataFolder = path.resolve(process.env.LIME_TICK_DATA ?? 'data');
const [from] = process.argv.slice(2);

try {
  const held = await holdFolder(dataFolder);
  const copy = await restoreCopy(dataFolder, from ?? null);
  await held.release();
  console.log(`${dataFolder} goes on from the backup of ${copy.madeAt}, with ${copy.projects} projects. Start Lime Tick with npm start.`);
} catch (error) {
  if (!(error instanceof NoCopy || error instanceof FolderInUse)) throw error;
  console.error(error.message);
  process.exitCode = 1;
}
