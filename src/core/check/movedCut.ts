import type { Finding, Fix } from '@/core/check/finding';
import { isHalfOff } from '@/core/conform/conformReel';
import { conformedFrame } from '@/core/conform/rounding';
import { newGap, type Project, type ReelItemId } from '@/core/document/model';
import type { Step } from '@/core/edit/step';
import { type PlacedItem, placedItems } from '@/core/reel/reel';
import { plural } from '@/core/time/counts';
import { type Rate, rateName, sameRate } from '@/core/time/rate';
import { secondsText } from '@/core/time/seconds';

/** Where the items of a reel started before the film's rate was changed and where they start since, by the frame, from 0. */
export type RateMove = {
  readonly from: Rate;
  readonly to: Rate;
  readonly cuts: readonly { readonly itemId: ReelItemId; readonly oldFrame: number; readonly newFrame: number }[];
};

/** How many frames every shot and gap has. */
const counts = ({ shots, reel }: Project): string =>
  [...shots.map(({ frames }) => frames), ...reel.items.map((item) => (item.kind === 'gap' ? item.frames : ''))].join(' ');

/**
 * What changing the rate did to the cuts of a reel. Null when the rate is as it was, when frames were kept as they are (then
 * every cut is meant to stand at another time), and when the change before it, `last`, is taken back.
 */
export function rateMoveOf(before: Project, after: Project, last: RateMove | null): RateMove | null {
  if (sameRate(before.rate, after.rate) || counts(before) === counts(after)) return null;
  const starts = (project: Project) => new Map(placedItems(project).map(({ item, startFrame }) => [item.id, startFrame]));
  const [was, is] = [starts(before), starts(after)];
  const isTakenBack =
    last !== null &&
    sameRate(last.from, after.rate) &&
    sameRate(last.to, before.rate) &&
    last.cuts.every(({ itemId, oldFrame }) => (is.get(itemId) ?? oldFrame) === oldFrame);
  if (isTakenBack) return null;
  const cuts = [...is].flatMap(([itemId, newFrame]) => {
    const oldFrame = was.get(itemId);
    return oldFrame === undefined ? [] : [{ itemId, oldFrame, newFrame }];
  });
  return { from: before.rate, to: after.rate, cuts };
}

/** Starts an item some frames earlier, by what is before it. */
function earlier(before: PlacedItem | undefined, frames: number): Pick<Fix, 'words' | 'step'> | null {
  if (!before) return null;
  const { item, source } = before;
  const left = before.endFrame - before.startFrame - frames;
  if (item.kind === 'gap' && left >= 0)
    return {
      words: `Take ${plural(frames, 'frame')} from the gap before it`,
      step: left === 0 ? { type: 'removeItems', itemIds: [item.id] } : { type: 'setGapLength', itemId: item.id, frames: left },
    };
  if (item.kind === 'gap' || !source || left < 1) return null;
  const trim = { fromFrame: before.fromFrame, frames: left };
  return {
    words: `Show ${plural(frames, 'frame')} less at the end of ${source.name}`,
    step: { type: 'trimItem', itemId: item.id, trim },
  };
}

/** Starts an item some frames later, by paper before it. */
function later(project: Project, before: PlacedItem | undefined, placed: PlacedItem, frames: number): Pick<Fix, 'words' | 'step'> {
  if (before?.item.kind === 'gap')
    return {
      words: `Make the gap before it ${plural(frames, 'frame')} longer`,
      step: { type: 'setGapLength', itemId: before.item.id, frames: before.item.frames + frames },
    };
  let id = `${placed.item.id} paper`;
  while (project.reel.items.some((item) => item.id === id)) id += '+';
  const step: Step = { type: 'addItems', items: [{ item: newGap(id, frames), index: placed.index }] };
  return { words: `Put ${plural(frames, 'frame')} of paper before it`, step };
}

/** Cuts that still stand where a change of rate left them, or between there and their time. */
export function movedCut(project: Project, move: RateMove | null): readonly Finding[] {
  if (!move || !sameRate(project.rate, move.to)) return [];
  const { from, to } = move;
  const first = project.firstFrameNumber;
  const cuts = new Map(move.cuts.map((cut) => [cut.itemId, cut]));
  const places = placedItems(project);
  return places.flatMap((placed): readonly Finding[] => {
    const cut = cuts.get(placed.item.id);
    if (!cut || !isHalfOff(cut.oldFrame, from, placed.startFrame, to)) return [];
    const due = conformedFrame(cut.oldFrame, from, to);
    const [off, leftOff] = [placed.startFrame - due, cut.newFrame - due];
    // Moved by somebody since, whatever the rate did.
    if (Math.sign(off) !== Math.sign(leftOff) || Math.abs(off) > Math.abs(leftOff)) return [];
    const before = places[placed.index - 1];
    const fix = off > 0 ? earlier(before, off) : later(project, before, placed, -off);
    const name = placed.source?.name ?? 'the gap';
    return [
      {
        id: `moved-cut ${placed.item.id}`,
        kind: 'moved-cut',
        group: 'counts',
        breaks: 'check-assemble',
        sentence: `The cut to ${name} was on frame ${cut.oldFrame + first} at ${rateName(from)}, ${secondsText(cut.oldFrame, from)} s in: that is frame ${due + first} at ${rateName(to)}, and it stands on frame ${placed.startFrame + first}, ${plural(Math.abs(off), 'frame')} ${off > 0 ? 'late' : 'early'}.`,
        place: placed.shot && { shotId: placed.shot.id, levelId: null, fromFrame: placed.fromFrame, toFrame: placed.fromFrame },
        fixes: fix ? [{ way: 'cut-on-time', ...fix }] : [],
      },
    ];
  });
}
