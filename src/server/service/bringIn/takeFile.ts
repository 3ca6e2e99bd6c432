import { createHash } from 'node:crypto';
import sharp from 'sharp';
import type { AlphaKind, TakenFile, TakenPicture } from '@/contracts/bringIn';
import { hasTransparency, unpremultiply } from '@/core/raster/alpha';
import { canonicalisePixels, digestOfPixels } from '@/core/raster/digest';
import { type Answer, answered, noSuchProject, unprocessable } from '@/server/service/answer';
import { decodePictures } from '@/server/service/bringIn/decode';
import type { Page } from '@/server/service/bringIn/pages';
import { getDatabase } from '@/server/store/database';
import { insertOriginal } from '@/server/store/originals';
import { insertPicture, type StoredPicture } from '@/server/store/pictures';
import { projectExists } from '@/server/store/shelf';

async function stored(page: Page, alpha: AlphaKind): Promise<{ picture: StoredPicture; taken: TakenPicture }> {
  const { size, rgba, name, delayMilliseconds } = page;
  if (alpha === 'premultiplied') unpremultiply(rgba);
  canonicalisePixels(rgba);
  const digest = await digestOfPixels(size.width, size.height, rgba);
  // A PNG that holds just these pixels is kept as it is; anything else is written anew without a loss.
  const png =
    alpha === 'straight' && page.png
      ? page.png
      : new Uint8Array(
          await sharp(rgba, { raw: { ...size, channels: 4 } })
            .png({ compressionLevel: 3 })
            .toBuffer(),
        );
  return {
    picture: { digest, size, png },
    taken: { name, picture: digest, ...size, delayMilliseconds, hasTransparency: hasTransparency(rgba) },
  };
}

/** Takes a file in: its bytes are kept as they are, its pictures are stored, and what it holds is told. The document knows nothing of it yet. */
export async function takeFile(projectId: string, fileName: string, bytes: Uint8Array, alpha: AlphaKind): Promise<Answer<TakenFile>> {
  const database = await getDatabase();
  if (!(await projectExists(database, projectId))) return noSuchProject(projectId);
  const decoded = await decodePictures(bytes, fileName);
  if (!decoded.ok) return unprocessable(decoded.reason);
  const original = createHash('sha256').update(bytes).digest('hex');
  const pictures: TakenPicture[] = [];
  await database.transaction(async (tx) => {
    await insertOriginal(tx, original, bytes);
    for (const page of decoded.value.pages) {
      const { picture, taken } = await stored(page, alpha);
      await insertPicture(tx, picture);
      pictures.push(taken);
    }
  });
  return answered({ original, kind: decoded.value.kind, isLayered: decoded.value.isLayered, pictures });
}
