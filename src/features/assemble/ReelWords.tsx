'use client';
import { useMemo } from 'react';
import type { Project } from '@/core/document/model';
import { type PlacedShot, placedShots } from '@/core/reel/reel';
import { inSight, type Sight, xOf } from '@/features/assemble/reelView';

/** A word or an accent of a sheet where it stands on the reel. */
type ReelWord = { readonly frame: number; readonly words: string; readonly isAccent: boolean };

/** Room a word takes, at about its letters' width. */
const LETTER_PX = 6;
const BESIDE_PX = 10;

/** The words and accents an item shows of its sheet, in order. */
const wordsOf = ({ shot, fromFrame, startFrame, endFrame }: PlacedShot): readonly ReelWord[] =>
  shot.notes
    .filter(({ kind, frame }) => kind !== 'note' && frame >= fromFrame && frame < fromFrame + endFrame - startFrame)
    .map(({ kind, frame, words }) => ({ frame: startFrame + frame - fromFrame, words, isAccent: kind === 'accent' }));

/** Those of them that have room beside each other; the others come with a closer look. */
function withRoom(words: readonly ReelWord[], sight: Sight): readonly ReelWord[] {
  let freeFrom = Number.NEGATIVE_INFINITY;
  return words.filter((word) => {
    const x = xOf(word.frame, sight);
    if (x < freeFrom) return false;
    freeFrom = x + word.words.length * LETTER_PX + BESIDE_PX;
    return true;
  });
}

/** Words and accents of the sheets, on their frames above the sounds. */
export function ReelWords({ project, sight }: { project: Project; sight: Sight }) {
  const shots = inSight(placedShots(project), sight);
  const words = useMemo(() => withRoom(shots.flatMap(wordsOf), sight), [shots, sight]);
  if (project.shots.every(({ notes }) => notes.every(({ kind }) => kind === 'note'))) return null;
  return (
    <div className="relative h-4 overflow-hidden" role="img" aria-label="Words and accents of the sheets">
      {words.map(({ frame, words: text, isAccent }) => (
        <span
          key={`${frame} ${text}`}
          className={`absolute top-0 whitespace-nowrap border-l pl-0.5 text-2xs leading-4 ${isAccent ? 'border-teal font-semibold text-teal' : 'border-edge text-soft'}`}
          style={{ left: xOf(frame, sight) }}
        >
          {text}
        </span>
      ))}
    </div>
  );
}
