import type { Digest, Size } from '@/core/sheet/document';
import { make, makeWithPicture } from '@/features/sync/session';
import { keepPixels, type StrokeDraft } from '@/workers/client';

/** What is drawn on. */
export type DrawTarget = StrokeDraft['target'];

type Options = {
  /** The draft the picture comes from, to be let go of with the step. */
  readonly draftOrder?: number;
  /** Told the picture's digest, null for an empty page, before the document shows it. */
  readonly onDigest?: (digest: Digest | null) => void;
};

/**
 * Makes pixels (RGBA, straight alpha; taken over) a drawing's picture: digest and PNG are worked out aside,
 * then it is a step like any other.
 */
export async function makePicture({ width, height }: Size, target: DrawTarget, pixels: Uint8ClampedArray, options: Options): Promise<void> {
  const { draftOrder, onDigest } = options;
  const kept = await keepPixels(width, height, pixels);
  onDigest?.(kept?.digest ?? null);
  if (kept) await makeWithPicture({ type: 'setPicture', ...target, picture: kept.digest }, kept, draftOrder);
  else make({ type: 'setPicture', ...target, picture: null }, draftOrder === undefined ? {} : { draftOrder });
}
