import { diffArrays } from 'diff';
import type { Exposure } from '@/core/document/model';

/*
 * Two lists of exposures held against each other, so that each difference can be taken by itself: drawings that follow each
 * other in both are the same exposures, held longer or shorter, and what lies between them is gone, new, or has become something
 * else. All differences taken make the one list the other; what follows a difference that is taken moves with it.
 */

/** Exposures of the first list and what stands for them in the second, each from its own frame on. `isSame` when nothing differs. */
export type RunPart = {
  readonly before: readonly Exposure[];
  readonly after: readonly Exposure[];
  readonly startFrame: number;
  readonly startFrameAfter: number;
  readonly isSame: boolean;
};

/** Lists that differ in more exposures than this are one difference: nobody takes so many one by one. */
export const MOST_PARTS = 200;

const framesOf = (runs: readonly Exposure[]) => runs.reduce((sum, run) => sum + run.frames, 0);

/** The parts of two lists, in order. */
export function runParts(before: readonly Exposure[], after: readonly Exposure[]): readonly RunPart[] {
  const parts: RunPart[] = [];
  let [startFrame, startFrameAfter] = [0, 0];
  const add = (own: readonly Exposure[], other: readonly Exposure[], isSame: boolean) => {
    if (own.length === 0 && other.length === 0) return;
    parts.push({ before: own, after: other, startFrame, startFrameAfter, isSame });
    startFrame += framesOf(own);
    startFrameAfter += framesOf(other);
  };
  const drawings = (runs: readonly Exposure[]) => runs.map(({ drawing }) => drawing);
  const found = diffArrays(drawings(before), drawings(after), { maxEditLength: MOST_PARTS * 4 });
  let [own, other] = [0, 0];
  let [gone, come] = [0, 0];
  const flush = () => {
    add(before.slice(own - gone, own), after.slice(other - come, other), false);
    [gone, come] = [0, 0];
  };
  for (const { added, removed, count } of found ?? []) {
    if (removed) [own, gone] = [own + count, gone + count];
    else if (added) [other, come] = [other + count, come + count];
    else {
      flush();
      for (let at = 0; at < count; at++, own++, other++) {
        const [run, now] = [before[own] as Exposure, after[other] as Exposure];
        add([run], [now], run.frames === now.frames);
      }
    }
  }
  flush();
  const differing = parts.filter(({ isSame }) => !isSame).length;
  if (found && differing <= MOST_PARTS) return parts;
  return [{ before, after, startFrame: 0, startFrameAfter: 0, isSame: false }];
}
