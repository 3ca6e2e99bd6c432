import type { Digest, Size } from '@/core/document/model';
import { sameSize } from '@/core/document/size';
import { type Box, boundsOfPixels } from '@/core/raster/bounds';
import { canonicalisePixels } from '@/core/raster/canonical';
import { digestOfPixels } from '@/core/raster/digest';
import { layPart } from '@/core/raster/layPart';
import { keptPng } from '@/workers/ingest/keptPng';
import type { KeptPart, KeptPicture } from '@/workers/protocol';

/** So long after the last stroke its picture's pixels are held. */
const HELD_MILLISECONDS = 60_000;

/*
 * A stroke changes a small part of a large picture. Taking all of its pixels from the page for each would hold up the
 * pen for longer than all else that a stroke asks, so the pixels of the picture that was made last stay here, and the page
 * sends what has changed of them.
 */

type Held = { readonly digest: Digest | null; readonly size: Size; readonly rgba: Uint8ClampedArray };

let held: Held | null = null;
let lettingGo: ReturnType<typeof setTimeout> | undefined;

function hold(picture: Held): void {
  held = picture;
  clearTimeout(lettingGo);
  lettingGo = setTimeout(() => {
    held = null;
  }, HELD_MILLISECONDS);
}

/** Digest and PNG of canonical pixels; null when nothing is on them. */
async function packed({ width, height }: Size, rgba: Uint8ClampedArray): Promise<KeptPicture | null> {
  if (boundsOfPixels(width, height, rgba) === null) return null;
  const digest = await digestOfPixels(width, height, rgba);
  return { digest, png: await keptPng(width, height, new Uint8Array(rgba.buffer, rgba.byteOffset, rgba.byteLength)) };
}

/** What pixels (RGBA, straight alpha; taken over) are kept as, null when nothing is on them; held for parts that come where they are to be. */
export async function keepAll(size: Size, rgba: Uint8ClampedArray, holds: boolean): Promise<KeptPicture | null> {
  canonicalisePixels(rgba);
  const picture = await packed(size, rgba);
  if (holds) hold({ digest: picture?.digest ?? null, size, rgba });
  return picture;
}

const emptyPage = ({ width, height }: Size) => new Uint8ClampedArray(width * height * 4);

/** What a picture is kept as once other pixels lie in a box of it. */
export async function keepPart(base: Digest | null, size: Size, box: Box, part: Uint8ClampedArray): Promise<KeptPart> {
  const before = held && held.digest === base && sameSize(held.size, size) ? held.rgba : base === null ? emptyPage(size) : null;
  if (!before) return { isHeld: false };
  // While it is worked on it is neither the one nor the other.
  held = null;
  canonicalisePixels(part);
  layPart(size.width, before, box, part);
  const picture = await packed(size, before);
  hold({ digest: picture?.digest ?? null, size, rgba: before });
  return { isHeld: true, picture };
}
