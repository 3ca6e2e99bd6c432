import type { Alignment } from '@/core/outside/align';
import type { Flat } from '@/core/outside/look';
import type { SharedPictures } from '@/core/outside/samePictures';

/**
 * What is wrong with a file beside its plan, in the order of its frames. All frames count from 0.
 * - `twice`: the file shows the picture before once more on `frames` frames from `fileFrame` on; it is that of `planFrame`.
 * - `extra`: frames of the file that are not of the plan, before `planFrame`; `shows` is the plan's frame whose picture it is elsewhere.
 * - `missing`: frames of the plan that are not in the file, from `planFrame` on; they would stand before `fileFrame`.
 * - `other`: another picture than planned; `shows` is the first plan's frame it belongs to, null for one that is not of the plan.
 * - `swapped`: `planFrame` and the one after it have changed places.
 */
export type Fault =
  | { readonly kind: 'twice'; readonly planFrame: number; readonly fileFrame: number; readonly frames: number }
  | {
      readonly kind: 'extra' | 'other';
      readonly planFrame: number;
      readonly fileFrame: number;
      readonly frames: number;
      readonly shows: number | null;
      readonly flat: Flat | null;
    }
  | { readonly kind: 'missing' | 'swapped'; readonly planFrame: number; readonly fileFrame: number; readonly frames: number };

/** What a file's frames look like where they are of one colour. */
export type FlatOfFrame = (fileFrame: number) => Flat | null;

/** Joins faults of one kind that go on from frame to frame. */
function joins(last: Fault | undefined, next: Fault): boolean {
  if (!last || last.kind !== next.kind || last.kind === 'swapped') return false;
  const goesOn = (key: 'planFrame' | 'fileFrame') => last[key] + last.frames === next[key];
  if (last.kind === 'missing') return goesOn('planFrame') && last.fileFrame === next.fileFrame;
  if (last.kind === 'twice') return goesOn('fileFrame') && last.planFrame === next.planFrame;
  if (!('flat' in last) || !('flat' in next) || last.flat !== next.flat || (last.shows === null) !== (next.shows === null)) return false;
  if (last.kind === 'extra') return goesOn('fileFrame') && last.planFrame === next.planFrame;
  const isInStep = last.shows === null || next.shows === null || last.shows + last.frames === next.shows || last.shows === next.shows;
  return goesOn('fileFrame') && goesOn('planFrame') && isInStep;
}

/** Finds two neighbours that have changed places, which an alignment tells as two other pictures, or as one missing and one extra. */
function withSwaps(faults: readonly Fault[], { plan, file }: SharedPictures, { fileOf }: Alignment): readonly Fault[] {
  const isSwapped = (planFrame: number, fileFrame: number) =>
    planFrame >= 0 &&
    fileFrame >= 0 &&
    planFrame + 1 < plan.length &&
    fileFrame + 1 < file.length &&
    plan[planFrame] !== plan[planFrame + 1] &&
    plan[planFrame] === file[fileFrame + 1] &&
    plan[planFrame + 1] === file[fileFrame];
  const out: Fault[] = [];
  for (let at = 0; at < faults.length; at++) {
    const [fault, next] = [faults[at] as Fault, faults[at + 1]];
    if (fault.kind === 'other' && fault.frames === 2 && isSwapped(fault.planFrame, fault.fileFrame)) {
      out.push({ kind: 'swapped', planFrame: fault.planFrame, fileFrame: fault.fileFrame, frames: 2 });
      continue;
    }
    const pair = [fault, next].map((each) => each?.kind);
    const isPair =
      fault.frames === 1 && next?.frames === 1 && pair.includes('missing') && (pair.includes('extra') || pair.includes('twice'));
    if (isPair) {
      const first = Math.min(fault.planFrame, next.planFrame);
      const before = fileOf[first - 1] ?? -1;
      const fileFrame = first === 0 ? 0 : before + 1;
      const planFrame = [first, first - 1].find((frame) => isSwapped(frame, frame === first ? fileFrame : fileFrame - 1));
      if (planFrame !== undefined) {
        out.push({ kind: 'swapped', planFrame, fileFrame: planFrame === first ? fileFrame : fileFrame - 1, frames: 2 });
        at++;
        continue;
      }
    }
    out.push(fault);
  }
  return out;
}

/** The faults of a file that was laid beside its plan. */
export function faultsOf(shared: SharedPictures, alignment: Alignment, flatOf: FlatOfFrame): readonly Fault[] {
  const { plan, file } = shared;
  const { fileOf, planOf, isSame } = alignment;
  const firstShown = new Map<number, number>();
  for (let frame = plan.length - 1; frame >= 0; frame--) firstShown.set(plan[frame] as number, frame);
  const found: Fault[] = [];
  const add = (fault: Fault) => {
    const last = found.at(-1);
    if (joins(last, fault)) found[found.length - 1] = { ...(last as Fault), frames: (last as Fault).frames + fault.frames };
    else found.push(fault);
  };
  let [planFrame, fileFrame] = [0, 0];
  while (planFrame < plan.length || fileFrame < file.length) {
    if (fileFrame < file.length && planOf[fileFrame] === -1) {
      const picture = file[fileFrame] as number;
      const last = found.at(-1);
      const goesOn = last?.kind === 'twice' && last.fileFrame + last.frames === fileFrame;
      const isBesidePlan = planFrame > 0 && planOf[fileFrame - 1] === planFrame - 1;
      const isTwice = fileFrame > 0 && picture === file[fileFrame - 1] && (goesOn || isBesidePlan);
      const place = { planFrame, fileFrame, frames: 1 };
      if (isTwice) add({ kind: 'twice', ...place, planFrame: planFrame - 1 });
      else add({ kind: 'extra', ...place, shows: firstShown.get(picture) ?? null, flat: flatOf(fileFrame) });
      fileFrame++;
    } else if (planFrame < plan.length && fileOf[planFrame] === -1) {
      add({ kind: 'missing', planFrame, fileFrame, frames: 1 });
      planFrame++;
    } else {
      if (isSame[planFrame] === 0) {
        const shows = firstShown.get(file[fileFrame] as number) ?? null;
        add({ kind: 'other', planFrame, fileFrame, frames: 1, shows, flat: flatOf(fileFrame) });
      }
      planFrame++;
      fileFrame++;
    }
  }
  return withSwaps(found, shared, alignment);
}
