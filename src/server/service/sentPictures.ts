import type { Digest, Size } from '@/core/document/model';
import { type Answer, answered, unprocessable } from '@/server/service/answer';
import { readPicture } from '@/server/service/readPicture';
import { getDatabase } from '@/server/store/database';
import { insertPicture, type StoredPicture } from '@/server/store/pictures';

/** A picture as it was sent, by the digest its sender worked out. */
export type SentPicture = { readonly digest: Digest; readonly png: Uint8Array };

/** Reads pictures that were sent; each has one of the given sizes, or any when null, and the digest its sender worked out. */
export async function readSentPictures(
  sizes: readonly [Size, ...Size[]] | null,
  sent: readonly SentPicture[],
): Promise<Answer<readonly StoredPicture[]>> {
  const read: StoredPicture[] = [];
  for (const { digest, png } of sent) {
    const picture = await readPicture(png, sizes);
    if (!picture.ok) return unprocessable(picture.reason);
    if (picture.value.digest !== digest) {
      return unprocessable(
        `The picture sent as ${digest.slice(0, 12)}… has other pixels (${picture.value.digest.slice(0, 12)}…): it was changed on the way, send it again.`,
      );
    }
    read.push(picture.value);
  }
  return answered(read);
}

/** Stores pictures that steps will name later, all or none. */
export async function storePictures(sent: readonly SentPicture[]): Promise<Answer<{ stored: number }>> {
  const read = await readSentPictures(null, sent);
  if (!read.ok) return read;
  const database = await getDatabase();
  await database.transaction(async (tx) => {
    for (const picture of read.value) await insertPicture(tx, picture);
  });
  return answered({ stored: read.value.length });
}
