import type { CheckContext, Finding } from '@/core/check/finding';
import type { Shot } from '@/core/document/model';
import { type ShotRun, shotRuns } from '@/core/render/shotRuns';
import { leavingLevels, stackKey } from '@/core/render/stacks';
import { plural } from '@/core/time/counts';
import { framesInWords } from '@/core/time/frameWords';
import { secondsText } from '@/core/time/seconds';

/** Runs of a shot over which no level shows another picture for longer than the checks allow. */
export function stillRuns(shot: Shot, { firstNumber, rate, checks }: CheckContext): readonly Finding[] {
  if (checks.stillFrames === 0) return [];
  const joined: ShotRun[] = [];
  for (const run of shotRuns(leavingLevels(shot), shot.frames)) {
    const last = joined.at(-1);
    if (last && stackKey(last.layers) === stackKey(run.layers)) joined[joined.length - 1] = { ...last, frames: last.frames + run.frames };
    else joined.push(run);
  }
  // A shot of one picture is a card, and means to stand.
  if (joined.length < 2) return [];
  return joined
    .filter((run) => run.frames > checks.stillFrames && run.layers.length > 0)
    .map((run) => {
      const toFrame = run.startFrame + run.frames - 1;
      return {
        id: `still ${shot.id} ${run.layers.map((layer) => layer.picture.slice(0, 12)).join(' ')}`.slice(0, 290),
        kind: 'still',
        group: 'slips',
        breaks: null,
        sentence: `Nothing moves in shot ${shot.code} on ${framesInWords(run.startFrame, toFrame, firstNumber)}: ${plural(run.frames, 'frame')}, ${secondsText(run.frames, rate)} s.`,
        place: { shotId: shot.id, levelId: null, fromFrame: run.startFrame, toFrame },
        fixes: [],
      };
    });
}
