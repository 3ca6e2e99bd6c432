import { KnownPictures } from '@/core/outside/knownPictures';
import { COARSE_LOOK_BYTES, type ColourReading, coarseLook, type Nearby, nearbyAt, readAs } from '@/core/outside/look';
import { allLooks } from '@/core/outside/looks';
import type { SeenFrames } from '@/core/outside/seenFrames';

/** The pictures of two films by shared ids, frame by frame: where both have one id, they show the same picture. */
export type SharedPictures = { readonly plan: Uint32Array; readonly file: Uint32Array };

/** How pictures of two films are told to be the same: how wide the smaller is, and how the file's colours are read. */
export type Telling = { readonly widthPx: number; readonly reading: ColourReading };

/**
 * Tells which pictures of two films are the same: those of the plan first, by what coding does to one film, then each of the file's
 * as the nearest of them, by what becomes of it in another coding and size.
 */
export function sharedPictures(plan: SeenFrames, file: SeenFrames, { widthPx, reading }: Telling): SharedPictures {
  const isCoarse = [plan, file].some(({ pictures }) => pictures.lookBytes === COARSE_LOOK_BYTES);
  const looksOf = ({ pictures }: SeenFrames) => (isCoarse ? allLooks(pictures).map(coarseLook) : allLooks(pictures));
  const [ofPlan, ofFile] = [looksOf(plan), looksOf(file).map((look) => readAs(look, reading))];
  const known = new KnownPictures([...ofPlan, ...ofFile]);
  const idsOf = (looks: readonly Uint8Array[], { pictureOf }: SeenFrames, nearby: Nearby) => {
    const ids = Uint32Array.from(looks, (look) => known.idOf(look, nearby));
    return pictureOf.map((picture) => ids[picture] as number);
  };
  return { plan: idsOf(ofPlan, plan, nearbyAt(STEADY_WIDTH_PX)), file: idsOf(ofFile, file, nearbyAt(widthPx)) };
}

/** A film from so wide on is told by the strictest limits. */
const STEADY_WIDTH_PX = 4096;
