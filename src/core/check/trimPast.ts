import type { Finding } from '@/core/check/finding';
import type { Project } from '@/core/document/model';
import { placedShots } from '@/core/reel/reel';
import { plural } from '@/core/time/counts';

/** Items that show frames their shot hasn't: there is paper on the reel where the shot is over. */
export function trimPast(project: Project): readonly Finding[] {
  const first = project.firstFrameNumber;
  return placedShots(project).flatMap(({ item, shot, fromFrame, startFrame, endFrame }): readonly Finding[] => {
    const over = fromFrame + endFrame - startFrame - shot.frames;
    if (item.trim === null || over <= 0) return [];
    const left = shot.frames - fromFrame;
    const lastShown = fromFrame + endFrame - startFrame - 1;
    const whole = {
      way: 'show-whole',
      words: `Show shot ${shot.code} whole, following it`,
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
        sentence: `The reel shows frames ${fromFrame + first} to ${lastShown + first} of shot ${shot.code}, which ends with frame ${shot.frames - 1 + first}: on the last ${plural(Math.min(over, endFrame - startFrame), 'frame')}, up to frame ${endFrame - 1 + first} of the reel, there is paper.`,
        place: { shotId: shot.id, levelId: null, fromFrame: shot.frames - 1, toFrame: shot.frames - 1 },
        fixes: left > 0 ? [shorter, whole] : [whole],
      },
    ];
  });
}
