import { randomUUID } from 'node:crypto';
import { KETTLE, WASHDAY } from '@/demo/film';
import { makeFilm } from '@/demo/makeFilm';
import { getDatabase } from '@/server/store/database';
import { insertOriginal, wholeFile } from '@/server/store/originals';
import { insertPicture } from '@/server/store/pictures';
import { insertDocument } from '@/server/store/saveDocument';
import { projectExists } from '@/server/store/shelf';

const FILMS = [
  { id: 'kettle', plan: KETTLE },
  { id: 'washday', plan: WASHDAY },
] as const;

const shared = globalThis as typeof globalThis & { limeTickDemo?: Promise<{ id: string }> };

async function make(): Promise<{ id: string }> {
  const database = await getDatabase();
  for (const { id, plan } of FILMS) {
    if (await projectExists(database, id)) continue;
    const film = await makeFilm(plan, id, randomUUID);
    for (const { digest, file } of film.originals) await insertOriginal(database, digest, file.byteLength, wholeFile(file));
    await database.transaction(async (tx) => {
      for (const picture of film.pictures) await insertPicture(tx, picture);
      await insertDocument(tx, film.project);
    });
  }
  return { id: 'washday' };
}

/** Makes the demo projects that are not there yet; resolves with Washday's id. Calls made meanwhile share one making. */
export function makeDemo(): Promise<{ id: string }> {
  shared.limeTickDemo ??= make().finally(() => {
    shared.limeTickDemo = undefined;
  });
  return shared.limeTickDemo;
}
