import type { Finding } from '@/core/check/finding';
import type { Project } from '@/core/document/model';
import { placedItems } from '@/core/reel/reel';
import { plural } from '@/core/time/counts';

/** Items that show frames their shot or clip hasn't: there is paper on the reel where that is over. */
export function trimPast(project: Project): readonly Finding[] {
  const first = project.firstFrameNumber;
  return placedItems(project).flatMap(({ item, source, shot, fromFrame, startFrame, endFrame }): readonly Finding[] => {
    if (!source || item.kind === 'gap' || item.trim === null) return [];
    const over = fromFrame + endFrame - startFrame - source.frames;
    if (over <= 0) return [];
    const left = source.frames - fromFrame;
    const what = shot ? `shot ${source.name}` : `the clip ${source.name}`;
    const lastShown = fromFrame + endFrame - startFrame - 1;
    const whole = {
      way: 'show-whole',
      words: shot ? `Show ${what} whole, following it` : `Show ${what} whole`,
      step: { type: 'trimItem', itemId: item.id, trim: null },
    } as const;
    const shorter = {
      way: 'trim-to-shot',
      words: `Trim it to the ${plural(left, 'frame')} there are`,
      step: { type: 'trimItem', itemId: item.id, trim: { fromFrame, frames: left } },
    } as const;
    return [
      {
        id: `trim-past ${item.id}`,
        kind: 'trim-past',
        group: 'counts',
        breaks: 'check-assemble',
        sentence: `The reel shows frames ${fromFrame + first} to ${lastShown + first} of ${what}, which ends with frame ${source.frames - 1 + first}: on the last ${plural(Math.min(over, endFrame - startFrame), 'frame')}, up to frame ${endFrame - 1 + first} of the reel, there is paper.`,
        place: shot && { shotId: shot.id, levelId: null, fromFrame: shot.frames - 1, toFrame: shot.frames - 1 },
        fixes: left > 0 ? [shorter, whole] : [whole],
      },
    ];
  });
}
