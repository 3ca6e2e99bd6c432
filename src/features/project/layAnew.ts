import type { Digest, Project, Size } from '@/core/document/model';
import type { Anchor, PlacementMode } from '@/core/raster/placing';
import { postPictures } from '@/features/sync/api';
import { layPictureAnew } from '@/workers/client';

/** Every picture that a drawing of the project has. */
export const drawnPictures = (project: Project): ReadonlySet<Digest> =>
  new Set(project.shots.flatMap((shot) => shot.levels.flatMap((level) => level.drawings.flatMap((drawing) => drawing.picture ?? []))));

const MOST_SENT_BYTES = 24 * 1024 * 1024;

/**
 * Lays pictures on another size, one after another in a worker, and stores them on the server; the new
 * digest for each old one, null where nothing is left on it. Rejects when stopped or when one is missing;
 * what was stored by then is swept away later.
 */
export async function layAnew(
  pictures: ReadonlySet<Digest>,
  size: Size,
  laying: PlacementMode,
  stop: AbortSignal,
  onProgress: (done: number, of: number) => void,
  anchor: Anchor = 'middle',
): Promise<ReadonlyMap<Digest, Digest | null>> {
  const laid = new Map<Digest, Digest | null>();
  let sending = new Map<Digest, Uint8Array>();
  let sendingBytes = 0;
  const send = async () => {
    if (sending.size > 0) await postPictures(sending);
    sending = new Map();
    sendingBytes = 0;
  };
  onProgress(0, pictures.size);
  for (const digest of pictures) {
    stop.throwIfAborted();
    const kept = await layPictureAnew(digest, size, laying, anchor);
    laid.set(digest, kept?.digest ?? null);
    if (kept) {
      sending.set(kept.digest, kept.png);
      sendingBytes += kept.png.byteLength;
    }
    if (sendingBytes > MOST_SENT_BYTES) await send();
    onProgress(laid.size, pictures.size);
  }
  await send();
  stop.throwIfAborted();
  return laid;
}
