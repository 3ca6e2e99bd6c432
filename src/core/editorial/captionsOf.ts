import type { NoteKind, Project } from '@/core/document/model';
import type { Caption } from '@/core/format/captions/captions';
import { framesOfReel, placedShots } from '@/core/reel/reel';
import type { Rate } from '@/core/time/rate';

/** How long words stay that nothing follows, in frames of half a second. */
const longest = ({ num, den }: Rate): number => Math.max(1, Math.round(num / den / 2));

const milliseconds = (frame: number, { num, den }: Rate): number => Math.round((frame * 1000 * den) / num);

/**
 * The words and accents that are written on the sheets, where they are on the reel: each from its frame until the next of its
 * kind begins or its shot ends, and at most two seconds. Accents are said in brackets.
 */
export function captionsOf(project: Project, kinds: readonly NoteKind[]): readonly Caption[] {
  const { rate } = project;
  const most = longest(rate) * 4;
  const total = framesOfReel(project);
  const said = placedShots(project).flatMap(({ shot, fromFrame, startFrame, endFrame }) =>
    shot.notes.flatMap(({ frame, kind, words }) => {
      const at = startFrame + frame - fromFrame;
      return kinds.includes(kind) && at >= startFrame && at < endFrame
        ? [{ at, end: endFrame, words: kind === 'accent' ? `[${words}]` : words }]
        : [];
    }),
  );
  const sorted = said.toSorted((a, b) => a.at - b.at);
  return sorted.map(({ at, end, words }, index) => {
    const next = sorted.slice(index + 1).find((other) => other.at > at)?.at ?? total;
    const until = Math.max(at + 1, Math.min(at + most, next, end));
    return { startMilliseconds: milliseconds(at, rate), endMilliseconds: milliseconds(until, rate), words };
  });
}
