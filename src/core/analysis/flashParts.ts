import type { Flashes } from '@/core/analysis/flashRule';
import { isClipPicture, showsClip } from '@/core/render/clipPicture';
import type { RenderRun } from '@/core/render/renderPlan';
import type { PictureName, PictureStack } from '@/core/render/stacks';
import type { Rate } from '@/core/time/rate';

/*
 * Every frame of a clip covers the whole picture, and the light of a thousand of them would take hundreds of megabytes. A film
 * is therefore looked over for flashes in parts: what it shows of drawings, and so many frames of a clip at once, whose light is
 * let go again. Flashes are counted within a second, so that a part which begins a second early misses none that end in it.
 */

/** Part of a film: runs from (inclusive) and to (exclusive), with the second before them, and the frames of clips they show. */
export type FlashPart = {
  /** The same for two parts that show the same for as long, wherever they lie; empty for one without frames of clips, which is looked over each time. */
  readonly key: string;
  readonly runs: readonly RenderRun[];
  readonly clipPictures: readonly PictureName[];
};

/** How many different frames of clips a part shows at most, besides those of the second before it. */
export const MOST_CLIP_FRAMES = 240;

const NO_PICTURES: readonly PictureName[] = [];

const clipPicturesOf = (stack: PictureStack): readonly PictureName[] =>
  showsClip(stack) ? stack.layers.flatMap(({ picture }) => (isClipPicture(picture) ? [picture] : [])) : NO_PICTURES;

/** Where parts begin: where a clip begins or ends, and after so many of its frames. */
function partStarts(clipsOfRuns: readonly (readonly PictureName[])[]): readonly number[] {
  const starts: number[] = [];
  let seen = new Set<PictureName>();
  clipsOfRuns.forEach((pictures, run) => {
    const wasClip = run > 0 && (clipsOfRuns[run - 1] as readonly PictureName[]).length > 0;
    if (run === 0 || wasClip !== pictures.length > 0 || seen.size >= MOST_CLIP_FRAMES) {
      starts.push(run);
      seen = new Set();
    }
    for (const picture of pictures) seen.add(picture);
  });
  return starts;
}

/** Long: it names every stack. For a feature film without clips it would take more memory than its pictures' light. */
function keyOfPart(runs: readonly RenderRun[], stacks: readonly PictureStack[], rate: Rate): string {
  const words = runs.map(({ stack, frames }) => `${stacks[stack]?.key}*${frames}`);
  return `${rate.num}/${rate.den} ${words.join(' ')}`;
}

/** The parts of a film, in order. A film without clips is one. */
export function flashParts(stacks: readonly PictureStack[], runs: readonly RenderRun[], rate: Rate): readonly FlashPart[] {
  const clipsOfStacks = stacks.map(clipPicturesOf);
  const clipsOfRuns = runs.map(({ stack }) => clipsOfStacks[stack] ?? NO_PICTURES);
  const starts = partStarts(clipsOfRuns);
  const framesBefore = Math.ceil(rate.num / rate.den);
  return starts.map((start, index) => {
    const end = starts[index + 1] ?? runs.length;
    const earliest = (runs[start] as RenderRun).startFrame - framesBefore;
    let from = start;
    while (from > 0 && (runs[from] as RenderRun).startFrame > earliest) from--;
    const ofPart = runs.slice(from, end);
    const clipPictures = [...new Set(clipsOfRuns.slice(from, end).flat())];
    return { key: clipPictures.length === 0 ? '' : keyOfPart(ofPart, stacks, rate), runs: ofPart, clipPictures };
  });
}

/** Flashes of a part moved by so many frames. */
export const movedFlashes = (flashes: readonly Flashes[], byFrames: number): readonly Flashes[] =>
  flashes.map((each) => ({ ...each, fromFrame: each.fromFrame + byFrames, toFrame: each.toFrame + byFrames }));

/** The worst of each kind, the first of equals. */
export function worstOfEachKind(found: readonly Flashes[]): readonly Flashes[] {
  const worst = new Map<string, Flashes>();
  for (const each of found) if (each.flashes > (worst.get(each.kind)?.flashes ?? 0)) worst.set(each.kind, each);
  return [...worst.values()];
}
