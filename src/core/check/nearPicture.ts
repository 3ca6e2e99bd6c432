import type { PictureFacts } from '@/core/analysis/facts';
import { isNear, type Nearness } from '@/core/analysis/nearness';
import type { Finding } from '@/core/check/finding';
import { shareSteps } from '@/core/check/sameApart';
import type { Drawing, Level, Shot } from '@/core/document/model';
import { placedRuns } from '@/core/sheet/runs';
import { plural } from '@/core/time/counts';
import { drawingWords } from '@/core/words';

const thousandths = ({ changedBlocks, drawnBlocks }: Nearness) => Math.max(1, Math.ceil((changedBlocks * 1000) / drawnBlocks)) / 10;

/** Drawings of a level whose pictures are nearly one: saved again, traced, or with a speck; in a row or apart. */
export function nearPicture(shot: Shot, level: Level, facts: PictureFacts, perMille: number, firstNumber: number): readonly Finding[] {
  if (level.kind === 'still' || perMille === 0 || facts.near.size === 0) return [];
  const shown = new Map<string, { drawing: Drawing; startFrame: number; index: number }>();
  const byId = new Map(level.drawings.map((drawing) => [drawing.id, drawing]));
  placedRuns(level.exposures).forEach((run, index) => {
    const drawing = run.drawing === null ? undefined : byId.get(run.drawing);
    if (drawing?.picture && !shown.has(drawing.picture)) shown.set(drawing.picture, { drawing, startFrame: run.startFrame, index });
  });
  const at = { shotId: shot.id, levelId: level.id };
  const findings: Finding[] = [];
  for (const [key, near] of facts.near) {
    if (!isNear(near, perMille)) continue;
    const [a, b] = key.split(' ').map((digest) => shown.get(digest));
    if (!a || !b) continue;
    const [one, other] = a.startFrame <= b.startFrame ? [a, b] : [b, a];
    const runs = placedRuns(level.exposures);
    const touches = runs[other.index - 1]?.drawing === one.drawing.id;
    const part = near.changedBlocks === 0 ? 'They differ by a shade' : `They differ in ${thousandths(near)} % of what is drawn`;
    findings.push({
      id: `near ${one.drawing.id} ${other.drawing.id}`,
      kind: 'near-picture',
      group: 'repeats',
      breaks: null,
      sentence: `${drawingWords(level.name, one.drawing.number)} and ${other.drawing.number} are nearly the same${touches ? ' and follow each other' : ''}, on frames ${one.startFrame + firstNumber} and ${other.startFrame + firstNumber}. ${part}, by ${plural(near.largestLevels, 'level')} of 255 at most.`,
      place: { ...at, fromFrame: other.startFrame, toFrame: other.startFrame },
      fixes: [
        {
          way: 'share',
          words: touches
            ? `Hold ${one.drawing.number} over both and delete ${other.drawing.number}`
            : `Show ${one.drawing.number} in both places and delete ${other.drawing.number}`,
          step: {
            type: 'together',
            words: `Share ${one.drawing.number} for ${other.drawing.number}`,
            steps: shareSteps(at, level, one.drawing, other.drawing),
          },
        },
      ],
      pair: [one.drawing.picture as string, other.drawing.picture as string],
    });
  }
  return findings.sort((x, y) => (x.place?.fromFrame ?? 0) - (y.place?.fromFrame ?? 0));
}
