import type { Finding, Looking } from '@/core/check/finding';
import type { Shot } from '@/core/document/model';
import { type Leaving, leavingLevels, stackKey, stretchesOfShot } from '@/core/render/stacks';
import { framesInWords } from '@/core/sheet/frameWords';
import { plural } from '@/core/time/counts';
import { secondsText } from '@/core/time/seconds';

/** Stretches of a shot over which no level shows another picture for longer than the checks allow. */
export function stillStretch(shot: Shot, { firstNumber, rate, checks }: Looking): readonly Finding[] {
  if (checks.stillFrames === 0) return [];
  const joined: Leaving[] = [];
  for (const stretch of stretchesOfShot(leavingLevels(shot), shot.frames)) {
    const last = joined.at(-1);
    if (last && stackKey(last.layers) === stackKey(stretch.layers))
      joined[joined.length - 1] = { ...last, frames: last.frames + stretch.frames };
    else joined.push(stretch);
  }
  // A shot of one picture is a card, and means to stand.
  if (joined.length < 2) return [];
  return joined
    .filter((stretch) => stretch.frames > checks.stillFrames && stretch.layers.length > 0)
    .map((stretch) => {
      const toFrame = stretch.startFrame + stretch.frames - 1;
      return {
        id: `still ${shot.id} ${stretch.layers.map((layer) => layer.picture.slice(0, 12)).join(' ')}`.slice(0, 290),
        kind: 'still',
        group: 'slips',
        breaks: null,
        sentence: `Nothing moves in shot ${shot.code} on ${framesInWords(stretch.startFrame, toFrame, firstNumber)}: ${plural(stretch.frames, 'frame')}, ${secondsText(stretch.frames, rate)} s.`,
        place: { shotId: shot.id, levelId: null, fromFrame: stretch.startFrame, toFrame },
        mends: [],
      };
    });
}
