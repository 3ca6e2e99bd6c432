import type { DrawTarget } from '@/contracts/local';
import { type Digest, type Drawing, drawingById, levelById, type Size, shotById } from '@/core/document/model';
import { setPictureAside } from '@/features/sync/aside';
import { useProjectStore } from '@/features/sync/projectStore';
import { serverRetryer } from '@/features/sync/server';
import { make, makeWithPicture } from '@/features/sync/session';
import { type KeptPicture, keepPixels, WorkerFailed } from '@/workers/client';

export type { DrawTarget } from '@/contracts/local';

/** The drawing a target names, as the document has it now; undefined when it is gone. */
export function drawingOf({ shotId, levelId, drawingId }: DrawTarget): Drawing | undefined {
  const { project } = useProjectStore.getState();
  const shot = project ? shotById(project, shotId) : undefined;
  const level = shot && levelById(shot, levelId);
  return level && drawingById(level, drawingId);
}

type Options = {
  /** Where the change belongs among what can be undone. */
  readonly order: number;
  /** Whether a stroke waits under that order, to be let go of with the step. */
  readonly fromDraft: boolean;
  /** Told the picture's digest, null for an empty page, before the document shows it. */
  readonly onDigest?: (digest: Digest | null) => void;
};

/** What pixels are kept as; waits for the server when the program that makes them could not be loaded. */
export async function packPixels(width: number, height: number, pixels: Uint8ClampedArray, holds: boolean): Promise<KeptPicture | null> {
  for (;;) {
    try {
      // What is handed to a worker that fails is gone with it.
      return await keepPixels(width, height, pixels.slice(), holds);
    } catch (error) {
      if (!(error instanceof WorkerFailed)) throw error;
      await serverRetryer.wait();
    }
  }
}

/** Makes what was worked out aside a drawing's picture, as a step like any other; null for an empty page. When the drawing is gone by then the picture is set aside. */
export async function makeKept(target: DrawTarget, kept: KeptPicture | null, { order, fromDraft, onDigest }: Options): Promise<void> {
  const draftOrder = fromDraft ? order : undefined;
  if (!drawingOf(target)) {
    await setPictureAside(target, kept, order, 'Its drawing was deleted meanwhile.');
    return;
  }
  onDigest?.(kept?.digest ?? null);
  if (kept) await makeWithPicture({ type: 'setPicture', ...target, picture: kept.digest }, kept, { order, draftOrder });
  else make({ type: 'setPicture', ...target, picture: null }, { order, draftOrder });
}

/** Makes pixels (RGBA, straight alpha; taken over) a drawing's picture; they are held where that is worked out, since more is drawn on what was drawn last. */
export async function makePicture({ width, height }: Size, target: DrawTarget, pixels: Uint8ClampedArray, options: Options): Promise<void> {
  await makeKept(target, await packPixels(width, height, pixels, true), options);
}
