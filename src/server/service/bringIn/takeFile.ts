import { readFile } from 'node:fs/promises';
import sharp from 'sharp';
import type { AlphaKind, TakenFile, TakenPicture } from '@/contracts/bringIn';
import { isCutShort } from '@/core/format/cutShort';
import { hasTransparency, unpremultiply } from '@/core/raster/alpha';
import { canonicalisePixels } from '@/core/raster/canonical';
import { type Answer, answered, noSuchProject, unprocessable } from '@/server/service/answer';
import { brokenWords, openPictures } from '@/server/service/bringIn/decode';
import { digestInTurns, inSlices, inTurn } from '@/server/service/bringIn/inTurns';
import type { Page } from '@/server/service/bringIn/pages';
import { type ReceivedFile, readReceived } from '@/server/service/bringIn/receive';
import { type Database, getDatabase } from '@/server/store/database';
import { insertOriginal } from '@/server/store/originals';
import { insertPicture, type StoredPicture } from '@/server/store/pictures';
import { projectExists } from '@/server/store/shelf';

async function packed(page: Page, alpha: AlphaKind): Promise<{ picture: StoredPicture; taken: TakenPicture }> {
  const { size, rgba, name, delayMilliseconds } = page;
  let transparent = false;
  await inSlices(rgba, (slice) => {
    if (alpha === 'premultiplied') unpremultiply(slice);
    canonicalisePixels(slice);
    transparent ||= hasTransparency(slice);
  });
  const digest = await digestInTurns(size, rgba);
  // A PNG that holds just these pixels is kept as it is; anything else is written anew without a loss.
  const png =
    alpha === 'straight' && page.png
      ? page.png
      : new Uint8Array(
          await sharp(rgba, { raw: { ...size, channels: 4 } })
            .png({ compressionLevel: 3 })
            .toBuffer(),
        );
  return { picture: { digest, size, png }, taken: { name, picture: digest, ...size, delayMilliseconds, hasTransparency: transparent } };
}

/** Decodes, packs and stores one picture after another, outside of any transaction: none of it is named by a document yet. */
async function storePages(database: Database, pages: AsyncIterable<Page>, alpha: AlphaKind): Promise<TakenPicture[]> {
  const pictures: TakenPicture[] = [];
  for await (const page of pages) {
    const { picture, taken } = await packed(page, alpha);
    await insertPicture(database, picture);
    pictures.push(taken);
  }
  return pictures;
}

/** Takes a file in: its bytes are kept as they are, its pictures are stored, and what it holds is told. The document knows nothing of it yet. */
export async function takeFile(projectId: string, file: ReceivedFile, alpha: AlphaKind): Promise<Answer<TakenFile>> {
  const database = await getDatabase();
  if (!(await projectExists(database, projectId))) return noSuchProject(projectId);
  return inTurn('brought', async () => {
    const bytes = new Uint8Array(await readFile(file.path));
    const opened = await openPictures(bytes, file.name);
    if (!opened.ok) return unprocessable(opened.reason);
    let pictures: TakenPicture[];
    try {
      pictures = await storePages(database, opened.value.pages, alpha);
    } catch (error) {
      // What a database says is no fault of the file.
      if (error instanceof Error && error.cause instanceof Error) throw error;
      return unprocessable(brokenWords(error));
    }
    await insertOriginal(database, file.digest, file.sizeBytes, readReceived(file));
    const cutShort = isCutShort(bytes, bytes, bytes.byteLength);
    return answered({ original: file.digest, kind: opened.value.kind, isLayered: opened.value.isLayered, cutShort, pictures });
  });
}
