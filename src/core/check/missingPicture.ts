import type { PictureFacts } from '@/core/analysis/facts';
import type { Finding } from '@/core/check/finding';
import type { Level, Shot } from '@/core/document/model';
import { exposuresOf } from '@/core/sheet/reading';
import { drawingWords } from '@/core/words';

/** Drawings whose picture is not in the store, or is one no longer: they would leave as nothing. */
export function missingPicture(shot: Shot, level: Level, facts: PictureFacts): readonly Finding[] {
  if (facts.troubles.size === 0) return [];
  return level.drawings.flatMap((drawing): Finding[] => {
    const trouble = drawing.picture === null ? undefined : facts.troubles.get(drawing.picture);
    if (!trouble) return [];
    const run = exposuresOf(level, drawing.id)[0];
    const at = { shotId: shot.id, levelId: level.id };
    const fromFrame = run?.startFrame ?? 0;
    return [
      {
        id: `missing ${drawing.id}`,
        kind: 'missing-picture',
        group: 'pictures',
        breaks: level.kind === 'guide' ? null : 'draw-check',
        sentence: `The picture of ${level.kind === 'guide' ? 'guide ' : ''}${drawingWords(level.name, drawing.number)} ${trouble === 'missing' ? 'is not in the store' : 'can’t be read any more'}: it shows nothing until it is drawn or brought in again.`,
        place: { ...at, fromFrame, toFrame: Math.max(fromFrame, (run?.endFrame ?? 1) - 1) },
        fixes: [
          {
            way: 'empty',
            words: `Make ${drawing.number} an empty drawing, to be drawn again`,
            step: { type: 'setPicture', ...at, drawingId: drawing.id, picture: null },
          },
        ],
      },
    ];
  });
}
