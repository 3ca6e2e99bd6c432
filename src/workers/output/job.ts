import { digestOfBytes } from '@/core/raster/digest';
import { planText } from '@/core/render/renderPlan';
import { writeFilm } from '@/workers/output/film';
import { FilmCodecMissing } from '@/workers/output/filmCodec';
import { writeSequence } from '@/workers/output/sequence';
import { NameTaken } from '@/workers/output/sequenceTarget';
import type { HandoverEnd, HandoverOrder, HandoverProgress } from '@/workers/protocol';
import { PictureMissing } from '@/workers/render/pictureSource';

const REPORT_MILLISECONDS = 200;

/** Reports no more often than eyes follow, but the beginning and the end of each phase: every report costs the page a painting. */
function calm(onProgress: (progress: HandoverProgress) => void): (progress: HandoverProgress) => void {
  let last = { phase: '', time: 0 };
  return (progress) => {
    const time = performance.now();
    if (progress.phase === last.phase && progress.framesDone < progress.frames && time - last.time < REPORT_MILLISECONDS) return;
    last = { phase: progress.phase, time };
    onProgress(progress);
  };
}

/** Writes what the plan asks for, opens it again and counts it. A stop or a failure leaves no half-written file. */
export async function runHandover(
  order: HandoverOrder,
  folder: FileSystemDirectoryHandle | null,
  onEveryProgress: (progress: HandoverProgress) => void,
  stop: AbortSignal,
): Promise<HandoverEnd> {
  const onProgress = calm(onEveryProgress);
  try {
    const planDigest = await digestOfBytes(planText(order.plan));
    const isFilm = order.kind === 'mp4' || order.kind === 'webm';
    const written = isFilm ? await writeFilm(order, onProgress, stop) : await writeSequence(order, folder, onProgress, stop);
    return { kind: 'written', result: { ...written, planDigest } };
  } catch (error) {
    if (stop.aborted) return { kind: 'stopped' };
    if (error instanceof PictureMissing || error instanceof FilmCodecMissing || error instanceof NameTaken)
      return { kind: 'refused', reason: error.message };
    if (error instanceof DOMException && error.name === 'QuotaExceededError') {
      return {
        kind: 'refused',
        reason: 'There is no room left on this disk for the file. Nothing was left behind; make room and hand over again.',
      };
    }
    throw error;
  }
}
