import { helperPorts } from '@/workers/output/pictures/helperPorts';
import type { PictureHelpers } from '@/workers/output/pictures/pictureHelpers';

const newHelpers = async () => new (await import('@/workers/output/pictures/pictureHelpers')).PictureHelpers(helperPorts);

/** Begun before they are needed; null where they weren't, or could not be loaded. */
let helpers: Promise<PictureHelpers> | null = null;

/** The helpers of this worker's job, begun once, however often it is asked. */
export function helpersOfJob(): Promise<PictureHelpers> {
  helpers ??= newHelpers().catch((error: unknown) => {
    helpers = null;
    throw error;
  });
  return helpers;
}
