import type { Project } from '@/core/document/model';
import { framesOf, matchingOf, showsSame, sourceFor } from '@/core/editorial/matching';
import { soundDifferences } from '@/core/editorial/soundDifferences';
import type { EditorialTimeline } from '@/core/format/editorial';
import { type Outcome, refused } from '@/core/outcome';
import { countText, plural } from '@/core/time/counts';
import { framesInWords } from '@/core/time/frameWords';
import { rateName, sameRate } from '@/core/time/rate';

/* What is different in a timeline that comes back, in sentences; see `@/core/editorial/matching` for what belongs to what. */

/** A difference, in words. `canTake` is false for one that can only be told. */
export type ReelDifference = {
  readonly id: string;
  readonly kind: 'moved' | 'trimmed' | 'gone' | 'new' | 'gap' | 'sound';
  readonly words: string;
  readonly canTake: boolean;
};

const gapWords = (name: string, frames: number, before: number): string =>
  frames === 0
    ? `No gap before ${name}, was ${plural(before, 'frame')}.`
    : `A gap of ${plural(frames, 'frame')} before ${name}${before === 0 ? '' : `, was ${countText(before)}`}.`;

/** Every difference of a timeline from the reel; refused where it is at another rate, which is settled first. */
export function differencesFromReel(project: Project, timeline: EditorialTimeline): Outcome<readonly ReelDifference[]> {
  if (!sameRate(project.rate, timeline.rate))
    return refused(
      `It counts ${rateName(timeline.rate)} frames a second, and this film ${rateName(project.rate)}: its frames are not these. Have it written at ${rateName(project.rate)}.`,
    );
  const { units, wanted, unitOf, moved, endFrames, wantedEndFrames } = matchingOf(project, timeline);
  const first = project.firstFrameNumber;
  const kept = new Set(unitOf);
  const differences: ReelDifference[] = units.flatMap(({ placed }, unit): readonly ReelDifference[] =>
    kept.has(unit)
      ? []
      : [
          {
            id: `gone:${placed.item.id}`,
            kind: 'gone',
            canTake: true,
            words: `${placed.source?.name ?? ''}, on frame ${placed.startFrame + first}, is not in it.`,
          },
        ],
  );
  for (const [place, { clip, gapFrames }] of wanted.entries()) {
    const unit = units[unitOf[place] as number];
    const at = `frame ${clip.startFrame + first}`;
    if (!unit) {
      const isKnown = sourceFor(project, clip.name) !== null;
      const words = isKnown
        ? `${clip.name} comes in on ${at}, ${plural(clip.frames, 'frame')}.`
        : `${clip.name} comes in on ${at}, and is not in this project: ${plural(clip.frames, 'frame')} of paper in its place.`;
      differences.push({ id: `new:${place}`, kind: 'new', canTake: true, words });
      continue;
    }
    const { placed } = unit;
    if (moved.has(place))
      differences.push({
        id: `moved:${placed.item.id}`,
        kind: 'moved',
        canTake: true,
        words: `${clip.name} starts on ${at}, was ${placed.startFrame + first}.`,
      });
    else if (unit.gapFrames !== gapFrames)
      differences.push({ id: `gap:${placed.item.id}`, kind: 'gap', canTake: true, words: gapWords(clip.name, gapFrames, unit.gapFrames) });
    if (!showsSame(unit, { clip, gapFrames })) {
      const words = (from: number, frames: number) => framesInWords(from, from + frames - 1, first);
      differences.push({
        ...{ id: `trimmed:${placed.item.id}`, kind: 'trimmed', canTake: true },
        words: `${clip.name} shows ${words(clip.sourceFrame, clip.frames)}, was ${words(placed.fromFrame, framesOf(placed))}.`,
      });
    }
  }
  if (endFrames !== wantedEndFrames)
    differences.push({ id: 'gap:end', kind: 'gap', canTake: true, words: gapWords('the end', wantedEndFrames, endFrames) });
  return {
    ok: true,
    value: [
      ...differences,
      ...soundDifferences(project, timeline).map(({ id, words, step }) => ({ id, kind: 'sound' as const, words, canTake: step !== null })),
    ],
  };
}
